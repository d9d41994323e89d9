import { findFrames, orderFrames, paperOfFrame, type FrameOrder, type FramePaper, type LengthUnit } from '@folvex/core';
import { loadDrawing, type DrawingFile } from './drawings';

export interface FrameTask {
  file: Pick<DrawingFile, 'name' | 'path' | 'hash'>;
  unit: LengthUnit;
  order: FrameOrder;
}

export interface FrameOnLayer {
  window: [xmin: number, ymin: number, xmax: number, ymax: number];
  paper: FramePaper | null;
}

/** The frames of a drawing by layer, the layer with the most of them first; each in reading order with its paper. */
export async function framesOf({ file, unit, order }: FrameTask): Promise<{ layer: string; frames: FrameOnLayer[] }[]> {
  const read = await loadDrawing(file);
  if (!read.ok) return [];
  return [...findFrames(read.drawing)]
    .map(([layer, frames]) => ({
      layer,
      frames: orderFrames(frames, order).map((frame) => ({
        window: frame.window,
        paper: paperOfFrame(frame, unit) ?? null,
      })),
    }))
    .sort((a, b) => fitting(b.frames) - fitting(a.frames) || b.frames.length - a.frames.length);
}

function fitting(frames: readonly FrameOnLayer[]): number {
  return frames.filter(({ paper }) => paper).length;
}
