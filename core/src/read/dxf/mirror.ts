import { multiply, translation, type Affine } from '../../geometry/affine';
import { cross, unit, type Vector } from '../../geometry/vector';
import type { Record } from './record';

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
  if (!(Math.hypot(...given) > 0)) return undefined;
  const normal = unit(given);
  const [x, y] = planeAxes(normal);
  const height = record.number(38, record.number(30));
  const plane = { a: x[0], b: x[1], c: y[0], d: y[1], e: 0, f: 0 };
  return multiply(translation(normal[0] * height, normal[1] * height), plane);
}

/** The axes of the plane that a normal of length one stands on (DXF, arbitrary axis algorithm). */
export function planeAxes(normal: Vector): [x: Vector, y: Vector] {
  const upright = Math.abs(normal[0]) < NEARLY_UPRIGHT && Math.abs(normal[1]) < NEARLY_UPRIGHT;
  const x = unit(cross(upright ? [0, 1, 0] : [0, 0, 1], normal));
  return [x, unit(cross(normal, x))];
}
