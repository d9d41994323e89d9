import * as fs from 'node:fs';
import { dirname, join } from 'node:path';
import { jest } from '@jest/globals';
import { ownFolder } from '../../../scripts/lib/own-folder.mjs';

/** What a disk still has after a power failure: bytes of files and names in folders, each only once it was synced. */
class Disk {
  private readonly opened = new Map<number, string>();
  private readonly syncedBytes = new Set<string>();
  private readonly pendingNames = new Set<string>();

  readonly calls = {
    openSync: (path: string, ...rest: [string?, number?]): number => {
      const descriptor = (fs.openSync as (...all: unknown[]) => number)(path, ...rest);
      this.opened.set(descriptor, path);
      return descriptor;
    },
    fsyncSync: (descriptor: number): void => {
      fs.fsyncSync(descriptor);
      const path = this.opened.get(descriptor)!;
      this.syncedBytes.add(path);
      for (const name of this.pendingNames) if (dirname(name) === path) this.pendingNames.delete(name);
    },
    mkdirSync: (path: string, options?: fs.MakeDirectoryOptions): string | undefined => {
      this.pendingNames.add(path);
      return fs.mkdirSync(path, options);
    },
    renameSync: (from: string, to: string): void => {
      fs.renameSync(from, to);
      if (this.syncedBytes.delete(from)) this.syncedBytes.add(to);
      this.pendingNames.add(to);
    },
  };

  /** Whether a file below a folder outlasts a power failure now. */
  keeps(path: string, folder: string): boolean {
    if (!this.syncedBytes.has(path)) return false;
    for (let at = path; at !== folder; at = dirname(at)) if (this.pendingNames.has(at)) return false;
    return true;
  }
}

it('what was put into the store, or taken into it, outlasts a power failure', async () => {
  const folder = ownFolder('folvex-power-');
  const disk = new Disk();
  jest.unstable_mockModule('node:fs', () => ({ ...fs, ...disk.calls }));
  const { createFolderStore } = await import('../../src/files/folder-store');
  const { sha256, writtenTo } = await import('@folvex/press');
  const store = createFolderStore(folder);
  const put = await store.put(Buffer.from('a wall'));
  expect(disk.keeps(await store.localFile(put), folder)).toBe(true);

  const made = sha256('a part');
  await store.adopt(writtenTo(store.workFolder, Buffer.from('a part')).temporary, made);
  expect(disk.keeps(await store.localFile(made), folder)).toBe(true);

  // The disk knows the difference.
  fs.writeFileSync(join(store.workFolder, 'unsynced'), 'a roof');
  await store.adopt(join(store.workFolder, 'unsynced'), sha256('a roof'));
  expect(disk.keeps(await store.localFile(sha256('a roof')), folder)).toBe(false);
  fs.rmSync(folder, { recursive: true, force: true });
});
