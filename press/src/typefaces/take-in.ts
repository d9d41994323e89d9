import { readFileSync } from 'node:fs';
import { ProblemError, type Outcome } from '@folvex/core';
import { WholeFile } from '../files/whole-file';
import { openTypefaces, type OpenedTypeface } from './open';

/** A file of typefaces that came in. */
export interface TypefacesTask {
  name: string;
  path: string;
  /** Folder for the results. */
  folder: string;
}

/** A typeface as a file of its own. */
export interface TakenTypeface extends Omit<OpenedTypeface, 'bytes'> {
  /** Path of the finished, synced bytes; the caller gives them their place. */
  temporary: string;
  hash: string;
}

/** Writes the typefaces in a file, each as one of its own, uncompressed. */
export async function takeInTypefaces({ name, path, folder }: TypefacesTask): Promise<Outcome<TakenTypeface[]>> {
  try {
    const opened = await openTypefaces(readFileSync(path), name);
    const value = opened.map(({ bytes, ...typeface }): TakenTypeface => {
      const file = new WholeFile(folder);
      file.write(bytes);
      return { ...typeface, hash: file.sync(), temporary: file.temporary };
    });
    return { ok: true, value };
  } catch (error) {
    if (error instanceof ProblemError) return { ok: false, problem: error.problem };
    throw error;
  }
}
