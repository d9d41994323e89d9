import { parseScale } from '../measure/scale';
import { MM_PER_UNIT, type LengthUnit } from '../measure/units';
import { isSheetSide, type PaperChoice } from '../paper/sizes';
import { numbersFrom, type FoundFrame, type FramePaper } from './frames';

/** A frame with all named papers that it fills at a standard scale, the best first. */
export interface FittedFrame extends FoundFrame {
  papers: FramePaper[];
}

/** How frames get paper and scale: each the one that it fills best, all the same scale, or all the same paper. */
export type FrameFit = { by: 'frame' } | { by: 'scale'; scale: string } | { by: 'paper'; paper: string };

/** A sheet for a frame. */
export interface FrameSheet {
  /** Position of the frame among all of its layer. */
  at: number;
  paper: PaperChoice;
  scale: string;
}

/**
 * The paper and scale of a frame; undefined where it fits none. At a given scale a frame that fills no named paper gets
 * a paper of its own size, to the hundredth of a millimetre.
 */
export function fitFrame(frame: FittedFrame, fit: FrameFit, unit: LengthUnit): Omit<FrameSheet, 'at'> | undefined {
  const found = frame.papers.find(
    ({ name, scaleText }) => fit.by === 'frame' || (fit.by === 'scale' ? scaleText === fit.scale : name === fit.paper),
  );
  if (found) return { paper: { name: found.name, orientation: found.orientation }, scale: found.scaleText };
  if (fit.by !== 'scale') return undefined;
  const [xmin, ymin, xmax, ymax] = frame.window;
  const hundredths = 100 * MM_PER_UNIT[unit] * (parseScale(fit.scale) ?? NaN);
  const [width, height] = [Math.round((xmax - xmin) * hundredths) / 100, Math.round((ymax - ymin) * hundredths) / 100];
  return isSheetSide(width) && isSheetSide(height) ? { paper: { size: [width, height] }, scale: fit.scale } : undefined;
}

/** The sheets of frames in their order, without those at `skipped` positions and those that do not fit. */
export function planFrames(
  frames: readonly FittedFrame[],
  fit: FrameFit,
  unit: LengthUnit,
  skipped: ReadonlySet<number> = new Set(),
): FrameSheet[] {
  return frames.flatMap((frame, at) => {
    const fitted = skipped.has(at) ? undefined : fitFrame(frame, fit, unit);
    return fitted ? [{ at, ...fitted }] : [];
  });
}

/** The scales and papers that frames can share, each with how many frames fill a named paper so; the most first. */
export function frameFits(
  frames: readonly FittedFrame[],
): { fit: Exclude<FrameFit, { by: 'frame' }>; count: number }[] {
  const scales = new Map<string, number>();
  const papers = new Map<string, number>();
  for (const frame of frames) {
    for (const scale of new Set(frame.papers.map(({ scaleText }) => scaleText))) {
      scales.set(scale, (scales.get(scale) ?? 0) + 1);
    }
    for (const name of new Set(frame.papers.map((paper) => paper.name))) {
      papers.set(name, (papers.get(name) ?? 0) + 1);
    }
  }
  return [
    ...[...scales].map(([scale, count]) => ({ fit: { by: 'scale' as const, scale }, count })),
    ...[...papers].map(([paper, count]) => ({ fit: { by: 'paper' as const, paper }, count })),
  ].sort((a, b) => b.count - a.count);
}

/** The first of `count` numbers in a row from `first` on of which none is taken; numbers in small letters. */
export function freeFirst(first: string, count: number, taken: ReadonlySet<string>): string {
  let from = first;
  // Each turn passes a number that is taken.
  for (let turn = 0; turn <= taken.size; turn++) {
    const last = numbersFrom(from, count).findLastIndex((number) => taken.has(number.toLowerCase()));
    if (last < 0) return from;
    from = numbersFrom(from, last + 2)[last + 1]!;
  }
  return from;
}
