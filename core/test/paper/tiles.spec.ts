import {
  foldLines,
  marksOutside,
  paperOf,
  printableArea,
  STROKE,
  tileGrid,
  tilePages,
  tilingOf,
  type ComposedSheet,
  type View,
} from '../../src/index';
import { dxf, line, read } from '../support/dxf';
import { FONTS } from '../support/fonts';
import { composed, VIEW } from '../support/sheets';

const drawn = (parts: Parameters<typeof dxf>[0]) => read(dxf(parts)).drawing;

describe('folding to A4 with a filing margin', () => {
  // DIN 824 A (from memory): fields from the left, and heights from below.
  it.each([
    ['A0', [210, 109.5, 109.5, 190, 190, 190, 190], [297, 297, 247]],
    ['A1', [210, 125.5, 125.5, 190, 190], [297, 297]],
    ['A2', [210, 192, 192], [297, 123]],
    ['A3', [125, 105, 190], [297]],
  ])('%s', (name, across, up) => {
    const paper = paperOf(name)!;
    const folds = foldLines(paper);
    const fields = (at: number[], length: number): number[] => [...at, length].map((x, i) => x - (at[i - 1] ?? 0));
    expect(fields(folds.across, paper.width)).toEqual(across);
    expect(fields(folds.up, paper.height)).toEqual(up);
  });

  it('leaves A4 as it is', () => {
    expect(foldLines(paperOf('A4', 'portrait')!)).toEqual({ across: [], up: [] });
  });
});

describe('the printable area', () => {
  it('is the paper without the margins of the chosen plotter', () => {
    const plotters = [{ id: 'p', name: 'Ours', margins: [17, 5, 5, 6] as [number, number, number, number] }];
    const paper = { width: 841, height: 594 };
    expect(printableArea(paper, { plotters, plotter: 'p' })).toEqual({ xmin: 17, ymin: 5, xmax: 836, ymax: 588 });
    expect(printableArea(paper, {})).toEqual({ xmin: 0, ymin: 0, xmax: 841, ymax: 594 });
  });

  it('has what reaches beyond it counted, clipped content only as far as it shows', () => {
    const drawing = drawn({ entities: line(0, 0, 50_000, 0) });
    const at = (x: number, window: View['window']): ComposedSheet =>
      composed(drawing, { views: [{ ...VIEW, at: [x, 100], window }] });
    const area = printableArea(paperOf('A1')!, { plotter: 'roll' });
    const beyond = marksOutside(at(700, [0, -10, 50_000, 10]).page, area);
    expect(beyond.count).toBe(1);
    expect(beyond.boxes[0]!.xmax).toBeGreaterThan(836);
    expect(marksOutside(at(700, [0, -10, 5000, 10]).page, area).count).toBe(0);
    expect(marksOutside(at(780, [0, -10, 5000, 10]).page, area).count).toBe(1);
  });
});

describe('a sheet that goes on several pages', () => {
  const A1 = paperOf('A1')!;
  const A4 = { paper: paperOf('A4')!, overlap: 15 };

  it('covers all of it at true size, each page no larger than its paper, neighbours overlapping', () => {
    const grid = tileGrid(A1, A4)!;
    expect(grid.tiles).toHaveLength(grid.rows * grid.columns);
    for (const { area, column, row } of grid.tiles) {
      expect(area.xmax - area.xmin).toBeLessThanOrEqual(grid.paper.width - 20 + 1e-9);
      expect(area.ymax - area.ymin).toBeLessThanOrEqual(grid.paper.height - 20 + 1e-9);
      const right = grid.tiles.find((tile) => tile.row === row && tile.column === column + 1);
      if (right) expect(area.xmax - right.area.xmin).toBeCloseTo(15, 9);
      else expect(area.xmax).toBe(A1.width);
      const below = grid.tiles.find((tile) => tile.column === column && tile.row === row + 1);
      if (below) expect(below.area.ymax - area.ymin).toBeCloseTo(15, 9);
      else expect(area.ymin).toBe(0);
    }
  });

  it('stays whole where it fits the paper lying either way', () => {
    expect(tileGrid(paperOf('A4', 'portrait')!, A4)).toBeUndefined();
    expect(tileGrid(paperOf('A3')!, { paper: paperOf('A3', 'portrait')!, overlap: 15 })).toBeUndefined();
  });

  it('is refused by a paper and overlap that leave next to nothing new on each page', () => {
    const tiling = (size: [number, number], overlap: number) => tilingOf({ tiles: { paper: { size }, overlap } }, {});
    expect(tiling([210, 297], 60)).toMatchObject({ overlap: 60 });
    expect(tiling([130, 297], 60)).toMatchObject({ overlap: 60 });
    expect(tiling([129, 297], 60)).toBeUndefined();
    expect(tiling([80, 80], 60)).toBeUndefined();
    expect(tilingOf({ tiles: { paper: { name: 'Gone', orientation: 'portrait' }, overlap: 15 } }, {})).toBeUndefined();
  });

  it('shows each mark where it lies, and says which part it is', () => {
    const drawing = drawn({ entities: line(0, 0, 10_000, 0) });
    const { page } = composed(drawing, { views: [{ ...VIEW, at: [100, 400], window: [-10, -10, 10_010, 10] }] });
    const grid = tileGrid(A1, A4)!;
    const pages = tilePages(page, grid, A4.overlap, FONTS, 'A-101');
    expect(pages).toHaveLength(grid.tiles.length);
    let shown = 0;
    pages.forEach((tile, i) => {
      const { area, row, column } = grid.tiles[i]!;
      expect(tile.texts[0]!.text).toContain(`row ${row} of ${grid.rows}, column ${column} of ${grid.columns}`);
      const own = tile.layers.findIndex(({ source }) => source !== '');
      const marks = [...tile.layer].flatMap((one, mark) => (one === own && tile.kind[mark] === STROKE ? [mark] : []));
      if (marks.length === 0) return;
      shown++;
      const [x0, , x1] = [...tile.coords.subarray(tile.coordStart[marks[0]!], tile.coordStart[marks[0]! + 1])];
      expect(x1! - x0!).toBe(20_000);
      // Its left end lies as far from the tile's corner as from the area's.
      expect(x0! / 100 - 10).toBeCloseTo(100.2 - area.xmin, 2);
    });
    expect(shown).toBeGreaterThan(1);
  });
});
