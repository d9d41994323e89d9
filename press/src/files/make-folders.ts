import { mkdirSync, statSync } from 'node:fs';
import { dirname } from 'node:path';

/**
 * Creates a folder and those above it. Unlike Node's recursive `mkdir`, which never returns on file systems that allow
 * no new folder (`/proc`), it fails with the system's error.
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
  }
}
