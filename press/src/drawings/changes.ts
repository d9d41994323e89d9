import {
  changesPage,
  compareDrawings,
  packPage,
  ProblemError,
  type Drawing,
  type DrawingChanges,
  type Outcome,
} from '@folvex/core';
import { loadDrawing, type DrawingFile } from './load-drawing';
import { shippedFonts } from '../typefaces/shipped';

type Version = Pick<DrawingFile, 'name' | 'path' | 'hash'>;

export interface ChangesTask {
  before: Version;
  after: Version;
}

export interface FoundChanges {
  changes: DrawingChanges;
  /** Packed page that shows both versions over each other; null where nothing is visible. */
  picture: Uint8Array<ArrayBuffer> | null;
}

/** Compares two versions of a drawing. */
export async function changesOf({ before, after }: ChangesTask): Promise<Outcome<FoundChanges>> {
  try {
    const [one, other] = [await drawing(before), await drawing(after)];
    const { changes, model } = compareDrawings(one, other, shippedFonts());
    const page = changesPage(one, other, model, changes, shippedFonts());
    return { ok: true, value: { changes, picture: page ? packPage(page) : null } };
  } catch (error) {
    if (error instanceof ProblemError) return { ok: false, problem: error.problem };
    throw error;
  }
}

async function drawing(version: Version): Promise<Drawing> {
  const read = await loadDrawing(version);
  if (!read.ok) throw new ProblemError(read.problem);
  return read.drawing;
}
