import { mkdirSync, statSync } from 'node:fs';
import { dirname } from 'node:path';

/** Creates a folder and those above it; fails where Node's recursive `mkdir` never returns (`/proc`). */
export function makeFolders(folder) {
  if (statSync(folder, { throwIfNoEntry: false })) return;
  makeFolders(dirname(folder));
  mkdirSync(folder);
}
