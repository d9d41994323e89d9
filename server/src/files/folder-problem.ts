import { closeSync, fsyncSync, openSync, writeSync } from 'node:fs';
import { join } from 'node:path';
import { makeFolders } from '@folvex/press';

/** Says in one sentence why a folder cannot be used; undefined when it can. */
export function folderProblem(folder: string): string | undefined {
  try {
    makeFolders(folder);
    const probe = join(folder, '.probe');
    const descriptor = openSync(probe, 'w');
    writeSync(descriptor, 'x');
    fsyncSync(descriptor);
    closeSync(descriptor);
    return undefined;
  } catch (error) {
    const code = (error as NodeJS.ErrnoException).code ?? 'error';
    return `Folvex cannot write to ${folder} (${code}); give it permission there, or set FOLVEX_DATA to another folder.`;
  }
}
