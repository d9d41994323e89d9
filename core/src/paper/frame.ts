import type { Box } from '../geometry/box';
import type { PaperSize } from './sizes';

export type FrameKind = 'iso5457' | 'plain' | 'none';

/** Filing margin on the left and margin on the other sides, mm (ISO 5457:1999, clause 4; from memory). */
export const FILING_MARGIN_MM = 20;
export const MARGIN_MM = 10;

/** Width of the frame line, mm (ISO 5457:1999; from memory). */
export const FRAME_LINE_MM = 0.7;

/** The rectangle that the frame of a sheet runs along, mm from the paper's lower left corner. */
export function frameBox(paper: PaperSize, frame: FrameKind): Box {
  if (frame === 'none') return { xmin: 0, ymin: 0, xmax: paper.width, ymax: paper.height };
  return {
    xmin: FILING_MARGIN_MM,
    ymin: MARGIN_MM,
    xmax: paper.width - MARGIN_MM,
    ymax: paper.height - MARGIN_MM,
  };
}
