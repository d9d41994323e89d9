import type { FontId } from '../text/fonts';

/** Page coordinates and widths are whole hundredths of a millimetre, from the paper's lower left corner. */
export const UNITS_PER_MM = 100;

export const STROKE = 0;
export const FILL = 1;
export const TEXT = 2;

/** A layer as the published page knows it: which drawing it came with, and its name there. */
export interface PageLayer {
  /** Drawing the layer belongs to; empty for what the sheet itself adds (frame, title block, labels). */
  source: string;
  name: string;
}

/** How a mark is drawn. Fills and text use the colour only. */
export interface Pen {
  /** Line weight, 1/100 mm. */
  width: number;
  /** 0xRRGGBB. */
  colour: number;
  /** Lengths of dashes and gaps in turn, 1/100 mm; empty for a continuous line. */
  dashes: readonly number[];
  /** Round ends and corners, as a pen draws; else square-cut ends and mitred corners. */
  round: boolean;
}

/** Clip rectangle in page units: xmin, ymin, xmax, ymax. */
export type ClipBox = readonly [number, number, number, number];

/** A text on the page. The em is `size` page units high before (a, b, c, d) turns, slants or stretches it. */
export interface PageText {
  text: string;
  font: FontId;
  size: number;
  a: number;
  b: number;
  c: number;
  d: number;
  x: number;
  y: number;
  /** Width along the baseline before the matrix, in page units. */
  advance: number;
}

/**
 * Everything on one sheet of paper, ready to be painted, in painting order. Marks are columns of numbers, so that a
 * page crosses to another thread without being copied. Path marks own a range of `verbs` and `coords`; text marks
 * own an empty range and take the `texts` in turn. `clip` 0 is no clipping, n the n-th rectangle of `clips`.
 */
export interface Page {
  widthMm: number;
  heightMm: number;
  layers: PageLayer[];
  pens: Pen[];
  clips: ClipBox[];
  texts: PageText[];
  markCount: number;
  kind: Uint8Array;
  layer: Uint16Array;
  pen: Uint16Array;
  clip: Uint16Array;
  /** First verb of each mark; one entry more than there are marks. */
  verbStart: Uint32Array;
  coordStart: Uint32Array;
  verbs: Uint8Array;
  coords: Int32Array;
}
