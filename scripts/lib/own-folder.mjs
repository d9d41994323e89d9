import { chmodSync, mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** A new folder for temporary data, which the database's user may enter too. */
export function ownFolder(prefix) {
  const folder = mkdtempSync(join(tmpdir(), prefix));
  chmodSync(folder, 0o755);
  return folder;
}
