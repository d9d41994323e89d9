import {
  findFrames,
  frameNumbers,
  orderFrames,
  papersOfFrame,
  type Drawing,
  type FittedFrame,
  type FrameOrder,
  type LengthUnit,
} from '@folvex/core';
import { loadDrawing, type DrawingFile } from './load-drawing';

export interface FrameTask {
  file: Pick<DrawingFile, 'name' | 'path' | 'hash'>;
  unit: LengthUnit;
  order: FrameOrder;
}

export interface FrameOnLayer extends FittedFrame {
  /** The number in the frame, where frames are ordered by it. */
  number?: string;
}

/** The frames of a drawing by layer, the layer with the most of them first; each in order with its papers. */
export async function framesOf({ file, unit, order }: FrameTask): Promise<{ layer: string; frames: FrameOnLayer[] }[]> {
  const read = await loadDrawing(file);
  if (!read.ok) return [];
  return [...findFrames(read.drawing)]
    .map(([layer, frames]) => ({
      layer,
      frames: ordered(
        read.drawing,
        frames.map((frame) => ({ ...frame, papers: papersOfFrame(frame, unit) })),
        order,
      ),
    }))
    .sort((a, b) => fitting(b.frames) - fitting(a.frames) || b.frames.length - a.frames.length);
}

/**
 * By the numbers inside where every frame has one, or at least every frame that fills a paper; else along rows. Frames
 * without a number come last.
 */
function ordered(drawing: Drawing, frames: readonly FrameOnLayer[], order: FrameOrder): FrameOnLayer[] {
  const inRows = orderFrames(frames, order === 'columns' ? 'columns' : 'rows');
  if (order !== 'text') return inRows;
  const numbered = withNumbers(drawing, inRows) ?? withNumbers(drawing, inRows.filter(fillsPaper));
  if (!numbered) return inRows;
  const { compare } = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });
  numbered.sort((a, b) => compare(a.number, b.number));
  return numbered.length === inRows.length ? numbered : [...numbered, ...inRows.filter((frame) => !fillsPaper(frame))];
}

function withNumbers(
  drawing: Drawing,
  frames: readonly FrameOnLayer[],
): (FrameOnLayer & { number: string })[] | undefined {
  const numbers = frameNumbers(drawing, frames);
  return numbers && frames.map((frame, i) => ({ ...frame, number: numbers[i]! }));
}

function fitting(frames: readonly FrameOnLayer[]): number {
  return frames.filter(fillsPaper).length;
}

function fillsPaper({ papers }: FrameOnLayer): boolean {
  return papers.length > 0;
}
