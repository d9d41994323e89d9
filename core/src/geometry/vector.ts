/** A point or a direction in space. */
export type Vector = readonly [x: number, y: number, z: number];

export function cross(a: Vector, b: Vector): Vector {
  return [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
}

export function dot(a: Vector, b: Vector): number {
  return a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
}

/** A direction with the length one; one without a length stays so. */
export function unit(a: Vector): Vector {
  return scaled(a, 1 / (Math.hypot(...a) || 1));
}

export function scaled([x, y, z]: Vector, by: number): Vector {
  return [x * by, y * by, z * by];
}

export function plus(a: Vector, b: Vector): Vector {
  return [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
}

export function minus(a: Vector, b: Vector): Vector {
  return [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
}
