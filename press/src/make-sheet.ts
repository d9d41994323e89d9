import { performance } from 'node:perf_hooks';
import {
  composeSheet,
  inkPage,
  packPage,
  packPart,
  ProblemError,
  writePart,
  type ComposedSheet,
  type LengthUnit,
  type Outcome,
  type Problem,
  type ProjectFacts,
  type Recipe,
  type Sheet,
  type SourceDrawing,
} from '@folvex/core';
import { loadDrawing, type DrawingFile } from './drawings';
import { WholeFile } from './files';
import { shippedFonts } from './fonts';
import { deflate } from './tools';

/** One sheet to make, with everything it is made from. */
export interface SheetTask {
  project: ProjectFacts;
  sheet: Sheet;
  recipe: Recipe;
  drawings: DrawingFile[];
}

/** A sheet to make into a part, and the folder that the part is put into. */
export interface PartTask extends SheetTask {
  folder: string;
}

export interface MadePart {
  /** Where the packed part lies, synced; the caller gives it its place. */
  temporary: string;
  /** SHA-256 of the packed part. */
  hash: string;
  /** What making it took. */
  milliseconds: number;
  warnings: Problem[];
}

export interface MadePage {
  /** Packed page, uninked. */
  page: Uint8Array<ArrayBuffer>;
  paper: { width: number; height: number };
  /** Scales of the views, as paper over real length. */
  scales: number[];
  warnings: Problem[];
}

/** Composes, inks and writes a sheet into a file; what a person must mend comes back as a problem. */
export function makePart(task: PartTask): Outcome<MadePart> {
  return attempt(task, () => {
    const start = performance.now();
    const { page, warnings } = composed(task);
    const inked = inkPage(page, task.recipe.colour);
    const part = writePart(inked, shippedFonts(), task.recipe.layers === 'shown', deflate);
    const file = new WholeFile(task.folder);
    file.write(packPart(part));
    const hash = file.sync();
    return { temporary: file.temporary, hash, milliseconds: performance.now() - start, warnings };
  });
}

/** Composes a sheet for the screen. */
export function makePage(task: SheetTask): Outcome<MadePage> {
  return attempt(task, () => {
    const { page, paper, views, warnings } = composed(task);
    return { page: packPage(page), paper, scales: views.map((view) => view.scale), warnings };
  });
}

/** Composes; what reading the drawings could not show counts among the warnings. */
function composed(task: SheetTask): ComposedSheet {
  const warnings = new Map<string, Problem[]>();
  const source = (id: string): SourceDrawing | undefined => {
    const file = task.drawings.find((drawing) => drawing.id === id);
    if (!file) return undefined;
    const read = loadDrawing(file);
    if (!read.ok) throw new ProblemError(read.problem);
    warnings.set(id, read.warnings);
    return { drawing: read.drawing, unit: (file.unit as LengthUnit | undefined) ?? read.drawing.unit };
  };
  const sheet = composeSheet({ project: task.project, sheet: task.sheet, fonts: shippedFonts(), source });
  return { ...sheet, warnings: [...[...warnings.values()].flat(), ...sheet.warnings] };
}

function attempt<T>(task: SheetTask, make: () => T): Outcome<T> {
  const place = { sheet: task.sheet.number || task.sheet.id };
  try {
    return { ok: true, value: make() };
  } catch (error) {
    if (error instanceof ProblemError) {
      return { ok: false, problem: { ...error.problem, place: { ...error.problem.place, ...place } } };
    }
    const reason = error instanceof Error ? error.message : String(error);
    const sentence = `Sheet ${place.sheet} could not be made (${reason}); try again, and report it if it stays so.`;
    return { ok: false, problem: { code: 'sheet.failed', sentence, place } };
  }
}
