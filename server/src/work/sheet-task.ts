import {
  layingOf,
  recipeOfPage,
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
import type { RunInput } from './run-input';

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

/** The task that makes a sheet of a run, as the run was begun. */
export function taskOfSheet(store: Store, input: RunInput, position: number): SheetTask {
  const { project, package: pack, sheets, contexts, recipe, drawings } = input;
  const sheet = sheets[position]!;
  // Runs of an earlier version kept no contexts.
  const context = contexts?.[sheet.id] ?? {};
  const own = recipeOfPage(recipe, pack, sheet.id);
  return sheetTask(store, project, sheet, context, own, drawings, layingOf(pack, sheet.id, project));
}

/** Identifies everything that a sheet is made from, wherever the store lies. */
export function inputHash(task: SheetTask): string {
  const { project, sheet, context, recipe, schedule, tiling, onto } = task;
  const drawings = task.drawings.map(({ id, name, hash, unit }) => ({ id, name, hash, unit: unit ?? null }));
  const input = { engine: ENGINE, project, sheet, context: context ?? {}, recipe, schedule, tiling, onto, drawings };
  return sha256(JSON.stringify(input, sorted));
}

/** The same whatever order its properties came in: the database has one of its own. */
function sorted(_: string, value: unknown): unknown {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return value;
  return Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)));
}
