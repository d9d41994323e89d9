import type { Entity } from '../../drawing/model';
import { determinant, type Affine } from '../../geometry/affine';
import { cross, dot, plus, scaled, unit, type Vector } from '../../geometry/vector';
import type { Record } from './record';

/** A parallel projection: the x and y of a projected point are its dot products with these two vectors. */
export type Projection = readonly [x: Vector, y: Vector];

/** Seen from above. */
export const PLAN: Projection = [
  [1, 0, 0],
  [0, 1, 0],
];

/** Below this both x and y of a plane's normal are so small that its axes are made from y instead of z (DXF). */
const NEARLY_UPRIGHT = 1 / 64;
const FLAT = 1e-9;

/** The axes of a plane and its normal, all of length one. */
export interface Plane {
  x: Vector;
  y: Vector;
  normal: Vector;
}

export const GROUND: Plane = { x: PLAN[0], y: PLAN[1], normal: [0, 0, 1] };

/** The plane that a normal stands on (DXF, arbitrary axis algorithm). */
export function planeOf(direction: Vector): Plane {
  const normal = unit(direction);
  const upright = Math.abs(normal[0]) < NEARLY_UPRIGHT && Math.abs(normal[1]) < NEARLY_UPRIGHT;
  const x = unit(cross(upright ? [0, 1, 0] : [0, 0, 1], normal));
  return { x, y: unit(cross(normal, x)), normal };
}

/** The projection seen from a direction, which points towards the viewer. Its axes are those of the plane with that normal. */
export function projectionFrom(direction: Vector): Projection {
  const { x, y } = planeOf(direction);
  return [x, y];
}

/** The projection of a point. */
export function projectPoint([x, y]: Projection, point: Vector): [x: number, y: number] {
  return [dot(x, point), dot(y, point)];
}

/** The projection of a plane that lies at a height above the origin, along its normal. */
export function projectPlane(projection: Projection, { x, y, normal }: Plane, height: number): Affine {
  const [[a, b], [c, d]] = [projectPoint(projection, x), projectPoint(projection, y)];
  const [e, f] = projectPoint(projection, scaled(normal, height));
  return { a, b, c, d, e, f };
}

/** The projection of a space whose axes were turned and stretched first. */
export function projectionThrough(projection: Projection, axes: readonly [Vector, Vector, Vector]): Projection {
  const [x, y] = projection;
  const along = (row: Vector): Vector => [dot(row, axes[0]), dot(row, axes[1]), dot(row, axes[2])];
  return [along(x), along(y)];
}

/** True when the entity lies flat, drawn from above or from below. */
export function isFlat(record: Record): boolean {
  return Math.abs(record.number(210)) < FLAT && Math.abs(record.number(220)) < FLAT;
}

/** True when the entity was drawn looking from below: its own coordinate system has x mirrored (DXF, extrusion). */
export function isMirrored(record: Record): boolean {
  return record.number(230, 1) < 0 && isFlat(record);
}

/** The plane that an entity states, by its normal; undefined where that is none. */
export function statedPlane(record: Record): Plane | undefined {
  const normal: Vector = [record.number(210), record.number(220), record.number(230, record.has(210) ? 0 : 1)];
  return Math.hypot(...normal) > 0 ? planeOf(normal) : undefined;
}

/** How the plane of an entity is projected. What lies flat is read in world coordinates, also where it was drawn from below. */
export function projectPlaneOf(record: Record, projection: Projection): Affine {
  const plane = isFlat(record) ? undefined : statedPlane(record);
  const height = record.number(38, record.number(30));
  return plane
    ? projectPlane(projection, plane, height)
    : projectPlane(projection, GROUND, isMirrored(record) ? -height : height);
}

/** Codes of the first coordinate of points and vectors; those of the others are 10 and 20 above it. */
const [FIRST_POINT, LAST_POINT] = [10, 18];

/**
 * Replaces the points and vectors of a record by their coordinates along other axes, those with codes up to `last` (that
 * of the first coordinate). Without a third axis, their z stays as it is.
 */
export function turnPoints(record: Record, [x, y, z]: readonly [Vector, Vector, Vector?], last = LAST_POINT): void {
  for (let i = 0; i < record.count; i++) {
    const code = record.codes[i]!;
    if (code < FIRST_POINT || code > last || record.codes[i + 1] !== code + 10) continue;
    const high = record.codes[i + 2] === code + 20;
    const point: Vector = [record.numberAt(i), record.numberAt(i + 1), high ? record.numberAt(i + 2) : 0];
    record.setNumber(i, dot(x, point));
    record.setNumber(i + 1, dot(y, point));
    if (high && z) record.setNumber(i + 2, dot(z, point));
  }
}

/** The axes of a block as a reference places it, in space. */
export function axesOfInsert(plane: Plane, turn: number, scales: Vector): [Vector, Vector, Vector] {
  const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
  const x = plus(scaled(plane.x, cos), scaled(plane.y, sin));
  const y = plus(scaled(plane.x, -sin), scaled(plane.y, cos));
  return [scaled(x, scales[0]), scaled(y, scales[1]), scaled(plane.normal, scales[2])];
}

/** Entities that vanish when they are seen edge-on. */
const SURFACES = new Set<Entity['kind']>(['text', 'fill', 'hatch', 'picture', 'insert']);
const EDGE_ON = 1e-9;

/** True for an entity of which nothing is seen through the projection of its plane. */
export function isEdgeOn({ kind }: Entity, map: Affine): boolean {
  return SURFACES.has(kind) && Math.abs(determinant(map)) < EDGE_ON;
}
