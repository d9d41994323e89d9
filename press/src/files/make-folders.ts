import { closeSync, fsyncSync, mkdirSync, openSync, statSync } from 'node:fs';
import { dirname } from 'node:path';

/**
 * Creates a folder and those above it, so that they outlast a power failure. Unlike Node's recursive `mkdir`, which never
 * returns on file systems that allow no new folder (`/proc`), it fails with the system's error.
 */
export function makeFolders(folder: string): void {
  const missing: string[] = [];
  for (let at = folder; statSync(at, { throwIfNoEntry: false }) === undefined; at = dirname(at)) missing.unshift(at);
  for (const path of missing) {
    try {
      mkdirSync(path);
    } catch (error) {
      // Another process was quicker.
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
    }
    syncFolder(dirname(path));
  }
}

/** What systems answer that cannot open a folder, or sync one: Windows, some shares. */
const NO_SYNC = new Set(['EISDIR', 'EPERM', 'EACCES', 'EINVAL', 'ENOTSUP', 'EOPNOTSUPP', 'EBADF']);

/** Makes the names in a folder outlast a power failure (POSIX `fsync` of a directory). */
export function syncFolder(folder: string): void {
  let descriptor: number | undefined;
  try {
    descriptor = openSync(folder, 'r');
    fsyncSync(descriptor);
  } catch (error) {
    if (!NO_SYNC.has((error as NodeJS.ErrnoException).code ?? '')) throw error;
  } finally {
    if (descriptor !== undefined) closeSync(descriptor);
  }
}
