import { apply, multiply, type Affine } from '../geometry/affine';
import { arcTo, bulgeArc, ellipsePoint } from '../geometry/curves';
import { CURVE, LINE, MOVE, type Path } from '../geometry/path';
import {
  LOOP_STRIDE,
  POLYLINE_STRIDE,
  type ArcEntity,
  type EllipseEntity,
  type FillEntity,
  type PathEntity,
  type PointEntity,
  type PointStyle,
  type PolylineEntity,
  type ShapeEntity,
} from '../drawing/model';

/** Writes a circle or arc, mapped, into a path. */
function arcPath(path: Path, arc: ArcEntity, map: Affine): void {
  let sweep = arc.full ? 2 * Math.PI : arc.end - arc.start;
  // Arcs run counter-clockwise from start to end; equal angles mean a full turn.
  while (sweep <= 0) sweep += 2 * Math.PI;
  while (sweep > 2 * Math.PI + 1e-9) sweep -= 2 * Math.PI;
  const start = arc.full ? 0 : arc.start;
  const { u, v, centre } = circleUnder(map, arc.cx, arc.cy, arc.radius);
  path.moveTo(
    centre[0] + Math.cos(start) * u[0] + Math.sin(start) * v[0],
    centre[1] + Math.cos(start) * u[1] + Math.sin(start) * v[1],
  );
  arcTo(path, centre, u, v, start, start + sweep);
  if (arc.full) path.close();
}

/** Writes the arc of an ellipse, mapped, into a path. */
function ellipsePath(path: Path, ellipse: EllipseEntity, map: Affine): void {
  const { cx, cy, ux, uy, vx, vy, start } = ellipse;
  let sweep = ellipse.end - start;
  while (sweep <= 1e-12) sweep += 2 * Math.PI;
  while (sweep > 2 * Math.PI + 1e-9) sweep -= 2 * Math.PI;
  const u: [number, number] = [map.a * ux + map.c * uy, map.b * ux + map.d * uy];
  const v: [number, number] = [map.a * vx + map.c * vy, map.b * vx + map.d * vy];
  const centre = apply(map, cx, cy);
  path.moveTo(...ellipsePoint(centre, u, v, start));
  arcTo(path, centre, u, v, start, start + sweep);
  if (sweep > 2 * Math.PI - 1e-9) path.close();
}

/** Writes a ready-made curve, mapped, into a path. */
function curvePath(path: Path, { verbs, coords }: PathEntity, map: Affine): void {
  let at = 0;
  const next = (): [number, number] => apply(map, coords[at++]!, coords[at++]!);
  for (const verb of verbs) {
    if (verb === MOVE) path.moveTo(...next());
    else if (verb === LINE) path.lineTo(...next());
    else if (verb === CURVE) path.curveTo(...next(), ...next(), ...next());
    else path.close();
  }
}

/** Size of a point's mark on paper where the drawing states it relative to the screen, mm. */
const POINT_MM = 2;

/** Writes the mark of a point: a dot, cross or tick, within a circle or square (values of DXF's `$PDMODE`). */
export function pointPath(path: Path, { x, y }: PointEntity, { mode, size }: PointStyle, map: Affine): void {
  const half = size > 0 ? (size * Math.hypot(map.a, map.b)) / 2 : POINT_MM / 2;
  const [px, py] = apply(map, x, y);
  const line = (x0: number, y0: number, x1: number, y1: number): void => {
    path.moveTo(px + x0 * half, py + y0 * half);
    path.lineTo(px + x1 * half, py + y1 * half);
  };
  const figure = mode & 7;
  if (figure === 0) line(0, 0, 0, 0);
  if (figure === 2) {
    line(-1, 0, 1, 0);
    line(0, -1, 0, 1);
  }
  if (figure === 3) {
    line(-1, -1, 1, 1);
    line(-1, 1, 1, -1);
  }
  if (figure === 4) line(0, 0, 0, 1);
  if (mode & 32) {
    path.moveTo(px + half, py);
    arcTo(path, [px, py], [half, 0], [0, half], 0, 2 * Math.PI);
    path.close();
  }
  if (mode & 64) {
    line(-1, -1, 1, -1);
    path.lineTo(px + half, py + half);
    path.lineTo(px - half, py + half);
    path.close();
  }
}

/** Writes the centre line of a polyline, mapped, into a path. */
function polylinePath(path: Path, polyline: PolylineEntity, map: Affine): void {
  vertexPath(path, polyline.vertices, POLYLINE_STRIDE, polyline.closed, map);
}

/** Writes each segment of a polyline by itself, mapped, so that dashes begin anew at its corners. */
export function segmentsPath(path: Path, { vertices, closed }: PolylineEntity, map: Affine): void {
  vertexPath(path, vertices, POLYLINE_STRIDE, closed, map, true);
}

/** Writes the loops of a filled area, mapped, into a path. */
export function fillPath(path: Path, fill: FillEntity, map: Affine): void {
  loopsPath(path, fill.loops, map);
}

/** Writes closed loops of x, y and bulge, mapped, into a path. */
export function loopsPath(path: Path, loops: readonly Float64Array[], map: Affine): void {
  for (const loop of loops) vertexPath(path, loop, LOOP_STRIDE, true, map);
}

/** True when every segment of the polyline has one and the same width. */
export function constantWidth(polyline: PolylineEntity): number | undefined {
  const { vertices } = polyline;
  const width = vertices[3] ?? 0;
  for (let i = 0; i < vertices.length; i += POLYLINE_STRIDE) {
    const last = !polyline.closed && i + POLYLINE_STRIDE >= vertices.length;
    if (!last && (vertices[i + 3] !== width || vertices[i + 4] !== width)) return undefined;
  }
  return width;
}

/** Writes the outlines of a polyline whose width changes, a piece for each segment, as areas to fill. */
export function taperedPath(path: Path, polyline: PolylineEntity, map: Affine): void {
  const { vertices } = polyline;
  const count = vertices.length / POLYLINE_STRIDE;
  for (let i = 0; i < (polyline.closed ? count : count - 1); i++) {
    const at = i * POLYLINE_STRIDE;
    const to = ((i + 1) % count) * POLYLINE_STRIDE;
    const points = segmentPoints(vertices, at, to);
    const [from, end] = [vertices[at + 3]! / 2, vertices[at + 4]! / 2];
    const pieces = points.length / 2 - 1;
    for (let k = 0; k < pieces; k++) {
      const half = (n: number): number => from + ((end - from) * n) / pieces;
      quad(path, points.slice(2 * k, 2 * k + 4), half(k), half(k + 1), map);
    }
  }
}

/** Writes vertices of x, y, bulge and more; `apart` begins a piece of its own with each segment. */
function vertexPath(
  path: Path,
  values: Float64Array,
  stride: number,
  closed: boolean,
  map: Affine,
  apart = false,
): void {
  const count = Math.floor(values.length / stride);
  if (count === 0) return;
  path.moveTo(...apply(map, values[0]!, values[1]!));
  for (let i = 0; i < (closed ? count : count - 1); i++) {
    const at = i * stride;
    const to = ((i + 1) % count) * stride;
    const [x0, y0, bulge] = [values[at]!, values[at + 1]!, values[at + 2]!];
    const [x1, y1] = [values[to]!, values[to + 1]!];
    if (apart && i > 0) path.moveTo(...apply(map, x0, y0));
    const arc = bulgeArc(x0, y0, x1, y1, bulge);
    if (arc) {
      const { u, v, centre } = circleUnder(map, arc.cx, arc.cy, arc.radius);
      arcTo(path, centre, u, v, arc.start, arc.start + arc.sweep);
    } else if (to !== 0 || !closed || apart) path.lineTo(...apply(map, x1, y1));
  }
  if (closed && !apart) path.close();
}

function circleUnder(
  map: Affine,
  cx: number,
  cy: number,
  radius: number,
): { centre: [number, number]; u: [number, number]; v: [number, number] } {
  return {
    centre: apply(map, cx, cy),
    u: [map.a * radius, map.b * radius],
    v: [map.c * radius, map.d * radius],
  };
}

const ARC_PIECES = 24;

function segmentPoints(vertices: Float64Array, at: number, to: number): number[] {
  const [x0, y0, bulge] = [vertices[at]!, vertices[at + 1]!, vertices[at + 2]!];
  const [x1, y1] = [vertices[to]!, vertices[to + 1]!];
  const arc = bulgeArc(x0, y0, x1, y1, bulge);
  if (!arc) return [x0, y0, x1, y1];
  return Array.from({ length: ARC_PIECES + 1 }, (_, i) => {
    const angle = arc.start + (arc.sweep * i) / ARC_PIECES;
    return [arc.cx + arc.radius * Math.cos(angle), arc.cy + arc.radius * Math.sin(angle)];
  }).flat();
}

/** Writes what is stroked of an entity, mapped, into a path. Points and texts have none. */
export function drawPath(path: Path, entity: ShapeEntity, map: Affine): void {
  switch (entity.kind) {
    case 'line':
      path.moveTo(map.a * entity.x0 + map.c * entity.y0 + map.e, map.b * entity.x0 + map.d * entity.y0 + map.f);
      path.lineTo(map.a * entity.x1 + map.c * entity.y1 + map.e, map.b * entity.x1 + map.d * entity.y1 + map.f);
      break;
    case 'arc':
      arcPath(path, entity, map);
      break;
    case 'ellipse':
      ellipsePath(path, entity, map);
      break;
    case 'path':
      curvePath(path, entity, map);
      break;
    case 'polyline':
      polylinePath(path, entity, map);
      break;
    case 'fill':
    case 'hatch':
      loopsPath(path, entity.loops, map);
      break;
    case 'picture':
      squarePath(path, multiply(map, entity.map));
      break;
  }
}

/** Loops of x, y, mapped. */
export function mappedLoops(loops: readonly Float64Array[], map: Affine): number[][] {
  return loops.map((loop) => {
    const points: number[] = [];
    for (let i = 0; i + 1 < loop.length; i += 2) points.push(...apply(map, loop[i]!, loop[i + 1]!));
    return points;
  });
}

/** The outline of the unit square, mapped. */
export function squarePath(path: Path, map: Affine): void {
  path.moveTo(...apply(map, 0, 0));
  path.lineTo(...apply(map, 1, 0));
  path.lineTo(...apply(map, 1, 1));
  path.lineTo(...apply(map, 0, 1));
  path.close();
}

function quad(path: Path, [x0, y0, x1, y1]: number[], from: number, to: number, map: Affine): void {
  const [dx, dy] = [x1! - x0!, y1! - y0!];
  const length = Math.hypot(dx, dy);
  if (length === 0) return;
  const [nx, ny] = [-dy / length, dx / length];
  path.moveTo(...apply(map, x0! + nx * from, y0! + ny * from));
  path.lineTo(...apply(map, x1! + nx * to, y1! + ny * to));
  path.lineTo(...apply(map, x1! - nx * to, y1! - ny * to));
  path.lineTo(...apply(map, x0! - nx * from, y0! - ny * from));
  path.close();
}
