import { spawnSync } from 'node:child_process';
import { readdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { lockFolder } from '../lib/folder-lock.mjs';
import { ownFolder } from '../lib/own-folder.mjs';

const LOCK = 'folvex.lock';

describe('the lock of a data folder', () => {
  const folder = ownFolder('folvex-lock-');
  afterAll(() => rmSync(folder, { recursive: true, force: true }));

  it('is held by one process, which is named, until that gives it up', () => {
    const unlock = lockFolder(folder, 'http://127.0.0.1:1');
    expect(() => lockFolder(folder)).toThrow(
      `Another Folvex (process ${process.pid}, at http://127.0.0.1:1) already works in ${folder}`,
    );
    unlock();
    expect(readdirSync(folder)).toEqual([]);
    lockFolder(folder)();
  });

  it('of a process that is gone is taken over, even where its number is used again', () => {
    const { pid } = spawnSync(process.execPath, ['-e', '']);
    for (const dead of [
      { pid, started: 1 },
      { pid: process.pid, started: 1 },
    ]) {
      writeFileSync(join(folder, LOCK), JSON.stringify(dead));
      lockFolder(folder)();
    }
    writeFileSync(join(folder, LOCK), 'half writ');
    lockFolder(folder)();
    expect(readdirSync(folder)).toEqual([]);
  });

  it('says why a folder cannot be used', () => {
    expect(() => lockFolder('/proc/folvex')).toThrow('Folvex cannot write to the folder /proc/folvex (ENOENT)');
    expect(() => lockFolder('/dev/null/folvex')).toThrow(
      'Folvex cannot write to the folder /dev/null/folvex (ENOTDIR)',
    );
  });
});
