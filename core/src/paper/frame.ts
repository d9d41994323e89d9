import type { Box } from '../geometry/box';
import type { PaperSize } from './sizes';

export type FrameKind = 'iso5457' | 'plain' | 'none';

/** Filing margin on the left and margin on the other sides, mm (ISO 5457:1999, clause 4; from memory). */
export const FILING_MARGIN_MM = 20;
export const MARGIN_MM = 10;

/** Width of the frame line, mm (ISO 5457:1999; from memory). */
export const FRAME_LINE_MM = 0.7;

/** Margins of a sheet of its own, mm. */
export type Margins = [left: number, bottom: number, right: number, top: number];

/** The rectangle that the frame of a sheet runs along, mm from the paper's lower left corner; never inside out. */
export function frameBox(paper: PaperSize, frame: FrameKind, margins: Margins = defaultMargins(frame)): Box {
  const [left, bottom, right, top] = margins;
  const [xmin, ymin] = [Math.min(left, paper.width), Math.min(bottom, paper.height)];
  return {
    xmin,
    ymin,
    xmax: Math.max(xmin, paper.width - right),
    ymax: Math.max(ymin, paper.height - top),
  };
}

/** Margins of a kind of frame where a sheet has none of its own, mm. */
export function defaultMargins(frame: FrameKind): Margins {
  return frame === 'none' ? [0, 0, 0, 0] : [FILING_MARGIN_MM, MARGIN_MM, MARGIN_MM, MARGIN_MM];
}
