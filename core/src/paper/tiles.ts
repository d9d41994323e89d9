import type { PaperSize } from './sizes';
import type { Box } from '../geometry/box';

/** How sheets larger than a paper go on several pages of it. */
export interface Tiling {
  /** The paper of the pages, mm, lying either way. */
  paper: PaperSize;
  /** What neighbours both show, mm. */
  overlap: number;
}

/** One page of a sheet that goes on several. */
export interface Tile {
  /** Counted from 1, rows from the top. */
  row: number;
  column: number;
  /** What of the sheet it shows, mm from the sheet's lower left corner. */
  area: Box;
}

export interface TileGrid {
  /** Of every page, as it lies, mm. */
  paper: PaperSize;
  rows: number;
  columns: number;
  tiles: Tile[];
}

/** Left free on each page for marks and key, and since few printers reach the edge, mm (common practice). */
export const TILE_MARGIN_MM = 10;
export const STANDARD_OVERLAP_MM = 15;
/** From page to page at least so much of the sheet is new, mm: less is no use to anyone who sticks pages together. */
const MIN_STEP_MM = 50;

/** False where margins and overlap leave next to nothing of the paper. */
export function isUsableTiling({ paper, overlap }: Tiling): boolean {
  return step(Math.min(paper.width, paper.height), overlap) >= MIN_STEP_MM;
}

/**
 * The pages that a sheet goes on, in reading order; undefined where it fits the paper lying either way. The tiling
 * `leavesRoom`.
 */
export function tileGrid(sheet: PaperSize, { paper, overlap }: Tiling): TileGrid | undefined {
  const lying = [paper, { width: paper.height, height: paper.width }];
  if (lying.some(({ width, height }) => sheet.width <= width + 0.5 && sheet.height <= height + 0.5)) return undefined;
  const [best] = lying
    .map((one) => ({
      one,
      columns: along(sheet.width, one.width, overlap),
      rows: along(sheet.height, one.height, overlap),
    }))
    .sort((a, b) => a.columns * a.rows - b.columns * b.rows);
  const { one, columns, rows } = best!;
  const [stepX, stepY] = [step(one.width, overlap), step(one.height, overlap)];
  const tiles: Tile[] = [];
  for (let row = 1; row <= rows; row++) {
    for (let column = 1; column <= columns; column++) {
      const xmin = (column - 1) * stepX;
      const ymax = sheet.height - (row - 1) * stepY;
      const area = {
        xmin,
        ymin: Math.max(0, ymax - stepY - overlap),
        xmax: Math.min(sheet.width, xmin + stepX + overlap),
        ymax,
      };
      tiles.push({ row, column, area });
    }
  }
  return { paper: one, rows, columns, tiles };
}

function along(length: number, page: number, overlap: number): number {
  return Math.max(1, Math.ceil((length - overlap) / step(page, overlap) - 1e-9));
}

/** How far it is from one page to the next on the sheet. */
function step(page: number, overlap: number): number {
  return page - 2 * TILE_MARGIN_MM - overlap;
}
