import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { sourceHashes } from '../lib/source-hashes.mjs';

let root: string;

/** Writes a source of a small checkout. */
function source(path: string, text: string): void {
  mkdirSync(dirname(join(root, path)), { recursive: true });
  writeFileSync(join(root, path), text);
}

const hashes = () => sourceHashes(root, { name: 'none', setup: () => undefined });

/** The kinds whose hash is another one after a change. */
async function changedBy(change: () => void): Promise<string[]> {
  const before: Record<string, string> = await hashes();
  change();
  const after: Record<string, string> = await hashes();
  return Object.keys(before).filter((kind) => before[kind] !== after[kind]);
}

beforeEach(() => {
  root = mkdtempSync(join(tmpdir(), 'folvex-hashes-'));
  source('core/package.json', '{ "name": "core", "dependencies": { "fonts": "1.0.0" } }');
  source('press/package.json', '{ "name": "press" }');
  source('core/src/ink.ts', 'export const ink = 1;');
  source('core/src/read.ts', 'export const read = 1;');
  source('core/src/unused.ts', 'export const unused = 1;');
  source('press/src/sheet/make-page.ts', "export { ink } from '../../../core/src/ink';");
  source('press/src/make-sheet.ts', "export { ink as sheet } from './sheet/make-page'; export const made = 1;");
  source('press/src/drawings/changes.ts', "export { read as changes } from '../../../core/src/read';");
  source('press/src/drawings/view.ts', "export { read as view } from '../../../core/src/read';");
});

afterEach(() => rmSync(root, { recursive: true, force: true }));

describe('the hash of the sources that make something', () => {
  it('is the same for the same sources, wherever they are', async () => {
    const first = await hashes();
    for (const hash of Object.values(first)) expect(hash).toMatch(/^[0-9a-f]{16}$/);
    expect(await hashes()).toEqual(first);
  });

  it('becomes another one with any source that the thing is built from, however far away', async () => {
    expect(await changedBy(() => source('core/src/ink.ts', 'export const ink = 2;'))).toEqual(['sheet', 'page']);
    expect(await changedBy(() => source('core/src/read.ts', 'export const read = 2;'))).toEqual(['changes', 'space']);
    const sheet = "export { ink as sheet } from './sheet/make-page'; export const made = 2;";
    expect(await changedBy(() => source('press/src/make-sheet.ts', sheet))).toEqual(['sheet']);
  });

  it('stays with a change of what is not part of it', async () => {
    expect(await changedBy(() => source('core/src/unused.ts', 'export const unused = 2;'))).toEqual([]);
    expect(await changedBy(() => source('core/README.md', 'Ink and paper.'))).toEqual([]);
  });

  it('becomes another one with other versions of packages, fonts among them', async () => {
    const newer = '{ "name": "core", "dependencies": { "fonts": "1.0.1" } }';
    expect(await changedBy(() => source('core/package.json', newer))).toEqual(['sheet', 'page', 'changes', 'space']);
  });
});
