/** Receives a path: straight pieces and cubic Béziers. Coordinates in whatever unit the caller draws in. */
export interface PathSink {
  moveTo(x: number, y: number): void;
  lineTo(x: number, y: number): void;
  curveTo(x1: number, y1: number, x2: number, y2: number, x: number, y: number): void;
  close(): void;
}

/**
 * Largest turn of one Bézier by the size of the ellipse, in the units drawn in. Off the true curve by at most 2.8e-4 of
 * the radius for a quarter turn, 4.3e-6 for an eighth, 6.5e-8 for a sixteenth: where units are millimetres of paper,
 * never more than 0.005 mm.
 */
const PIECES: readonly [radius: number, turn: number][] = [
  [15, Math.PI / 2],
  [1000, Math.PI / 4],
  [Infinity, Math.PI / 8],
];

/**
 * Draws the arc of an ellipse as cubic Béziers, in pieces as small as its size asks for (see above).
 * The ellipse is given by its centre and two half axes (u, v); the arc runs over the *parameter* from `start` to
 * `end` in radians, in the direction of the sign of `end - start`. The current point must already be the start.
 */
export function arcTo(
  sink: PathSink,
  centre: readonly [number, number],
  u: readonly [number, number],
  v: readonly [number, number],
  start: number,
  end: number,
): void {
  const size = Math.max(Math.hypot(...u), Math.hypot(...v));
  const [, turn] = PIECES.find(([radius]) => size <= radius) ?? PIECES[0]!;
  const pieces = Math.max(1, Math.ceil(Math.abs(end - start) / turn - 1e-9));
  const step = (end - start) / pieces;
  const handle = (4 / 3) * Math.tan(step / 4);
  for (let i = 0; i < pieces; i++) {
    const t0 = start + i * step;
    const t1 = t0 + step;
    const [c0, s0, c1, s1] = [Math.cos(t0), Math.sin(t0), Math.cos(t1), Math.sin(t1)];
    const at = (p: number, q: number): [number, number] => [
      centre[0] + p * u[0] + q * v[0],
      centre[1] + p * u[1] + q * v[1],
    ];
    const [x1, y1] = at(c0 - handle * s0, s0 + handle * c0);
    const [x2, y2] = at(c1 + handle * s1, s1 - handle * c1);
    const [x, y] = at(c1, s1);
    sink.curveTo(x1, y1, x2, y2, x, y);
  }
}

/** The handles of the cubic Bézier that is the quadratic one from (x0, y0) to (x, y) with the handle (hx, hy). */
export function cubicHandles(
  x0: number,
  y0: number,
  hx: number,
  hy: number,
  x: number,
  y: number,
): [x1: number, y1: number, x2: number, y2: number] {
  const twoThirds = (from: number, to: number): number => from + (2 / 3) * (to - from);
  return [twoThirds(x0, hx), twoThirds(y0, hy), twoThirds(x, hx), twoThirds(y, hy)];
}

/** The point of the ellipse at parameter `t` (radians). */
export function ellipsePoint(
  centre: readonly [number, number],
  u: readonly [number, number],
  v: readonly [number, number],
  t: number,
): [number, number] {
  const [c, s] = [Math.cos(t), Math.sin(t)];
  return [centre[0] + c * u[0] + s * v[0], centre[1] + c * u[1] + s * v[1]];
}

/** A circular arc between two points; `sweep` in radians, positive counter-clockwise. */
export interface BulgeArc {
  cx: number;
  cy: number;
  radius: number;
  start: number;
  sweep: number;
}

/**
 * The arc of a polyline segment with a bulge (tangent of a quarter of the included angle, positive counter-clockwise,
 * as the DXF format defines it). Undefined for a straight or empty segment.
 */
export function bulgeArc(x0: number, y0: number, x1: number, y1: number, bulge: number): BulgeArc | undefined {
  const dx = x1 - x0;
  const dy = y1 - y0;
  const chord = Math.hypot(dx, dy);
  if (!bulge || !Number.isFinite(bulge) || chord === 0) return undefined;
  const sweep = 4 * Math.atan(bulge);
  const radius = (chord * (1 + bulge * bulge)) / (4 * Math.abs(bulge));
  const toCentre = (1 - bulge * bulge) / (4 * bulge);
  const cx = (x0 + x1) / 2 - dy * toCentre;
  const cy = (y0 + y1) / 2 + dx * toCentre;
  return { cx, cy, radius, start: Math.atan2(y0 - cy, x0 - cx), sweep };
}
