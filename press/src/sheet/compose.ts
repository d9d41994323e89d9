import {
  composeSheet,
  inkBySchedule,
  inkPage,
  ProblemError,
  resizedPage,
  strokeLettering,
  withReferences,
  type ComposedSheet,
  type ComposeInput,
  type Drawing,
  type LengthUnit,
  type Page,
  type Problem,
  type Resizing,
  type SourceDrawing,
} from '@folvex/core';
import { loadDrawing } from '../drawings/load-drawing';
import { shippedFonts } from '../pdf/fonts';
import { isHeld, sourceId, type SheetTask } from './sheet-task';

/** A sheet as its recipe prints it, and the drawings that its pictures are in. */
export interface PrintedSheet extends ComposedSheet {
  /** The page inked, on the paper that it is printed on. */
  printed: Page;
  drawings: Drawing[];
}

/** Composes and inks a sheet. Throws a `ProblemError` where a person must fix something. */
export async function composeAndInk(task: SheetTask): Promise<PrintedSheet> {
  const everything = task.recipe.layers === 'all';
  const sheet = await composed(task, { everything, ...(task.onto && { onto: task.onto }) });
  return { ...sheet, printed: resized(inkedByRecipe(sheet.page, task), sheet.resizing, task) };
}

function resized(page: Page, resizing: Resizing | undefined, { recipe }: SheetTask): Page {
  return resizing ? resizedPage(page, resizing, recipe.leastWeight) : page;
}

/** A page as a recipe prints it: by its pens, then in its colours. */
function inkedByRecipe(page: Page, { recipe, schedule }: SheetTask): Page {
  const { leastWeight, weightFactor } = recipe;
  const limits = { ...(leastWeight && { least: leastWeight }), ...(weightFactor && { factor: weightFactor }) };
  const lettered = recipe.text === 'strokes' ? strokeLettering(page, shippedFonts()) : page;
  return inkPage(inkBySchedule(lettered, schedule, limits), recipe.colour);
}

/** Composes; what reading the drawings could not show counts among the warnings. */
export async function composed(
  task: SheetTask,
  how: Pick<ComposeInput, 'everything' | 'onto'> = {},
): Promise<ComposedSheet & { drawings: Drawing[] }> {
  const sources = new Map<string, SourceDrawing>();
  const warnings: Problem[] = [];
  const loaded: Drawing[] = [];
  /** The latest versions by name (lower case): what refers to a file by name means those. */
  const named = new Map<string, Drawing>();
  const waiting = [...task.drawings];
  for (let file = waiting.shift(); file; file = waiting.shift()) {
    const read = await loadDrawing(file);
    if (!read.ok) throw new ProblemError(read.problem);
    warnings.push(...read.warnings);
    const { drawing } = read;
    sources.set(file.id, { drawing, unit: (file.unit as LengthUnit | undefined) ?? drawing.unit });
    loaded.push(drawing);
    if (!isHeld(file.id)) named.set(drawing.name.toLowerCase(), drawing);
    for (const name of drawing.references.map((reference) => reference.toLowerCase())) {
      const other = task.referable?.find((one) => one.name.toLowerCase() === name);
      if (other && !sources.has(other.id) && !waiting.includes(other)) waiting.push(other);
    }
  }
  for (const source of sources.values()) {
    source.drawing = withReferences(source.drawing, (name) => named.get(name.toLowerCase()));
  }
  const { project, sheet, context } = task;
  const made = composeSheet({
    project,
    sheet,
    ...(context && { context }),
    ...how,
    fonts: shippedFonts(),
    source: (id, held) => sources.get(sourceId(id, held)),
  });
  return { ...made, warnings: [...warnings, ...made.warnings], drawings: loaded };
}
