import {
  composeModels,
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
  type ModelPage,
  type Page,
  type Problem,
  type Resizing,
  type SourceDrawing,
} from '@folvex/core';
import { loadDrawing } from '../drawings/load-drawing';
import { fontsWith } from '../typefaces/own';
import { isHeld, sourceId, type SheetTask } from './sheet-task';

/** A sheet as its recipe prints it, and the drawings that its pictures are in. */
export interface PrintedSheet extends ComposedSheet {
  /** The page inked, on the paper that it is printed on. */
  printed: Page;
  drawings: Drawing[];
}

/** Composes and inks a sheet. Throws a `ProblemError` where a person must fix something. */
export async function composeAndInk(
  task: SheetTask,
  how: Pick<ComposeInput, 'withBlocks'> = {},
): Promise<PrintedSheet> {
  const everything = task.recipe.layers === 'all';
  const sheet = await composed(task, { ...how, everything, ...(task.onto && { onto: task.onto }) });
  return { ...sheet, printed: resized(inked(sheet.page, task), sheet.resizing, task) };
}

function resized(page: Page, resizing: Resizing | undefined, { recipe }: SheetTask): Page {
  return resizing ? resizedPage(page, resizing, recipe.leastWeight) : page;
}

/** A page as a recipe prints it: by its pens, then in its colours. */
export function inked(page: Page, { recipe, schedule, typefaces }: SheetTask): Page {
  const { leastWeight, weightFactor } = recipe;
  const limits = { ...(leastWeight && { least: leastWeight }), ...(weightFactor && { factor: weightFactor }) };
  const lettered = recipe.text === 'strokes' ? strokeLettering(page, fontsWith(typefaces)) : page;
  return inkPage(inkBySchedule(lettered, schedule, limits), recipe.colour);
}

/** What composing a sheet needs, its drawings read. */
interface Sources {
  input: ComposeInput;
  warnings: Problem[];
  drawings: Drawing[];
}

/** Composes; what reading the drawings could not show counts among the warnings. */
export async function composed(
  task: SheetTask,
  how: Pick<ComposeInput, 'everything' | 'onto' | 'enlarged' | 'withBlocks'> = {},
): Promise<ComposedSheet & { drawings: Drawing[] }> {
  const { input, warnings, drawings } = await sourcesOf(task);
  const made = composeSheet({ ...input, ...how });
  return { ...made, warnings: [...warnings, ...made.warnings], drawings };
}

/** What a sheet shows of its drawings, at true size in their coordinates; undefined where it shows none. */
export async function modelsOf(
  task: SheetTask,
  how: Pick<ComposeInput, 'everything' | 'withBlocks'>,
): Promise<ModelPage | undefined> {
  return composeModels({ ...(await sourcesOf(task)).input, ...how });
}

async function sourcesOf(task: SheetTask): Promise<Sources> {
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
  const { project, sheet, context, typefaces } = task;
  const source: ComposeInput['source'] = (id, held) => sources.get(sourceId(id, held));
  const input = { project, sheet, ...(context && { context }), fonts: fontsWith(typefaces), source };
  const open = warnings.filter(({ refersTo }) => refersTo === undefined || !named.has(refersTo.toLowerCase()));
  return { input, warnings: open, drawings: loaded };
}
