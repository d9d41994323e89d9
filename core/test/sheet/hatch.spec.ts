import { composeSheet, type Page, type Sheet } from '../../src/index';
import { dxf, entitiesOf, groups, read } from '../support/dxf';
import { FONTS } from '../support/fonts';

type Pair = readonly [number, string | number];

const head = (paths: number, solid = 0): Pair[] => [
  [0, 'HATCH'],
  [8, 'H'],
  [10, 0],
  [20, 0],
  [2, 'ANSI31'],
  [70, solid],
  [71, 0],
  [91, paths],
];
const square = (x: number, y: number, size: number): Pair[] => [
  [92, 2],
  [72, 0],
  [73, 1],
  [93, 4],
  ...[
    [x, y],
    [x + size, y],
    [x + size, y + size],
    [x, y + size],
  ].flatMap(([px, py]): Pair[] => [
    [10, px!],
    [20, py!],
  ]),
  [97, 0],
];
const family = (angle: number, dx: number, dy: number, ...dashes: number[]): Pair[] => [
  [53, angle],
  [43, 0],
  [44, 0],
  [45, dx],
  [46, dy],
  [79, dashes.length],
  ...dashes.map((dash): Pair => [49, dash]),
];
const pattern = (loops: Pair[][], ...families: Pair[][]): string =>
  groups(
    ...head(loops.length),
    ...loops.flat(),
    [75, 0],
    [76, 1],
    [52, 0],
    [41, 1],
    [77, 0],
    [78, families.length],
    ...families.flat(),
  );

/** The sheet of a window of 100 × 100 mm at a scale of 1:1. */
function drawn(entities: string): { page: Page; codes: string[] } {
  const { drawing } = read(dxf({ entities }));
  const view = {
    id: 'v',
    drawing: 'd',
    space: 'model',
    window: [0, 0, 100, 100] as const,
    scale: '1:1',
    at: [0, 0] as const,
    layersOff: [],
    label: '',
  };
  const sheet = {
    id: 's',
    number: 'S',
    title: '',
    group: '',
    paper: { size: [100, 100] },
    frame: 'none',
    titleBlock: undefined,
    revision: undefined,
    views: [view],
  };
  const project = { number: '', name: '', client: '', fields: {} };
  const { page, warnings } = composeSheet({
    project,
    sheet: sheet as unknown as Sheet,
    fonts: FONTS,
    source: () => ({ drawing, unit: 'mm' }),
  });
  return { page, codes: warnings.map(({ code }) => code) };
}

/** Pieces of a page as x0 y0 x1 y1 in mm, sorted. */
function pieces(page: Page): string[] {
  const found: string[] = [];
  for (let i = 0; i + 3 < page.coords.length; i += 4)
    found.push([...page.coords.subarray(i, i + 4)].map((v) => v / 100).join(' '));
  return found.sort();
}

describe('hatch patterns', () => {
  it('are lines at their spacing, cut to the boundary', () => {
    const { page } = drawn(pattern([square(10, 10, 30)], family(0, 0, 10)));
    // y = 20 and 30 inside; of the two edges at 10 and 40 the lower one counts as inside.
    expect(pieces(page)).toEqual(['10 10 40 10', '10 20 40 20', '10 30 40 30']);
  });

  it('leave islands out', () => {
    const { page } = drawn(pattern([square(10, 10, 30), square(18, 18, 14)], family(0, 0, 10)));
    expect(pieces(page)).toEqual(['10 10 40 10', '10 20 18 20', '10 30 18 30', '32 20 40 20', '32 30 40 30']);
  });

  it('shift their dashes from line to line', () => {
    const { page } = drawn(pattern([square(0, 5, 30)], family(0, 5, 10, 6, -4)));
    // Line y = 10 begins its dashes at x = 5, y = 20 at x = 10, y = 30 at x = 15 (period 10).
    expect(pieces(page)).toEqual(
      [
        '0 10 1 10',
        '5 10 11 10',
        '15 10 21 10',
        '25 10 30 10',
        '0 20 6 20',
        '10 20 16 20',
        '20 20 26 20',
        '0 30 1 30',
        '5 30 11 30',
        '15 30 21 30',
        '25 30 30 30',
      ].sort(),
    );
  });

  it('turn', () => {
    const { page } = drawn(pattern([square(0, 0, 10)], family(45, -5 * Math.SQRT1_2, 5 * Math.SQRT1_2)));
    for (const piece of pieces(page)) {
      const [x0, y0, x1, y1] = piece.split(' ').map(Number) as [number, number, number, number];
      expect(y1 - y0).toBeCloseTo(x1 - x0, 1);
    }
    // The diagonal of 14.1 mm crosses the lines at 0, 5 and -5 mm.
    expect(pieces(page)).toHaveLength(3);
  });

  it('that would be millions of lines are a tint, with a warning', () => {
    const { page, codes } = drawn(pattern([square(0, 0, 90)], family(0, 0, 0.00001)));
    expect(page.markCount).toBe(1);
    expect(page.pens[page.pen[0]!]!.colour).toBe(0xbfbfbf);
    expect(codes).toEqual(['sheet.dense-hatch']);
  });

  it('without lines are told', () => {
    const { warnings } = read(dxf({ entities: groups(...head(1), ...square(0, 0, 5), [75, 0], [76, 1]) }));
    expect(warnings.map(({ code }) => code)).toEqual(['dxf.hatch-without-lines']);
  });
});

describe('hatch boundaries', () => {
  const loop = (entity: string): number[] => {
    const [hatch] = entitiesOf(entity);
    if (hatch?.kind !== 'fill') throw new Error(hatch?.kind);
    return [...hatch.loops[0]!];
  };

  it('of an ellipse lie on it', () => {
    const edge: Pair[] = [
      [92, 1],
      [93, 1],
      [72, 3],
      [10, 50],
      [20, 50],
      [11, 20],
      [21, 0],
      [40, 0.5],
      [50, 0],
      [51, 360],
      [73, 1],
      [97, 0],
    ];
    const points = loop(groups(...head(1, 1), ...edge, [75, 0], [76, 1]));
    expect(points).toHaveLength(3 * 256);
    for (let i = 0; i < points.length; i += 3) {
      expect(((points[i]! - 50) / 20) ** 2 + ((points[i + 1]! - 50) / 10) ** 2).toBeCloseTo(1, 10);
    }
  });

  it('of a spline and a line close', () => {
    const spline: Pair[] = [
      [72, 4],
      [94, 2],
      [73, 0],
      [74, 0],
      [95, 6],
      [96, 3],
      ...[0, 0, 0, 1, 1, 1].map((k): Pair => [40, k]),
      [10, 0],
      [20, 0],
      [10, 5],
      [20, 10],
      [10, 10],
      [20, 0],
    ];
    const line: Pair[] = [
      [72, 1],
      [10, 10],
      [20, 0],
      [11, 0],
      [21, 0],
    ];
    const points = loop(groups(...head(1, 1), [92, 1], [93, 2], ...spline, ...line, [97, 0], [75, 0], [76, 1]));
    expect(points.slice(0, 3)).toEqual([0, 0, 0]);
    expect(points.slice(-3)).toEqual([10, 0, 0]);
    // The parabola's top is half as high as its middle control point.
    expect(Math.max(...points.filter((_, i) => i % 3 === 1))).toBeCloseTo(5, 10);
  });

  it('of a gradient are filled with the mean of its colours', () => {
    const gradient: Pair[] = [
      [450, 1],
      [451, 0],
      [453, 2],
      [463, 0],
      [421, 0xff0000],
      [463, 1],
      [421, 0x0000ff],
    ];
    const [fill] = entitiesOf(groups(...head(1, 1), ...square(0, 0, 5), [75, 0], [76, 1], ...gradient));
    expect(fill!.style.colour).toBe(0x800080);
  });
});
