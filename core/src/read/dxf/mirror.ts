import { multiply, translation, type Affine } from '../../geometry/affine';
import type { Record } from './record';

type Vector = readonly [number, number, number];

/** Below this both x and y of a plane's normal are so small that its axes are made from y instead of z (DXF). */
const NEARLY_UPRIGHT = 1 / 64;
const FLAT = 1e-9;

/** True when the entity lies flat, drawn from above or from below. */
export function isFlat(record: Record): boolean {
  return Math.abs(record.number(210)) < FLAT && Math.abs(record.number(220)) < FLAT;
}

/** True when the entity was drawn looking from below: its own coordinate system has x mirrored (DXF, extrusion). */
export function isMirrored(record: Record): boolean {
  return record.number(230, 1) < 0 && isFlat(record);
}

/**
 * How an entity's own plane is seen on the plan, by its normal and its height above the plane's origin (DXF, arbitrary
 * axis algorithm). Undefined where the normal is none.
 */
export function planView(record: Record): Affine | undefined {
  const given: Vector = [record.number(210), record.number(220), record.number(230)];
  const length = Math.hypot(...given);
  if (!(length > 0)) return undefined;
  const normal = given.map((part) => part / length) as unknown as Vector;
  const upright = Math.abs(normal[0]) < NEARLY_UPRIGHT && Math.abs(normal[1]) < NEARLY_UPRIGHT;
  const x = unit(cross(upright ? [0, 1, 0] : [0, 0, 1], normal));
  const y = unit(cross(normal, x));
  const height = record.number(38, record.number(30));
  const plane = { a: x[0], b: x[1], c: y[0], d: y[1], e: 0, f: 0 };
  return multiply(translation(normal[0] * height, normal[1] * height), plane);
}

function cross(a: Vector, b: Vector): Vector {
  return [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
}

function unit(v: Vector): Vector {
  const length = Math.hypot(...v) || 1;
  return [v[0] / length, v[1] / length, v[2] / length];
}
