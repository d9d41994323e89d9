import { Path } from '../../src/index';
import { splinePath, throughPoints, type Spline } from '../../src/geometry/spline';

/** Points along the Béziers of a path. */
function along(path: Path, pieces = 20): [number, number][] {
  const c = path.coords;
  const points: [number, number][] = [[c[0]!, c[1]!]];
  let at = 2;
  for (let v = 1; v < path.verbCount; v++) {
    const [x0, y0] = points.at(-1)!;
    if (path.verbs[v] === 1) {
      points.push([c[at]!, c[at + 1]!]);
      at += 2;
      continue;
    }
    for (let i = 1; i <= pieces; i++) {
      const [t, s] = [i / pieces, 1 - i / pieces];
      const w = [s ** 3, 3 * s * s * t, 3 * s * t * t, t ** 3];
      const axis = (k: 0 | 1): number =>
        w[0]! * [x0, y0][k]! + w[1]! * c[at + k]! + w[2]! * c[at + 2 + k]! + w[3]! * c[at + 4 + k]!;
      points.push([axis(0), axis(1)]);
    }
    at += 6;
  }
  return points;
}

function drawn(spline: Spline): [number, number][] {
  const path = new Path();
  expect(splinePath(path, spline)).toBe(true);
  return along(path);
}

describe('B-splines', () => {
  it('draw the Bézier that a clamped spline of one span is', () => {
    const path = new Path();
    splinePath(path, { degree: 3, knots: [0, 0, 0, 0, 1, 1, 1, 1], points: [0, 0, 1, 3, 4, 3, 5, 0], weights: [] });
    expect([...path.coords.subarray(0, path.coordCount)]).toEqual([0, 0, 1, 3, 4, 3, 5, 0]);
  });

  it('raise a quadratic exactly: a parabola stays one', () => {
    // y = x² over 0…2 has the control points (0,0) (1,0) (2,4).
    const points = drawn({ degree: 2, knots: [0, 0, 0, 1, 1, 1], points: [0, 0, 1, 0, 2, 4], weights: [] });
    for (const [x, y] of points) expect(y).toBeCloseTo(x * x, 12);
  });

  // The weight cos 45° makes the quadratic a quarter circle (Piegl and Tiller, The NURBS Book, 7.3; from memory).
  it('draw a rational quarter circle round to a millionth', () => {
    const points = drawn({
      degree: 2,
      knots: [0, 0, 0, 1, 1, 1],
      points: [1, 0, 1, 1, 0, 1],
      weights: [1, Math.SQRT1_2, 1],
    });
    for (const [x, y] of points) expect(Math.abs(Math.hypot(x, y) - 1)).toBeLessThan(1e-6);
    expect(points.at(-1)).toEqual([expect.closeTo(0, 12), expect.closeTo(1, 12)]);
  });

  it('begin where an unclamped spline is valid', () => {
    const points = drawn({
      degree: 3,
      knots: [0, 1, 2, 3, 4, 5, 6, 7],
      points: [0, 0, 6, 6, 12, 0, 18, 6],
      weights: [],
    });
    // Uniform cubic: (P0 + 4 P1 + P2) / 6.
    expect(points[0]).toEqual([expect.closeTo(6), expect.closeTo(4)]);
    expect(points.at(-1)).toEqual([expect.closeTo(12), expect.closeTo(2)]);
  });

  it('are refused when their numbers do not fit', () => {
    const path = new Path();
    const good: Spline = { degree: 1, knots: [0, 0, 1, 1], points: [0, 0, 1, 1], weights: [] };
    for (const bad of [
      { knots: [0, 1] },
      { degree: 0 },
      { degree: 99 },
      { points: [0, 0] },
      { weights: [1] },
      { weights: [1, 0] },
      { knots: [0, 0, 0, 0] },
    ]) {
      expect(splinePath(path, { ...good, ...bad })).toBe(false);
    }
    expect(path.verbCount).toBe(0);
  });
});

describe('curves through points', () => {
  it('are straight through points on a line', () => {
    const path = new Path();
    throughPoints(path, [0, 0, 1, 1, 4, 4, 9, 9]);
    for (const [x, y] of along(path)) expect(y).toBeCloseTo(x, 10);
  });

  it('pass every point, with one slope on both sides', () => {
    const given = [0, 0, 2, 5, 6, 1, 6, 1, 9, 4];
    const path = new Path();
    throughPoints(path, given);
    expect(path.verbCount).toBe(4);
    const c = path.coords;
    expect([c[6], c[7]]).toEqual([2, 5]);
    const before = Math.atan2(c[7]! - c[5]!, c[6]! - c[4]!);
    const behind = Math.atan2(c[9]! - c[7]!, c[8]! - c[6]!);
    expect(before).toBeCloseTo(behind, 10);
    expect(throughPoints(new Path(), [1, 1, 1, 1])).toBe(false);
  });
});
