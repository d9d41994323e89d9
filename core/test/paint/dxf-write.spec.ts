import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { dxfOf, PageBuilder, Path, type Page, type PageText } from '../../src/index';
import { insideLoops, isInside } from '../../src/geometry/clip-loops';
import { read } from '../support/dxf';
import { runScript, temporaryFolder } from '../support/ezdxf';
import { FONTS } from '../support/fonts';

type XY = [x: number, y: number];

interface Read {
  faults: string[];
  unit: number;
  layers: Record<string, boolean>;
  lineTypes: Record<string, number[]>;
  entities: {
    kind: string;
    layer: string;
    weight: number;
    lineType: string;
    colour: number | null;
    index: number;
    closed: boolean;
    text: string;
    height: number;
    points: never[];
  }[];
}

const folder = temporaryFolder();

/** A page written as DXF and read by ezdxf. */
function written(page: Page): Read {
  const file = join(folder, 'page.dxf');
  writeFileSync(file, dxfOf(page, FONTS));
  const [found] = JSON.parse(runScript('read_dxf.py', file)) as Read[];
  return found!;
}

function pathOf(points: readonly XY[], closed = false): Path {
  const path = new Path();
  points.forEach(([x, y], i) => (i === 0 ? path.moveTo(x, y) : path.lineTo(x, y)));
  if (closed) path.close();
  return path;
}

const SQUARE: XY[] = [
  [10, 10],
  [30, 10],
  [30, 30],
  [10, 30],
];
const textAt = (x: number, y: number, more: Partial<PageText> = {}): PageText => ({
  ...{ text: 'Room ⌀ 5 %%c', font: 'sans' as const, size: 5, a: 1, b: 0, c: 0, d: 1, x, y, advance: 20 },
  ...more,
});

describe('a page as DXF', () => {
  it('has weights, colours, layers and line types that an independent reader finds without a fault', () => {
    const builder = new PageBuilder(420, 297);
    const walls = builder.layer('plan.dxf', 'A-WALL');
    const off = builder.layer('plan.dxf', 'A:FURN');
    builder.stroke(pathOf(SQUARE, true), walls, builder.pen(0.5, 0x000000));
    builder.stroke(
      pathOf([
        [50.005, 10],
        [80, 10.01],
      ]),
      walls,
      builder.pen(0.36, 0xff8000, [3, 1.5], true, 100, { lineType: 'DASHED' }),
    );
    builder.fill(pathOf(SQUARE, true), off, builder.pen(0.25, 0x808080));
    const page = builder.build();
    page.layers[off]!.off = true;
    const { faults, unit, layers, lineTypes, entities } = written(page);
    expect(faults).toEqual([]);
    // DXF reference: $INSUNITS 4 is millimetres.
    expect(unit).toBe(4);
    expect(layers).toMatchObject({ 'plan - A-WALL': true, 'plan - A_FURN': false });
    const [square, line, fill] = entities;
    expect(square).toMatchObject({ kind: 'LWPOLYLINE', layer: 'plan - A-WALL', weight: 50, index: 7, closed: true });
    expect(square!.points).toEqual(SQUARE);
    expect(line).toMatchObject({
      weight: 35,
      colour: 0xff8000,
      lineType: 'DASHED 1',
      points: [
        [50.01, 10],
        [80, 10.01],
      ],
    });
    expect(lineTypes['DASHED 1']).toEqual([3, -1.5]);
    expect(fill).toMatchObject({ kind: 'HATCH', layer: 'plan - A_FURN', points: [SQUARE] });
  });

  it('keeps curves as curves: all of them lie on the circle', () => {
    const builder = new PageBuilder(420, 297);
    const [layer, pen] = [builder.layer('', 'Frame'), builder.pen(0.25, 0)];
    const circle = new Path();
    const k = 0.5522847498 * 50;
    circle.moveTo(150, 100);
    circle.curveTo(150, 100 + k, 100 + k, 150, 100, 150);
    circle.curveTo(100 - k, 150, 50, 100 + k, 50, 100);
    circle.lineTo(50, 20);
    builder.stroke(circle, layer, pen);
    const { faults, entities } = written(builder.build());
    expect(faults).toEqual([]);
    expect(entities.map(({ kind }) => kind)).toEqual(['SPLINE', 'LWPOLYLINE']);
    const on = entities[0]!.points as XY[];
    expect(on).toHaveLength(17);
    // A quarter circle by one Bézier curve is out by 0.027 % of the radius at most (common practice).
    for (const [x, y] of on) expect(Math.abs(Math.hypot(x - 100, y - 100) - 50)).toBeLessThan(0.03);
    expect(entities[1]!.points).toEqual([
      [50, 100],
      [50, 20],
    ]);
  });

  it('cuts away what clips hide', () => {
    const builder = new PageBuilder(420, 297);
    const [layer, pen] = [builder.layer('', 'Plan'), builder.pen(0.25, 0)];
    builder.clipTo({ xmin: 20, ymin: 20, xmax: 60, ymax: 60 });
    builder.stroke(
      pathOf([
        [10, 30],
        [100, 30],
      ]),
      layer,
      pen,
    );
    builder.fill(
      pathOf(
        [
          [10, 10],
          [40, 10],
          [40, 40],
          [10, 40],
        ],
        true,
      ),
      layer,
      pen,
    );
    builder.clipToLoops([[30, 20, 50, 20, 40, 60]]);
    builder.stroke(
      pathOf([
        [0, 40],
        [100, 40],
      ]),
      layer,
      pen,
    );
    builder.fill(
      pathOf(
        [
          [0, 0],
          [40, 0],
          [40, 100],
          [0, 100],
        ],
        true,
      ),
      layer,
      pen,
    );
    builder.endClip();
    builder.endClip();
    const { faults, entities } = written(builder.build());
    expect(faults).toEqual([]);
    expect(entities[0]!.points).toEqual([
      [20, 30],
      [60, 30],
    ]);
    const area = (loop: XY[]): number =>
      Math.abs(
        loop.reduce(
          (sum, [x, y], i) => sum + x * loop[(i + 1) % loop.length]![1] - loop[(i + 1) % loop.length]![0] * y,
          0,
        ) / 2,
      );
    const areaOf = (loops: XY[][]): number => loops.reduce((sum, loop) => sum + area(loop), 0);
    expect(areaOf(entities[1]!.points)).toBeCloseTo(20 * 20, 6);
    expect(entities[2]!.points).toEqual([
      [35, 40],
      [45, 40],
    ]);
    // The left half of a triangle of 20 × 40.
    expect(areaOf(entities[3]!.points)).toBeCloseTo(200, 6);
  });

  it('has texts as text, as wide as on the page; what is clipped or unseen is not there', () => {
    const builder = new PageBuilder(420, 297);
    const [layer, pen] = [builder.layer('', 'Notes'), builder.pen(0.25, 0)];
    const box = (x: number): { xmin: number; ymin: number; xmax: number; ymax: number } => ({
      ...{ xmin: x, ymin: 10, xmax: x + 20, ymax: 15 },
    });
    builder.text(textAt(10, 10), box(10), layer, pen);
    builder.text(textAt(10, 10, { unseen: true }), box(10), layer, pen);
    builder.clipTo({ xmin: 0, ymin: 0, xmax: 105, ymax: 100 });
    builder.text(textAt(100, 10), box(100), layer, pen);
    builder.endClip();
    const page = builder.build();
    const { faults, entities } = written(page);
    expect(faults).toEqual([]);
    expect(entities).toHaveLength(1);
    // In the format %%% is one per cent sign.
    expect(entities[0]).toMatchObject({ kind: 'TEXT', text: 'Room ⌀ 5 %%%%%%c' });
    const [from, to] = entities[0]!.points as XY[];
    expect([from![0], to![0] - from![0]]).toEqual([page.texts[0]!.x / 100, 20]);
    expect(entities[0]!.height).toBeCloseTo((5 * FONTS.face('sans').capHeight) / FONTS.face('sans').unitsPerEm, 3);
  });

  it('is read back by the reader of drawings with the same lines', () => {
    const builder = new PageBuilder(420, 297);
    builder.stroke(pathOf(SQUARE, true), builder.layer('plan.dxf', 'A-WALL'), builder.pen(0.5, 0));
    const { drawing, warnings } = read(dxfOf(builder.build(), FONTS));
    expect(warnings).toEqual([]);
    expect(drawing.unit).toBe('mm');
    expect(drawing.spaces[0]!.entities).toHaveLength(1);
  });
});

/** How far a point is from the nearest edge of a closed loop of x, y pairs. */
function toOutline(loop: readonly number[], x: number, y: number): number {
  const lengths = loop.flatMap((_, i) => {
    if (i % 2 === 1) return [];
    const j = (i + 2) % loop.length;
    const [ex, ey] = [loop[j]! - loop[i]!, loop[j + 1]! - loop[i + 1]!];
    const [px, py] = [x - loop[i]!, y - loop[i + 1]!];
    const square = ex * ex + ey * ey;
    const along = square === 0 ? 0 : Math.min(Math.max((px * ex + py * ey) / square, 0), 1);
    return [Math.hypot(px - along * ex, py - along * ey)];
  });
  return Math.min(...lengths);
}

describe('what of a segment lies inside loops', () => {
  const coordinate = fc.double({ min: -10, max: 10, noNaN: true });
  const loop = fc
    .array(fc.tuple(coordinate, coordinate), { minLength: 3, maxLength: 8 })
    .map((points) => points.flat());

  it('is where its points are inside', () => {
    fc.assert(
      fc.property(
        fc.array(loop, { minLength: 1, maxLength: 3 }),
        fc.tuple(coordinate, coordinate, coordinate, coordinate),
        fc.double({ min: 0.001, max: 0.999, noNaN: true }),
        (loops, [x0, y0, x1, y1], place) => {
          const inside = insideLoops(loops, x0, y0, x1, y1);
          const [x, y] = [x0 + place * (x1 - x0), y0 + place * (y1 - y0)];
          // Too near an edge to tell: rounding alone decides.
          fc.pre(loops.every((loop) => toOutline(loop, x, y) > 1e-6));
          const within = inside.some((from, i) => i % 2 === 0 && place > from && place < inside[i + 1]!);
          expect(within).toBe(isInside(loops, x, y));
        },
      ),
    );
  });

  it('is both ends of a line through a frame with a hole', () => {
    const frame = [
      [0, 0, 10, 0, 10, 10, 0, 10],
      [4, 4, 6, 4, 6, 6, 4, 6],
    ];
    expect(insideLoops(frame, -10, 5, 20, 5)).toEqual([10 / 30, 14 / 30, 16 / 30, 20 / 30]);
  });
});
