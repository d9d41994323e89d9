import { ProblemError } from '@folvex/core';
import type { FileBelow, FoundFile } from './port';

/** A file or folder in a folder. */
export interface Entry extends FoundFile {
  name: string;
  kind: 'file' | 'folder' | 'other';
}

/** A folder with more files, or with folders nested deeper, is refused. */
const [MAX_FILES, MAX_DEPTH] = [5000, 20];

/**
 * Every file in a folder and in the folders below it. `where` names the folder for people; `entriesIn` lists one folder by
 * its path below it, undefined where it does not exist. Rejects with a `ProblemError` where the folder itself does not
 * exist, or holds too much.
 */
export async function filesBelow(
  where: string,
  entriesIn: (folder: string) => Promise<readonly Entry[] | undefined>,
): Promise<FileBelow[]> {
  const files: FileBelow[] = [];
  const walk = async (folder: string, depth: number): Promise<void> => {
    const entries = await entriesIn(folder);
    // A folder below it may have been removed in the meantime.
    if (!entries && folder === '') throw absent(where);
    for (const { name, kind, bytes, writtenAt } of entries ?? []) {
      const path = folder === '' ? name : `${folder}/${name}`;
      if (kind === 'file') files.push({ path, bytes, writtenAt });
      if (files.length > MAX_FILES || depth > MAX_DEPTH) throw tooMuch(where);
      // Servers list the folder itself and the one above it among its entries.
      if (kind === 'folder' && name !== '.' && name !== '..') await walk(path, depth + 1);
    }
  };
  await walk('', 0);
  return files;
}

/** The same for a service that lists files with their whole paths. */
export async function listedBelow(where: string, files: AsyncIterable<FileBelow>): Promise<FileBelow[]> {
  const found: FileBelow[] = [];
  for await (const file of files) {
    // A key with a slash at its end stands for a folder.
    if (!file.path.endsWith('/')) found.push(file);
    if (found.length > MAX_FILES) throw tooMuch(where);
  }
  return found;
}

function absent(where: string): ProblemError {
  const sentence = `There is no folder ${where}; create it there, or choose another one in Settings → Inboxes.`;
  return new ProblemError({ code: 'inbox.folder', sentence, place: {} });
}

function tooMuch(where: string): ProblemError {
  const sentence = `${where} holds more than ${MAX_FILES} files, or folders nested more than ${MAX_DEPTH} deep; move older files elsewhere.`;
  return new ProblemError({ code: 'inbox.large', sentence, place: {} });
}
