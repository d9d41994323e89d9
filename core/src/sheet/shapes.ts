import { apply, type Affine } from '../geometry/affine';
import { arcTo, bulgeArc } from '../geometry/curves';
import type { Path } from '../geometry/path';
import { LOOP_STRIDE, POLYLINE_STRIDE, type ArcEntity, type FillEntity, type PolylineEntity } from '../drawing/model';

/** Writes a circle or arc, mapped, into a path. */
export function arcPath(path: Path, arc: ArcEntity, map: Affine): void {
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

/** Writes the centre line of a polyline, mapped, into a path. */
export function polylinePath(path: Path, polyline: PolylineEntity, map: Affine): void {
  vertexPath(path, polyline.vertices, POLYLINE_STRIDE, polyline.closed, map);
}

/** Writes the loops of a filled area, mapped, into a path. */
export function fillPath(path: Path, fill: FillEntity, map: Affine): void {
  for (const loop of fill.loops) vertexPath(path, loop, LOOP_STRIDE, true, map);
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

function vertexPath(path: Path, values: Float64Array, stride: number, closed: boolean, map: Affine): void {
  const count = Math.floor(values.length / stride);
  if (count === 0) return;
  path.moveTo(...apply(map, values[0]!, values[1]!));
  for (let i = 0; i < (closed ? count : count - 1); i++) {
    const at = i * stride;
    const to = ((i + 1) % count) * stride;
    const [x0, y0, bulge] = [values[at]!, values[at + 1]!, values[at + 2]!];
    const [x1, y1] = [values[to]!, values[to + 1]!];
    const arc = bulgeArc(x0, y0, x1, y1, bulge);
    if (arc) {
      const { u, v, centre } = circleUnder(map, arc.cx, arc.cy, arc.radius);
      arcTo(path, centre, u, v, arc.start, arc.start + arc.sweep);
    } else if (to !== 0 || !closed) path.lineTo(...apply(map, x1, y1));
  }
  if (closed) path.close();
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
