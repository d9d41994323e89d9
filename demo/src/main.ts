import { mkdirSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { demoFiles } from './files';

/** Draws the demo anew into a folder. */
export function drawDemo(folder: string): void {
  for (const [path, text] of Object.entries(demoFiles())) {
    const file = join(folder, path);
    mkdirSync(dirname(file), { recursive: true });
    writeFileSync(file, text);
    console.log(`${path}  ${text.length} characters`);
  }
}
