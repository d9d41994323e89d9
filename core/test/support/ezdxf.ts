import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

/**
 * Runs a script of this folder, which reads or writes DXF files with ezdxf, a library from Debian's packages that shares
 * nothing with this project. Returns what the script prints.
 */
export function runScript(script: string, ...args: readonly string[]): string {
  const path = fileURLToPath(new URL(script, import.meta.url));
  return execFileSync('/usr/bin/python3', [path, ...args], { encoding: 'utf8', maxBuffer: 1 << 28 });
}

/** A new folder, which is deleted after the tests of the block that asks for it. */
export function temporaryFolder(): string {
  const folder = mkdtempSync(join(tmpdir(), 'folvex-test-'));
  afterAll(() => rmSync(folder, { recursive: true, force: true }));
  return folder;
}

export function bytesAt(path: string): Uint8Array {
  return new Uint8Array(readFileSync(path));
}

/** The file that a script draws, and what it prints about it as JSON. */
export function drawnBy<Facts>(script: string): { bytes: Uint8Array; facts: Facts } {
  const file = join(temporaryFolder(), 'drawn.dxf');
  const printed = runScript(script, file);
  return { bytes: bytesAt(file), facts: JSON.parse(printed || 'null') as Facts };
}
