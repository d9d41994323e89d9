// Starts the stand-ins on loopback and runs them until it is stopped.
import { join, dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { ensureNpm } from './lib/packages.mjs';
import { runMain } from './lib/say.mjs';

const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));

await runMain(async () => {
  await ensureNpm(ROOT);
  const { buildNode } = await import('./build-node.mjs');
  await buildNode();
  await import(join(ROOT, 'dist', 'stand-ins.mjs'));
});
