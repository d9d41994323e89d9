import fc from 'fast-check';
import { Path } from '../../src/index';
import { flattened } from '../../src/geometry/flatten';
import { strokeOutline } from '../../src/geometry/stroke-outline';

function lineOf(points: readonly (readonly [number, number])[]): Path {
  const path = new Path();
  points.forEach(([x, y], i) => (i === 0 ? path.moveTo(x, y) : path.lineTo(x, y)));
  return path;
}

/** How often an outline winds round a point. */
function winding(outline: Path, x: number, y: number): number {
  let turns = 0;
  for (const loop of flattened(outline)) {
    for (let i = 0; i + 3 < loop.length; i += 2) {
      const [x0, y0, x1, y1] = [loop[i]!, loop[i + 1]!, loop[i + 2]!, loop[i + 3]!];
      if (y0 <= y === y1 <= y) continue;
      if (x0 + ((y - y0) / (y1 - y0)) * (x1 - x0) > x) turns += y1 > y0 ? 1 : -1;
    }
  }
  return turns;
}

function distance(points: readonly (readonly [number, number])[], x: number, y: number): number {
  const each = points.slice(1).map(([x1, y1], i) => {
    const [x0, y0] = points[i]!;
    const [dx, dy] = [x1 - x0, y1 - y0];
    const square = dx * dx + dy * dy;
    const t = square === 0 ? 0 : Math.max(0, Math.min(1, ((x - x0) * dx + (y - y0) * dy) / square));
    return Math.hypot(x - x0 - t * dx, y - y0 - t * dy);
  });
  return Math.min(...each);
}

describe('the outline of a stroke', () => {
  it('of a round pen holds what is nearer to the line than half its width, and nothing else', () => {
    const number = fc.integer({ min: 0, max: 100 });
    const point = fc.tuple(number, number);
    fc.assert(
      fc.property(
        fc.array(point, { minLength: 2, maxLength: 12 }),
        fc.array(point, { maxLength: 20 }),
        (line, probes) => {
          fc.pre(new Set(line.map(String)).size > 1);
          const outline = strokeOutline(lineOf(line), 10, { cap: 'round', join: 'round', miterLimit: 10 });
          for (const [px, py] of probes) {
            const [x, y] = [px + 0.123, py + 0.457];
            const far = distance(line, x, y);
            // Round corners are drawn in steps: a hair's breadth says nothing.
            if (Math.abs(far - 5) > 0.05) expect(winding(outline, x, y) !== 0).toBe(far < 5);
          }
        },
      ),
    );
  });

  it('has the area of its ends and corners (ISO 32000-2, 8.4.3.3 to 8.4.3.5)', () => {
    const inside = (shape: Parameters<typeof strokeOutline>[2], x: number, y: number, dashes?: number[]) =>
      winding(
        strokeOutline(
          lineOf([
            [0, 0],
            [20, 0],
            [20, 20],
          ]),
          4,
          shape,
          dashes,
        ),
        x,
        y,
      ) !== 0;
    const shape = { cap: 'butt', join: 'miter', miterLimit: 10 } as const;
    // The corner of the mitre, cut off by a bevel or a limit of less than the root of 2.
    expect(inside(shape, 21.9, -1.9)).toBe(true);
    expect(inside({ ...shape, join: 'bevel' }, 21.9, -1.9)).toBe(false);
    expect(inside({ ...shape, miterLimit: 1.4 }, 21.9, -1.9)).toBe(false);
    expect(inside({ ...shape, join: 'bevel' }, 20.9, -0.9)).toBe(true);
    expect([inside(shape, -1, 0), inside({ ...shape, cap: 'square' }, -1.9, 1.9)]).toEqual([false, true]);
    // Dashes of 6 with gaps of 2, round the corner.
    expect([5, 7, 9, 15].map((x) => inside(shape, x, 0, [6, 2]))).toEqual([true, false, true, false]);
    expect([inside(shape, 20, 1, [6, 2]), inside(shape, 20, 3, [6, 2])]).toEqual([true, false]);
  });

  it('turns the corner where it is closed, and has two ends where its ends only meet', () => {
    const square = (close: boolean) => {
      const path = lineOf([
        [0, 0],
        [20, 0],
        [20, 20],
        [0, 20],
        [0, 0],
      ]);
      if (close) path.close();
      return strokeOutline(path, 4, { cap: 'butt', join: 'miter', miterLimit: 10 });
    };
    expect([true, false].map((close) => winding(square(close), -1.9, -1.9) !== 0)).toEqual([true, false]);
  });

  it('has dots for dashes of no length, as round or square as the ends', () => {
    const dotted = (cap: 'round' | 'square' | 'butt', x: number, y: number) =>
      winding(
        strokeOutline(
          lineOf([
            [0, 0],
            [30, 0],
          ]),
          4,
          { cap, join: 'miter', miterLimit: 10 },
          [0, 10],
        ),
        x,
        y,
      ) !== 0;
    expect([0.1, 1.7, 3, 10.1].map((x) => dotted('round', x, 0.1))).toEqual([true, true, false, true]);
    expect([dotted('round', 11.8, 1.8), dotted('square', 11.8, 1.8), dotted('butt', 10.05, 0.1)]).toEqual([
      false,
      true,
      false,
    ]);
  });

  it('grows with the length of a line, however often that crosses itself', () => {
    const star = (corners: number) =>
      lineOf(Array.from({ length: corners }, (_, i) => [50 * Math.cos(i * 2.4), 50 * Math.sin(i * 2.4)] as const));
    const size = (corners: number) =>
      strokeOutline(star(corners), 3, { cap: 'butt', join: 'miter', miterLimit: 4 }).verbCount;
    expect(size(2000) / size(200)).toBeCloseTo(10, 0);
  });
});
