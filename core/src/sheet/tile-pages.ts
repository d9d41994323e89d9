import type { Box } from '../geometry/box';
import { boxPath, linePath } from '../geometry/outline';
import type { TileGrid, Tile } from '../paper/tiles';
import { TILE_MARGIN_MM } from '../paper/tiles';
import { PageBuilder } from '../page/builder';
import { excerpt } from '../page/excerpt';
import type { Page } from '../page/page';
import type { FontSet } from '../text/layout';
import { translation } from '../geometry/affine';
import { placeLettering } from './lettering';

const INK = 0x000000;
const LINE_MM = 0.18;
/** Lettering of the key, height of its picture, length of the marks; mm. */
const [SIZE_MM, KEY_MM, MARK_MM] = [2.5, 7, 6];

/**
 * The pages of a sheet that goes on several: each shows its part at true size, with marks where its neighbours begin
 * and a key that says which part it is.
 */
export function tilePages(page: Page, grid: TileGrid, overlap: number, fonts: FontSet, name: string): Page[] {
  return grid.tiles.map((tile) => {
    const { width, height } = grid.paper;
    const builder = new PageBuilder(width, height);
    const corner: [number, number] = [TILE_MARGIN_MM, height - TILE_MARGIN_MM - (tile.area.ymax - tile.area.ymin)];
    drawMarks(builder, tile, grid, overlap, corner);
    drawKey(builder, fonts, tile, grid, name);
    return excerpt(page, tile.area, corner, builder.build());
  });
}

/** Lines in the margin where the part that the neighbour shows too begins, and at the edges of what is shown. */
function drawMarks(
  builder: PageBuilder,
  tile: Tile,
  grid: TileGrid,
  overlap: number,
  [x0, y0]: [number, number],
): void {
  const layer = builder.layer('', 'Tiles');
  const pen = builder.pen(LINE_MM, INK, [], false);
  const { xmin, ymin, xmax, ymax } = moved(tile.area, x0, y0);
  const across = [
    xmin,
    xmax,
    ...(tile.column > 1 ? [xmin + overlap] : []),
    ...(tile.column < grid.columns ? [xmax - overlap] : []),
  ];
  const up = [ymin, ymax, ...(tile.row > 1 ? [ymax - overlap] : []), ...(tile.row < grid.rows ? [ymin + overlap] : [])];
  for (const x of across) {
    builder.stroke(linePath([x, ymax + 1], [x, ymax + MARK_MM]), layer, pen);
    builder.stroke(linePath([x, ymin - 1], [x, ymin - MARK_MM]), layer, pen);
  }
  for (const y of up) {
    builder.stroke(linePath([xmin - 1, y], [xmin - MARK_MM, y]), layer, pen);
    builder.stroke(linePath([xmax + 1, y], [xmax + MARK_MM, y]), layer, pen);
  }
}

function moved({ xmin, ymin, xmax, ymax }: Box, x: number, y: number): Box {
  return { xmin: x, ymin: y, xmax: x + xmax - xmin, ymax: y + ymax - ymin };
}

/** All parts in small with this one filled, and which it is in words, in the lower margin. */
function drawKey(
  builder: PageBuilder,
  fonts: FontSet,
  { row, column }: Tile,
  { rows, columns }: TileGrid,
  name: string,
): void {
  const layer = builder.layer('', 'Tiles');
  const high = KEY_MM / rows;
  const wide = Math.min(high * 1.5, 40 / columns);
  const [left, bottom] = [TILE_MARGIN_MM + 12, (TILE_MARGIN_MM - KEY_MM) / 2];
  for (let r = 1; r <= rows; r++) {
    for (let c = 1; c <= columns; c++) {
      const [x, y] = [left + (c - 1) * wide, bottom + (rows - r) * high];
      const path = boxPath({ xmin: x, ymin: y, xmax: x + wide, ymax: y + high });
      if (r === row && c === column) builder.fill(path, layer, builder.pen(0, INK));
      builder.stroke(path, layer, builder.pen(LINE_MM, INK, [], false));
    }
  }
  const words = `${name}  row ${row} of ${rows}, column ${column} of ${columns}`;
  const look = { lines: [words], font: 'sans', height: SIZE_MM, widthFactor: 1, lineSpacing: 1 } as const;
  const at = translation(left + columns * wide + 3, TILE_MARGIN_MM / 2);
  for (const { text, box } of placeLettering(fonts, { ...look, horizontal: 'left', vertical: 'middle' }, at)) {
    builder.text(text, box, layer, builder.pen(0, INK));
  }
}
