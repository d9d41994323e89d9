import { ProblemError } from '@folvex/core';
import type { FileBelow, FoundFile } from './port';

/** A file or folder in a folder. */
export interface Entry extends FoundFile {
  name: string;
  kind: 'file' | 'folder' | 'other';
}

/** More are not looked through, nor deeper ones. */
const [MAX_FILES, MAX_DEPTH] = [5000, 20];

/**
 * Every file in a folder and in those below it, by its path with slashes. `entriesIn`: what is in one of them, undefined
 * where there is no such folder; `where`: the first one, for people. Rejects with a `ProblemError` where that is not there
 * or holds too much.
 */
export async function filesBelow(
  where: string,
  entriesIn: (folder: string) => Promise<readonly Entry[] | undefined>,
): Promise<FileBelow[]> {
  const files: FileBelow[] = [];
  const walk = async (folder: string, depth: number): Promise<void> => {
    const entries = await entriesIn(folder);
    // One below it may have been removed meanwhile.
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

/** The same from files that a service lists with their paths. */
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
  const sentence = `There is no folder ${where}; create it there, or enter another one in the settings of the inbox.`;
  return new ProblemError({ code: 'inbox.folder', sentence, place: {} });
}

function tooMuch(where: string): ProblemError {
  const sentence = `${where} holds more than ${MAX_FILES} files, or folders nested more than ${MAX_DEPTH} deep; move what is old out of it.`;
  return new ProblemError({ code: 'inbox.large', sentence, place: {} });
}
