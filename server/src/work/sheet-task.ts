import {
  schedulesOf,
  sourcesShown,
  titleDrawings,
  type ProjectFacts,
  type Recipe,
  type Sheet,
  type SheetContext,
} from '@folvex/core';
import { sha256, sourceId, type SheetTask } from '@folvex/press';
import { withReferred, type DrawingSource } from '../data/drawings';
import type { Store } from '../files/store';

/** Raised when composing or writing changes what comes out, so that nothing older is taken for it. */
export const ENGINE = 20;

/** The task that makes a sheet, with the drawings it shows taken from the store. */
export function sheetTask(
  store: Store,
  project: ProjectFacts,
  sheet: Sheet,
  context: SheetContext,
  recipe: Recipe,
  drawings: readonly DrawingSource[],
  { tiling, onto }: Pick<SheetTask, 'tiling' | 'onto'> = {},
): SheetTask {
  const shown = new Set([
    ...sourcesShown(sheet).map(({ drawing, held }) => sourceId(drawing, held)),
    ...titleDrawings(project, sheet),
  ]);
  const used = withReferred(drawings, shown);
  // What a sheet is not made from must not make it anew.
  const made = { ...project };
  delete made.penSchedules;
  delete made.namings;
  const schedule = schedulesOf(project).find(({ id }) => id === recipe.pens);
  return {
    project: made,
    sheet,
    context,
    recipe,
    ...(schedule && { schedule }),
    ...(tiling && { tiling }),
    ...(onto && { onto }),
    drawings: used.map(({ id, name, hash, unit }) => ({
      id,
      name,
      hash,
      path: store.path(hash),
      unit: unit ?? undefined,
    })),
  };
}

/** Identifies everything that a sheet is made from, wherever the store lies. */
export function inputHash(task: SheetTask): string {
  const { project, sheet, context, recipe, schedule, tiling, onto } = task;
  const drawings = task.drawings.map(({ id, name, hash, unit }) => ({ id, name, hash, unit: unit ?? null }));
  return sha256(
    JSON.stringify({
      engine: ENGINE,
      project,
      sheet,
      context: context ?? {},
      recipe,
      schedule,
      tiling,
      onto,
      drawings,
    }),
  );
}
