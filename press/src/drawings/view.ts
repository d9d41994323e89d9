import {
  describeEntity,
  drawingPage,
  packPage,
  type Drawing,
  type EntityFacts,
  type Outcome,
  type Problem,
  type Space,
} from '@folvex/core';
import { loadDrawing, type DrawingFile } from './load-drawing';
import { fontsWith, type TypefaceFile } from '../typefaces/own';
import { strayWarnings } from './stray-warnings';

export interface ViewTask {
  file: Pick<DrawingFile, 'name' | 'path' | 'hash'>;
  /** Number of the space among the drawing's. */
  space: number;
  /** Files of the project's typefaces. */
  typefaces?: TypefaceFile[];
}

export interface DrawingView {
  /** Packed page, its marks tagged with their entities; null where nothing is visible. */
  page: Uint8Array<ArrayBuffer> | null;
  /** mm of the page to a unit of the drawing, and the point in the page's lower left corner. */
  mmPerUnit: number;
  origin: [x: number, y: number];
  spaces: string[];
  warnings: Problem[];
}

/** A space of a drawing, to be looked at closely. */
export function viewOf(task: ViewTask): Promise<Outcome<DrawingView>> {
  return within(task, (drawing, space, warnings) => {
    const spaces = drawing.spaces.map(({ name }) => name);
    const made = drawingPage(drawing, space, fontsWith(task.typefaces));
    if (!made) return { page: null, mmPerUnit: 1, origin: [0, 0], spaces, warnings };
    const { page, mmPerUnit, origin, strays } = made;
    const allWarnings = [...warnings, ...strayWarnings(strays, drawing.name)];
    return { page: packPage(page), mmPerUnit, origin, spaces, warnings: allWarnings };
  });
}

/** The description of an entity of a space by its number; null where there is none. */
export function entityOf(task: ViewTask & { index: number }): Promise<Outcome<EntityFacts | null>> {
  return within(task, (drawing, space) => {
    const entity = space.entities[task.index];
    return entity ? describeEntity(drawing, entity) : null;
  });
}

async function within<T>(
  { file, space }: ViewTask,
  make: (drawing: Drawing, space: Space, warnings: Problem[]) => T,
): Promise<Outcome<T>> {
  const read = await loadDrawing(file);
  if (!read.ok) return read;
  const found = read.drawing.spaces[space];
  if (!found) {
    const sentence = `${file.name} has no such layout any more; reload the page.`;
    return { ok: false, problem: { code: 'view.space', sentence, place: { file: file.name } } };
  }
  return { ok: true, value: make(read.drawing, found, read.warnings) };
}
