import type { PaperSize, Sheet } from '@folvex/core';

/** A group of sheets on the wall. */
export interface WallGroup {
  id: string;
  name: string;
  sheets: readonly Sheet[];
}

/** A sheet at its place, CSS pixels from the left of the wall. */
export interface PlacedSheet {
  sheet: Sheet;
  left: number;
  width: number;
}

/** One row of the wall: the name of a group, or sheets side by side. */
export interface WallRow {
  /** Of a heading. */
  name?: string;
  sheets: readonly PlacedSheet[];
  height: number;
}

/** Narrower sheets take this much, so that their names can be read, CSS pixels. */
export const LEAST_TILE_PX = 96;
const GAP_PX = 16;
/** Name and facts below the picture of a sheet. */
const CAPTION_PX = 44;
const HEADING_PX = 40;

/** Lays sheets out in rows, group by group, as many in each as fit. */
export function layWall(
  groups: readonly WallGroup[],
  papers: Readonly<Record<string, PaperSize>>,
  pixelsPerMm: number,
  width: number,
): WallRow[] {
  return groups.flatMap(({ name, sheets }): WallRow[] => {
    const rows: WallRow[] = [{ name, sheets: [], height: HEADING_PX }];
    let row: PlacedSheet[] = [];
    let [left, tallest] = [0, 0];
    const end = (): void => {
      if (row.length > 0) rows.push({ sheets: row, height: tallest + CAPTION_PX + GAP_PX });
      [row, left, tallest] = [[], 0, 0];
    };
    for (const sheet of sheets) {
      const paper = papers[sheet.id]!;
      const own = Math.max(LEAST_TILE_PX, Math.round(paper.width * pixelsPerMm));
      if (row.length > 0 && left + own > width) end();
      row.push({ sheet, left, width: own });
      left += own + GAP_PX;
      tallest = Math.max(tallest, Math.round(paper.height * pixelsPerMm));
    }
    end();
    return rows;
  });
}

/** Id of the sheet next to one on the wall, and its row; undefined at the edge. The direction is a unit step, y up. */
export function neighbourOf(
  rows: readonly WallRow[],
  from: string,
  [dx, dy]: readonly [number, number],
): { id: string; row: number } | undefined {
  const all = rows.flatMap(({ sheets }, row) => sheets.map((placed) => ({ ...placed, row })));
  const at = all.findIndex(({ sheet }) => sheet.id === from);
  if (at < 0) return undefined;
  const own = all[at]!;
  if (dx !== 0) {
    const next = all[at + dx];
    return next && { id: next.sheet.id, row: next.row };
  }
  const middle = own.left + own.width / 2;
  for (let row = own.row - dy; rows[row]; row -= dy) {
    const far = ({ left, width }: PlacedSheet): number => Math.abs(left + width / 2 - middle);
    const [nearest] = [...rows[row]!.sheets].sort((a, b) => far(a) - far(b));
    if (nearest) return { id: nearest.sheet.id, row };
  }
  return undefined;
}
