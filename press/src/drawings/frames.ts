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

/** By the numbers inside where every frame that fills a paper has one, else along rows. */
function ordered(drawing: Drawing, frames: readonly FrameOnLayer[], order: FrameOrder): FrameOnLayer[] {
  const inRows = orderFrames(frames, order === 'columns' ? 'columns' : 'rows');
  if (order !== 'text') return inRows;
  const filling = inRows.filter(fillsPaper);
  const numbers = frameNumbers(drawing, filling);
  if (!numbers) return inRows;
  const { compare } = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });
  const numbered = filling.map((frame, i) => ({ ...frame, number: numbers[i]! }));
  return [...numbered.sort((a, b) => compare(a.number, b.number)), ...inRows.filter((frame) => !fillsPaper(frame))];
}

function fitting(frames: readonly FrameOnLayer[]): number {
  return frames.filter(fillsPaper).length;
}

function fillsPaper({ papers }: FrameOnLayer): boolean {
  return papers.length > 0;
}
