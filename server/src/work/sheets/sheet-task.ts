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

/** The task that makes a sheet, with the drawings it shows taken from the store. */
export function sheetTask(store: Store, inputs: SheetInputs, drawings: readonly DrawingSource[]): SheetTask {
  const used = drawingsOf([inputs.sheet], inputs.project, drawings);
  return {
    ...inputs,
    typefaces: typefaceFiles(store, inputs.project),
    drawings: used.map(({ id, name, hash, unit }) => ({
      id,
      name,
      hash,
      path: store.path(hash),
      unit: unit ?? undefined,
    })),
  };
}

/** The task that makes a sheet of a run, as the run was begun. */
export function taskOfSheet(store: Store, input: RunInput, position: number): SheetTask {
  const sheet = input.sheets[position]!;
  return sheetTask(store, sheetInputs(input, sheet, input.contexts?.[sheet.id] ?? {}), input.drawings);
}

/** Identifies everything that a sheet is made from, wherever the store is; the code that makes it is not part of it. */
export function inputHash(task: SheetTask): string {
  const { project, sheet, context, recipe, schedule, tiling, onto } = task;
  const drawings = task.drawings.map(({ id, name, hash, unit }) => ({ id, name, hash, unit: unit ?? null }));
  const input = { project, sheet, context: context ?? {}, recipe, schedule, tiling, onto, drawings };
  return sha256(JSON.stringify(input, sorted));
}

/** The same whatever order its properties came in: the database has one of its own. */
function sorted(_: string, value: unknown): unknown {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return value;
  return Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)));
}
