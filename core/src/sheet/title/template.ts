import type { Box } from '../../geometry/box';

/** What a cell shows: text with fields, or something that is drawn. */
export const CELL_KINDS = ['text', 'revisions', 'north', 'scaleBar', 'drawing'] as const;
export type CellKind = (typeof CELL_KINDS)[number];

/** Where a block lies in the frame: its lower right corner, its whole right side, its whole lower side. */
export const BLOCK_PLACES = ['corner', 'side', 'strip'] as const;
export type BlockPlace = (typeof BLOCK_PLACES)[number];

/** A rectangle of a title block. Along each axis two of the three lengths say where it lies, mm from the block's edges. */
export interface TitleCell {
  left?: number;
  right?: number;
  width?: number;
  bottom?: number;
  top?: number;
  height?: number;
  /** Absent: text. */
  kind?: CellKind;
  /** Small, above the value. */
  caption?: string;
  /** Of a text cell: fixed text and fields in square brackets, as in naming rules. */
  text?: string;
  /** Height of its capitals, mm. */
  size?: number;
  /** A shipped typeface, or the id of one of the office's own. */
  font?: string;
  align?: 'left' | 'centre' | 'right';
  /** True where a blank value is pointed out. */
  required?: boolean;
  /** Of a revision table: whether the latest revision is above or below those before. */
  grows?: 'up' | 'down';
  /** Of a drawing cell (a logo, a key plan): id of the drawing whose model is fitted into it. */
  drawing?: string;
  /** Of a drawing cell: the block that is shown instead of the model, filling the cell. */
  block?: string;
  /** True where no line is drawn round the cell. */
  plain?: true;
}

/** A title block before it is filled in. */
export interface TitleTemplate {
  id: string;
  name: string;
  place: BlockPlace;
  /** mm; of a strip it is that of the frame. */
  width?: number;
  /** mm; of a side it is that of the frame. */
  height?: number;
  cells: TitleCell[];
}

const CORNER_MM = { width: 180, height: 54 };
const SIDE_MM = 62;
const STRIP_MM = 20;

/** The rectangle of the frame that a block takes, mm on the paper. */
export function blockBox(template: TitleTemplate, frame: Box): Box {
  const { place, width = place === 'side' ? SIDE_MM : CORNER_MM.width } = template;
  const { height = place === 'strip' ? STRIP_MM : CORNER_MM.height } = template;
  const xmin = place === 'strip' ? frame.xmin : Math.max(frame.xmin, frame.xmax - width);
  const ymax = place === 'side' ? frame.ymax : Math.min(frame.ymax, frame.ymin + height);
  return { xmin, ymin: frame.ymin, xmax: frame.xmax, ymax };
}

/** What a block leaves of the frame for views: what is above a corner block or a strip, what is left of a side. */
export function areaOutsideBlock(template: TitleTemplate, frame: Box): Box {
  const block = blockBox(template, frame);
  return template.place === 'side' ? { ...frame, xmax: block.xmin } : { ...frame, ymin: block.ymax };
}

/** The rectangle of a cell on the paper, mm; never beyond the block. */
export function cellBox(cell: TitleCell, block: Box): Box {
  const [xmin, xmax] = along(block.xmin, block.xmax, cell.left, cell.width, cell.right);
  const [ymin, ymax] = along(block.ymin, block.ymax, cell.bottom, cell.height, cell.top);
  return { xmin, ymin, xmax, ymax };
}

function along(from: number, to: number, before?: number, length?: number, after?: number): [number, number] {
  const start = before !== undefined ? from + before : to - (after ?? 0) - (length ?? to - from);
  const end = after !== undefined ? to - after : start + (length ?? to - from);
  const low = Math.min(Math.max(from, start), to);
  return [low, Math.max(low, Math.min(to, end))];
}
