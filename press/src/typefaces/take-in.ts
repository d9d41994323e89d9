import { readFileSync } from 'node:fs';
import { ProblemError, type Outcome } from '@folvex/core';
import { writtenTo, type WrittenFile } from '../files/whole-file';
import { openTypefaces, type OpenedTypeface } from './open';

/** A file of typefaces that came in. */
export interface TypefacesTask {
  name: string;
  path: string;
  /** Folder for the results. */
  folder: string;
}

/** A typeface as a file of its own. */
export type TakenTypeface = Omit<OpenedTypeface, 'bytes'> & WrittenFile;

/** Writes the typefaces in a file, each as one of its own, uncompressed. */
export async function takeInTypefaces({ name, path, folder }: TypefacesTask): Promise<Outcome<TakenTypeface[]>> {
  try {
    const opened = await openTypefaces(readFileSync(path), name);
    const value = opened.map(({ bytes, ...typeface }): TakenTypeface => ({ ...typeface, ...writtenTo(folder, bytes) }));
    return { ok: true, value };
  } catch (error) {
    if (error instanceof ProblemError) return { ok: false, problem: error.problem };
    throw error;
  }
}
