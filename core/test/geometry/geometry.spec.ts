import fc from 'fast-check';
import { apply, multiply, determinant, Path, rotation, scaling, translation } from '../../src/index';
import { clipPolygon, clipSegment } from '../../src/geometry/clip';
import { arcTo, bulgeArc } from '../../src/geometry/curves';
import { clipStroke } from '../../src/geometry/clip-path';
import { CURVE } from '../../src/geometry/path';

const number = fc.double({ min: -1000, max: 1000, noNaN: true });
const BOX = { xmin: 0, ymin: 0, xmax: 10, ymax: 10 };

describe('affine maps', () => {
  it('compose applies the inner one first', () => {
    fc.assert(
      fc.property(number, number, number, number, (x, y, dx, turn) => {
        const inner = multiply(translation(dx, 3), scaling(2, 0.5));
        const outer = rotation(turn);
        const [a, b] = apply(multiply(outer, inner), x, y);
        const [c, d] = apply(outer, ...apply(inner, x, y));
        expect(a).toBeCloseTo(c, 6);
        expect(b).toBeCloseTo(d, 6);
      }),
    );
  });

  it('tells mirrors by the determinant', () => {
    expect(determinant(scaling(-2, 3))).toBe(-6);
  });
});

describe('clipping', () => {
  it('keeps a segment inside the box and on its line', () => {
    fc.assert(
      fc.property(number, number, number, number, (x0, y0, x1, y1) => {
        const part = clipSegment(BOX, x0, y0, x1, y1);
        if (!part) return;
        for (const [x, y] of [part.slice(0, 2), part.slice(2)] as [number, number][]) {
          expect(x).toBeGreaterThanOrEqual(-1e-6);
          expect(x).toBeLessThanOrEqual(10 + 1e-6);
          const off = (x - x0) * (y1 - y0) - (y - y0) * (x1 - x0);
          expect(Math.abs(off)).toBeLessThan(1e-6 * (1 + Math.hypot(x1 - x0, y1 - y0) * 2000));
        }
      }),
    );
  });

  it('cuts what crosses and drops what misses', () => {
    expect(clipSegment(BOX, -5, 5, 15, 5)).toEqual([0, 5, 10, 5]);
    expect(clipSegment(BOX, -5, 11, 15, 11)).toBeUndefined();
    expect(clipPolygon(BOX, [-5, -5, 5, -5, 5, 5, -5, 5])).toEqual(expect.arrayContaining([0, 0, 5, 5]));
    expect(clipPolygon(BOX, [20, 20, 30, 20, 30, 30])).toEqual([]);
  });

  it('breaks a stroke where it leaves the box', () => {
    const path = new Path();
    path.moveTo(5, 5);
    path.lineTo(5, 20);
    path.lineTo(8, 20);
    path.lineTo(8, 5);
    const out = new Path();
    clipStroke(path, BOX, out);
    expect([...out.coords.subarray(0, out.coordCount)]).toEqual([5, 5, 5, 10, 8, 10, 8, 5]);
    expect([...out.verbs.subarray(0, out.verbCount)]).toEqual([0, 1, 0, 1]);
  });
});

describe('curves', () => {
  it.each([1, 15, 16, 500, 1000, 5000])('keeps a circle of %d mm round to 0.005 mm', (radius) => {
    const path = new Path();
    path.moveTo(radius, 0);
    arcTo(path, [0, 0], [radius, 0], [0, radius], 0, 2 * Math.PI);
    const verbs = [...path.verbs.subarray(1, path.verbCount)];
    expect(verbs.every((verb) => verb === CURVE)).toBe(true);
    const c = path.coords;
    let worst = 0;
    for (let at = 0; at < 6 * verbs.length; at += 6) {
      for (let i = 0; i <= 50; i++) {
        const [t, s] = [i / 50, 1 - i / 50];
        const w = [s ** 3, 3 * s * s * t, 3 * s * t * t, t ** 3];
        const x = w.reduce((sum, weight, k) => sum + weight * c[at + 2 * k]!, 0);
        const y = w.reduce((sum, weight, k) => sum + weight * c[at + 2 * k + 1]!, 0);
        worst = Math.max(worst, Math.abs(Math.hypot(x, y) - radius));
      }
    }
    expect(worst).toBeLessThan(0.005);
  });

  // DXF reference: bulge is the tangent of a quarter of the included angle, positive counter-clockwise.
  it('makes a half circle of bulge 1 and a quarter of tan(22.5°)', () => {
    const half = bulgeArc(0, 0, 10, 0, 1)!;
    expect([half.cx, half.cy, half.radius]).toEqual([5, 0, 5]);
    expect(half.sweep).toBeCloseTo(Math.PI);
    const quarter = bulgeArc(10, 0, 0, 10, Math.tan(Math.PI / 8))!;
    expect(quarter.cx).toBeCloseTo(0);
    expect(quarter.cy).toBeCloseTo(0);
    expect(quarter.radius).toBeCloseTo(10);
    expect(bulgeArc(0, 0, 10, 0, 0)).toBeUndefined();
    expect(bulgeArc(3, 3, 3, 3, 1)).toBeUndefined();
  });
});
