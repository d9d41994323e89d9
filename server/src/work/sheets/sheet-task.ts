import {
  sheetInputs,
  sourcesShown,
  titleDrawings,
  type ProjectFacts,
  type Sheet,
  type SheetInputs,
} from '@folvex/core';
import { sha256, sourceId, type SheetTask } from '@folvex/press';
import { withReferredDrawings, type DrawingSource } from '../../data/drawings';
import type { Store } from '../../files/store';
import { typefaceFiles } from '../projects/typeface-files';
import type { RunInput } from '../../model/run-input';

/** The drawings that sheets show, with those that these refer to. */
export function drawingsOf(
  sheets: readonly Sheet[],
  project: ProjectFacts,
  drawings: readonly DrawingSource[],
): DrawingSource[] {
  const shown = new Set(
    sheets.flatMap((sheet) => [
      ...sourcesShown(sheet).map(({ drawing, held }) => sourceId(drawing, held)),
      ...titleDrawings(project, sheet),
    ]),
  );
  return withReferredDrawings(drawings, shown);
}

/** What a sheet is made from: its inputs, and the drawings that it shows. */
export interface SheetInput extends SheetInputs {
  drawings: DrawingSource[];
}

/** What a sheet is made from, out of all drawings of its project. */
export function sheetInput(inputs: SheetInputs, drawings: readonly DrawingSource[]): SheetInput {
  return { ...inputs, drawings: drawingsOf([inputs.sheet], inputs.project, drawings) };
}

/** What a sheet of a run is made from, as the run was begun. */
export function inputOfSheet(input: RunInput, position: number): SheetInput {
  const sheet = input.sheets[position]!;
  return sheetInput(sheetInputs(input, sheet, input.contexts?.[sheet.id] ?? {}), input.drawings);
}

/** The task that makes a sheet, with the files that it needs from the store. */
export async function sheetTask(store: Store, input: SheetInput): Promise<SheetTask> {
  const drawings = input.drawings.map(async ({ id, name, hash, unit }) => {
    return { id, name, hash, path: await store.localFile(hash), unit: unit ?? undefined };
  });
  return {
    ...input,
    typefaces: await typefaceFiles(store, input.project),
    drawings: await Promise.all(drawings),
  };
}

/** Identifies everything that a sheet is made from; the code that makes it is not part of it. */
export function inputHash({
  project,
  sheet,
  context,
  recipe,
  schedule,
  tiling,
  onto,
  drawings: used,
}: SheetInput): string {
  const drawings = used.map(({ id, name, hash, unit }) => ({ id, name, hash, unit: unit ?? null }));
  const input = { project, sheet, context: context ?? {}, recipe, schedule, tiling, onto, drawings };
  return sha256(JSON.stringify(input, sorted));
}

/** The same whatever order its properties came in: the database has one of its own. */
function sorted(_: string, value: unknown): unknown {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return value;
  return Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)));
}
