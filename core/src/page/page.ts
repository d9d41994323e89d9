import { recolouredGradient, type Gradient } from '../drawing/gradient';
import type { LineShape } from '../geometry/line-shape';
import type { Affine } from '../geometry/affine';
import type { FontId } from '../text/fonts';

/** Page coordinates and widths are whole hundredths of a millimetre, from the paper's lower left corner. */
export const UNITS_PER_MM = 100;

export const STROKE = 0;
export const FILL = 1;
export const TEXT = 2;
export const PICTURE = 3;
/** A fill by the nonzero winding rule; `FILL` is even-odd. */
export const FILL_NONZERO = 4;

/** Layers of what the sheet itself adds that many sheets have alike. */
export const FRAME_LAYER = 'Frame';
export const TITLE_LAYER = 'Title block';

/** A layer as the published page knows it: which drawing it came with, and its name there. */
export interface PageLayer {
  /** Drawing the layer belongs to; empty for what the sheet itself adds (frame, title block, labels). */
  source: string;
  name: string;
  /** Title of the view that shows it, or its id; absent for a layout taken over and for what the sheet adds. */
  view?: string;
  /** Switched off when the file is opened. */
  off?: boolean;
}

const ROUND: LineShape = { cap: 'round', join: 'round', miterLimit: 10 };
const SQUARE_CUT: LineShape = { cap: 'butt', join: 'miter', miterLimit: 10 };

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
  /** Per cent; 100 hides what lies below. */
  opacity: number;
  /** Name of the line type that the dashes come from; absent for a continuous line. */
  lineType?: string;
  /** How lines end and turn where neither of the two above is meant. */
  shape?: LineShape | undefined;
  /** What lines and areas are painted with, in page units; the colour then is its mean. */
  gradient?: Gradient;
  /** True in a mask, whose colours are brightness and not ink: no recipe and no schedule changes them. */
  masks?: true;
}

/** Marks that are painted together and then composited, as one picture, over what lies below. */
export interface PageGroup {
  /** The group that it is in, counted from 1; 0: none. */
  outer: number;
  /** Per cent. */
  opacity: number;
  /**
   * Its mask: a group within it, counted from 1, that is not painted itself. The brighter the mask, the more of the group
   * shows (ISO 32000-2, 11.5.3).
   */
  mask?: number;
}

/** How the lines of a pen end and turn. */
export function shapeOf({ round, shape }: Pen): LineShape {
  return shape ?? (round ? ROUND : SQUARE_CUT);
}

/** A pen in one colour. */
export function inColour(pen: Pen, colour: number): Pen {
  const { gradient: _, ...plain } = pen;
  return { ...plain, colour };
}

/** A pen with its colour changed, and those of its gradient with it. */
export function recoloured(pen: Pen, change: (colour: number) => number): Pen {
  const { gradient } = pen;
  return {
    ...inColour(pen, change(pen.colour)),
    ...(gradient && { gradient: recolouredGradient(gradient, change) }),
  };
}

/**
 * An area in page units that clips what is in it: loops of x, y filled by the even-odd rule. A lone loop of four
 * numbers is a rectangle: xmin, ymin, xmax, ymax.
 */
export type ClipShape = readonly (readonly number[])[];

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
  /** It is there to be found; what is seen of it are other marks. */
  unseen?: true;
}

/** A picture, or a page of a PDF, that a page shows: where its host finds it. */
export interface PagePicture {
  kind: 'jpeg' | 'png' | 'tiff' | 'pdf';
  /** Key of the drawing it belongs to (see `Drawing.key`), and its index among that one's pictures. */
  drawing: string;
  index: number;
  /** Of a TIFF or PDF, the page, counted from 1. */
  page: number;
  /** Dots to the inch on paper at most, where its view says so. */
  dpi?: number;
}

/** A picture placed: its unit square goes through (a, b, c, d, e, f) to page units. */
export interface PlacedPicture extends Affine {
  /** Index into `Page.pictures`. */
  picture: number;
  /** Per cent; absent: 100. Set only where groups were flattened; elsewhere the group has the opacity. */
  opacity?: number;
}

/** A block reference of a drawing as it lies on a page. */
export interface PlacedBlock {
  /** The drawing and the block in it. */
  source: string;
  name: string;
  /** The block's coordinates, from its base point, to page units. */
  map: Affine;
  /** True where something of it is cut away or left out. */
  cut: boolean;
}

/**
 * Everything on one sheet of paper, ready to be painted, in painting order. Marks are columns of numbers, so that a
 * page crosses to another thread without being copied. Path marks own a range of `verbs` and `coords`; text marks
 * own an empty range and take the `texts` in turn, picture marks the `placed`. `clip` 0 is no clipping, n the n-th of `clips`.
 */
export interface Page {
  widthMm: number;
  heightMm: number;
  layers: PageLayer[];
  pens: Pen[];
  /** Areas that clip together: a mark shows where all of them are. */
  clips: (readonly ClipShape[])[];
  texts: PageText[];
  pictures: PagePicture[];
  placed: PlacedPicture[];
  markCount: number;
  kind: Uint8Array;
  layer: Uint16Array;
  pen: Uint32Array;
  clip: Uint32Array;
  /** Which entity of its space each mark comes from, where that was asked for; else empty. */
  tag: Uint32Array;
  /** The group of each mark, counted from 1; 0: none. Empty where the page has no groups. */
  group: Uint32Array;
  groups: PageGroup[];
  /**
   * The block reference of each mark, where that was asked for: an index into `blocks`, counted from 1; 0: none. References
   * within a block belong to the outermost one.
   */
  block?: Uint32Array;
  blocks?: PlacedBlock[];
  /** First verb of each mark; one entry more than there are marks. */
  verbStart: Uint32Array;
  coordStart: Uint32Array;
  verbs: Uint8Array;
  coords: Int32Array;
}
