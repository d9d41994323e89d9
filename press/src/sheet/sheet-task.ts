import {
  nameOf,
  ProblemError,
  type Outcome,
  type PaperPlacement,
  type PenSchedule,
  type ProjectFacts,
  type Recipe,
  type Sheet,
  type SheetContext,
  type Tiling,
} from '@folvex/core';
import type { DrawingFile } from '../drawings/load-drawing';
import type { TypefaceFile } from '../typefaces/own';
import { storageProblem } from '../files/storage-problem';

/** One sheet to make, with everything it is made from. */
export interface SheetTask {
  project: ProjectFacts;
  sheet: Sheet;
  /** What it shows of the sheets and the package around it. */
  context?: SheetContext;
  recipe: Recipe;
  /** The pens of the recipe; absent: lines print as they are drawn. */
  schedule?: PenSchedule;
  /** Has sheets larger than a paper go on several pages of it. */
  tiling?: Tiling;
  /** How it is put on paper; absent: it is printed as it is. */
  onto?: PaperPlacement;
  drawings: DrawingFile[];
  /** Files of the project's typefaces. */
  typefaces?: TypefaceFile[];
  /** Files that the drawings may refer to by name; read where they do. */
  referable?: DrawingFile[];
}

/** A character that no id has. */
const HELD = '\u001f';

/** Id by which a drawing file is listed: that of a held version carries its number. */
export function sourceId(drawing: string, held?: number): string {
  return held === undefined ? drawing : `${drawing}${HELD}${held}`;
}

/** True for the id of a held version. */
export function isHeld(id: string): boolean {
  return id.includes(HELD);
}

/** The result of work on a sheet; what a person must fix, and any failure, comes back as a problem. */
export async function attempt<T>(task: SheetTask, make: () => Promise<T>): Promise<Outcome<T>> {
  const place = { sheet: nameOf(task.sheet) };
  try {
    return { ok: true, value: await make() };
  } catch (error) {
    if (error instanceof ProblemError) {
      return { ok: false, problem: { ...error.problem, place: { ...error.problem.place, ...place } } };
    }
    const trouble = storageProblem(error);
    if (trouble) return { ok: false, problem: { ...trouble, place } };
    const reason = error instanceof Error ? error.message : String(error);
    const sentence = `Sheet ${place.sheet} could not be made (${reason}); try again, and report it if it stays so.`;
    return { ok: false, problem: { code: 'sheet.failed', sentence, place } };
  }
}
