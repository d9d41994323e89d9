import { flatLines } from './flatten';
import type { LineShape } from './line-shape';
import { Path } from './path';

/** Round ends and corners are drawn in steps of at most this, radians. */
const STEP = Math.PI / 18;
/** A dash of no length is a dot where the ends of dashes are round or square: so long, to tell where it points. */
const DOT = 1e-9;
/** More dashes than this are not drawn one by one. */
const MAX_DASHES = 50_000;

type Point = readonly [x: number, y: number];

/**
 * The area that a stroke covers, to be filled by the nonzero rule: what an even pen draws, for lines that are seen through
 * a map that makes the pen uneven. Its pieces and corners lie over each other, all turning the same way, so that however
 * often a line crosses itself, its outline takes no longer than its length.
 */
export function strokeOutline(path: Path, width: number, shape: LineShape, dashes: readonly number[] = []): Path {
  const outline = new Path();
  if (!(width > 0)) return outline;
  for (const { points, closed } of flatLines(path)) {
    const pieces = dashes.length > 0 ? dashed(points, dashes) : [points];
    const whole = pieces.length === 1 && pieces[0] === points;
    for (const piece of pieces) outlinePiece(outline, pointsOf(piece), width / 2, shape, whole && closed);
  }
  return outline;
}

/** The points of a line of x, y pairs, each different from the one before. */
function pointsOf(line: readonly number[]): Point[] {
  const points: Point[] = [];
  for (let i = 0; i + 1 < line.length; i += 2) {
    const last = points.at(-1);
    if (!last || last[0] !== line[i] || last[1] !== line[i + 1]) points.push([line[i]!, line[i + 1]!]);
  }
  return points;
}

function outlinePiece(out: Path, points: Point[], half: number, shape: LineShape, closed: boolean): void {
  const [first, last] = [points[0], points.at(-1)];
  if (!first || !last || points.length < 2) return;
  const normals = points.slice(1).map((to, i) => normal(points[i]!, to, half));
  normals.forEach(([nx, ny], i) => {
    const [[x0, y0], [x1, y1]] = [points[i]!, points[i + 1]!];
    polygon(out, [
      [x0 + nx, y0 + ny],
      [x0 - nx, y0 - ny],
      [x1 - nx, y1 - ny],
      [x1 + nx, y1 + ny],
    ]);
    const next = normals[i + 1] ?? (closed ? normals[0] : undefined);
    if (next) corner(out, points[i + 1]!, [nx, ny], next, half, shape);
  });
  if (closed || shape.cap === 'butt') return;
  const end = normals.at(-1)!;
  cap(out, first, [-normals[0]![0], -normals[0]![1]], half, shape.cap);
  cap(out, last, end, half, shape.cap);
}

/** To the left of a line, as long as half its width. */
function normal([x0, y0]: Point, [x1, y1]: Point, half: number): Point {
  const length = Math.hypot(x1 - x0, y1 - y0);
  return [(-(y1 - y0) / length) * half, ((x1 - x0) / length) * half];
}

/** What fills the gap on the outer side of a corner between two pieces with these normals. */
function corner(out: Path, at: Point, a: Point, b: Point, half: number, { join, miterLimit }: LineShape): void {
  const turn = a[0] * b[1] - a[1] * b[0];
  const along = a[0] * b[0] + a[1] * b[1];
  if (turn === 0 && along > 0) return;
  // The gap is on the right of a turn to the left.
  const side = turn > 0 ? -1 : 1;
  const [from, to]: [Point, Point] = [
    [side * a[0], side * a[1]],
    [side * b[0], side * b[1]],
  ];
  const around = (points: readonly Point[]): void =>
    polygon(out, [at, ...points.map(([x, y]): Point => [at[0] + x, at[1] + y])]);
  if (join === 'round') return around(arc(from, to, half));
  // The sine of half the angle between the pieces: a mitre is 1 / sine widths long (ISO 32000-2, 8.4.3.5).
  const sine = Math.sqrt(Math.max(0, (1 + along / (half * half)) / 2));
  if (join === 'miter' && sine > 0 && 1 / sine <= miterLimit) {
    const factor = 1 / (2 * sine * sine);
    return around([from, [(from[0] + to[0]) * factor, (from[1] + to[1]) * factor], to]);
  }
  around([from, to]);
}

/** What a cap adds at the end of a line whose last piece has this normal. */
function cap(out: Path, [x, y]: Point, [nx, ny]: Point, half: number, kind: LineShape['cap']): void {
  const ahead: Point = [ny, -nx];
  const ends: Point[] =
    kind === 'round'
      ? [...arc([nx, ny], ahead, half), ...arc(ahead, [-nx, -ny], half)]
      : [
          [nx, ny],
          [nx + ahead[0], ny + ahead[1]],
          [ahead[0] - nx, ahead[1] - ny],
          [-nx, -ny],
        ];
  polygon(
    out,
    ends.map(([dx, dy]): Point => [x + dx, y + dy]),
  );
}

/** Points of a circle about the origin, the short way from one to another. */
function arc(from: Point, to: Point, radius: number): Point[] {
  const start = Math.atan2(from[1], from[0]);
  let sweep = Math.atan2(to[1], to[0]) - start;
  if (sweep > Math.PI) sweep -= 2 * Math.PI;
  if (sweep < -Math.PI) sweep += 2 * Math.PI;
  const steps = Math.max(1, Math.ceil(Math.abs(sweep) / STEP));
  return Array.from({ length: steps + 1 }, (_, i): Point => {
    const angle = start + (sweep * i) / steps;
    return [radius * Math.cos(angle), radius * Math.sin(angle)];
  });
}

/** Adds a polygon, turned counter-clockwise. */
function polygon(out: Path, points: readonly Point[]): void {
  let twice = 0;
  points.forEach(([x, y], i) => {
    const [nextX, nextY] = points[(i + 1) % points.length]!;
    twice += x * nextY - nextX * y;
  });
  const turned = twice < 0 ? [...points].reverse() : points;
  turned.forEach(([x, y], i) => (i === 0 ? out.moveTo(x, y) : out.lineTo(x, y)));
  out.close();
}

/** The dashes of a line of x, y pairs, dashes and gaps given in turn; the line itself where they would be too many. */
function dashed(line: readonly number[], dashes: readonly number[]): (readonly number[])[] {
  const pattern = dashes.length % 2 ? [...dashes, ...dashes] : dashes;
  const total = pattern.reduce((sum, dash) => sum + dash, 0);
  let length = 0;
  for (let i = 2; i + 1 < line.length; i += 2)
    length += Math.hypot(line[i]! - line[i - 2]!, line[i + 1]! - line[i - 1]!);
  if (!(total > 0) || (length / total) * pattern.length > MAX_DASHES) return [line];
  const pieces: number[][] = [];
  let [at, left] = [0, pattern[0]!];
  let piece: number[] | undefined = [line[0]!, line[1]!];
  for (let i = 2; i + 1 < line.length; i += 2) {
    let [x, y] = [line[i - 2]!, line[i - 1]!];
    let rest = Math.hypot(line[i]! - x, line[i + 1]! - y);
    while (rest > left) {
      const share = left / rest;
      [x, y, rest] = [x + (line[i]! - x) * share, y + (line[i + 1]! - y) * share, rest - left];
      const dot = pattern[at] === 0 ? DOT / rest : 0;
      if (piece) pieces.push([...piece, x + (line[i]! - x) * dot, y + (line[i + 1]! - y) * dot]);
      at = (at + 1) % pattern.length;
      left = pattern[at]!;
      piece = at % 2 ? undefined : [x, y];
    }
    left -= rest;
    piece?.push(line[i]!, line[i + 1]!);
  }
  if (piece && piece.length > 2) pieces.push(piece);
  return pieces;
}
