import { existsSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { sha256 } from '@folvex/press';
import { ownFolder } from '../../../scripts/lib/own-folder.mjs';
import { createFolderStore, folderProblem } from '../../src/files/store';

const folder = ownFolder('folvex-store-');
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);

describe('the store', () => {
  const store = createFolderStore(join(folder, 'store'));

  it('keeps content under its hash, once', async () => {
    const hash = await store.put(bytes('a wall'));
    expect(hash).toBe(sha256('a wall'));
    expect(await store.put(bytes('a wall'))).toBe(hash);
    expect((await store.read(hash)).toString()).toBe('a wall');
    expect(store.path(hash)).toContain(join(hash.slice(0, 2), hash.slice(2, 4), hash));
    expect(await store.has(hash)).toBe(true);
    expect(await store.has(sha256('something else'))).toBe(false);
  });

  it('is closed to other people on the machine', () => {
    expect(statSync(join(folder, 'store')).mode & 0o777).toBe(0o700);
  });

  it('tells content that was damaged on its disk', async () => {
    const hash = await store.put(bytes('a roof'));
    writeFileSync(store.path(hash), 'a root');
    await expect(store.read(hash)).rejects.toThrow(`something else under ${hash}`);
  });

  it('takes in files that others wrote, and drops what it holds already', async () => {
    const file = join(store.workFolder, 'made');
    for (let i = 0; i < 2; i++) {
      writeFileSync(file, 'a part');
      store.adopt(file, sha256('a part'));
      expect(existsSync(file)).toBe(false);
    }
    expect((await store.read(sha256('a part'))).toString()).toBe('a part');
  });

  it('shows a file only once it is whole', () => {
    const { file, keep } = store.createFile();
    file.write(bytes('half of it, '));
    file.write(bytes('and the rest'));
    const place = store.path(sha256('half of it, and the rest'));
    expect(existsSync(place)).toBe(false);
    keep();
    expect(readFileSync(place, 'utf8')).toBe('half of it, and the rest');
  });

  it('leaves nothing of what was given up', () => {
    const before = readdirSync(store.workFolder).length;
    const { file, discard } = store.createFile();
    file.write(bytes('never mind'));
    discard();
    expect(readdirSync(store.workFolder)).toHaveLength(before);
  });

  it.each(['', 'abc', '../../etc/passwd', 'G'.repeat(64)])('knows that %j is not a hash', (hash) => {
    expect(() => store.path(hash)).toThrow('not a SHA-256');
  });
});

describe('a data folder', () => {
  it('that can be written to gives no problem', () => {
    expect(folderProblem(join(folder, 'new', 'one'))).toBeUndefined();
  });

  it('that cannot be made is told in one sentence', () => {
    writeFileSync(join(folder, 'file'), '');
    expect(folderProblem(join(folder, 'file', 'below'))).toMatch(
      /^Folvex cannot write to .*file\/below \(ENOTDIR\); give it/,
    );
  });
});
