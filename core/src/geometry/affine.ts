/** An affine map of the plane: x' = a·x + c·y + e, y' = b·x + d·y + f. */
export interface Affine {
  readonly a: number;
  readonly b: number;
  readonly c: number;
  readonly d: number;
  readonly e: number;
  readonly f: number;
}

export const IDENTITY: Affine = { a: 1, b: 0, c: 0, d: 1, e: 0, f: 0 };

/** The map that applies `inner` first and `outer` after it. */
export function multiply(outer: Affine, inner: Affine): Affine {
  return {
    a: outer.a * inner.a + outer.c * inner.b,
    b: outer.b * inner.a + outer.d * inner.b,
    c: outer.a * inner.c + outer.c * inner.d,
    d: outer.b * inner.c + outer.d * inner.d,
    e: outer.a * inner.e + outer.c * inner.f + outer.e,
    f: outer.b * inner.e + outer.d * inner.f + outer.f,
  };
}

export function translation(x: number, y: number): Affine {
  return { a: 1, b: 0, c: 0, d: 1, e: x, f: y };
}

export function scaling(sx: number, sy: number = sx): Affine {
  return { a: sx, b: 0, c: 0, d: sy, e: 0, f: 0 };
}

/** Turns counter-clockwise by `radians` about the origin. */
export function rotation(radians: number): Affine {
  const cos = Math.cos(radians);
  const sin = Math.sin(radians);
  return { a: cos, b: sin, c: -sin, d: cos, e: 0, f: 0 };
}

/** Turns counter-clockwise by `radians` about a point. */
export function rotationAbout(radians: number, x: number, y: number): Affine {
  return multiply(multiply(translation(x, y), rotation(radians)), translation(-x, -y));
}

/** Grows by a factor about a point. */
export function scalingAbout(factor: number, [x, y]: readonly [x: number, y: number]): Affine {
  return { a: factor, b: 0, c: 0, d: factor, e: x * (1 - factor), f: y * (1 - factor) };
}

export function apply(m: Affine, x: number, y: number): [number, number] {
  return [m.a * x + m.c * y + m.e, m.b * x + m.d * y + m.f];
}

/** Area factor of the map; negative when it mirrors. */
export function determinant(m: Affine): number {
  return m.a * m.d - m.b * m.c;
}

/** The factor by which lengths grow on average (exact where the map is a similarity). */
export function meanScale(m: Affine): number {
  return Math.sqrt(Math.abs(determinant(m)));
}

/** The map that undoes another one, whose area factor must not be 0. */
export function inverse(m: Affine): Affine {
  const area = determinant(m);
  const [a, b, c, d] = [m.d / area, -m.b / area, -m.c / area, m.a / area];
  return { a, b, c, d, e: -(a * m.e + c * m.f), f: -(b * m.e + d * m.f) };
}
