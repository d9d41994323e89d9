import { flattened } from '../geometry/flatten';
import { Path } from '../geometry/path';
import type { HatchEntity, HatchFamily } from '../drawing/model';
import { meanScale, type Affine } from '../geometry/affine';
import { loopsPath } from './shapes';

/** Pattern lines nearer to each other on paper than this (mm) print as a tint: they are drawn as one. */
const NEAREST_LINES_MM = 0.1;
/** More pieces than this are taken for a pattern gone wrong. */
const MAX_PIECES = 500_000;

/** What came of drawing a pattern: its lines, or an area to be screened because they would be too dense. */
export type HatchOutcome = 'lines' | 'screen';

/**
 * Writes the lines of a hatch pattern, cut to its loops and mapped to the paper (mm), into a path. Nothing is written
 * where they would be too dense to print or too many to be meant; `screen` is set then.
 */
export function hatchPath(out: Path, hatch: HatchEntity, map: Affine): HatchOutcome {
  const outline = new Path();
  // In the drawing's own coordinates and curved to a hundredth of a millimetre on the paper.
  loopsPath(outline, hatch.loops, map);
  const edges = edgesOf(outline, inverse(map));
  let pieces = 0;
  const written = new Path();
  for (const family of hatch.families) {
    const spacing = spacingOf(family);
    if (!(spacing * meanScale(map) >= NEAREST_LINES_MM)) return 'screen';
    for (const [line, crossings] of crossingsOf(edges, family)) {
      crossings.sort((a, b) => a - b);
      for (let i = 0; i + 1 < crossings.length; i += 2) {
        pieces += dash(written, family, line, crossings[i]!, crossings[i + 1]!, map, MAX_PIECES - pieces);
        if (pieces >= MAX_PIECES) return 'screen';
      }
    }
  }
  out.append(written);
  return 'lines';
}

/** Distance between neighbouring lines, drawing units. */
function spacingOf({ angle, dx, dy }: HatchFamily): number {
  return Math.abs(dy * Math.cos(angle) - dx * Math.sin(angle));
}

/** The edges of the loops as x0, y0, x1, y1, back in drawing coordinates. */
function edgesOf(outline: Path, back: Affine): Float64Array {
  const edges: number[] = [];
  for (const line of flattened(outline)) {
    for (let i = 0; i + 3 < line.length; i += 2) {
      const [x0, y0, x1, y1] = [line[i]!, line[i + 1]!, line[i + 2]!, line[i + 3]!];
      edges.push(back.a * x0 + back.c * y0 + back.e, back.b * x0 + back.d * y0 + back.f);
      edges.push(back.a * x1 + back.c * y1 + back.e, back.b * x1 + back.d * y1 + back.f);
    }
  }
  return Float64Array.from(edges);
}

/** Where each numbered line of a family crosses the edges: distances along it from the line's own origin. */
function crossingsOf(edges: Float64Array, family: HatchFamily): Map<number, number[]> {
  const [cos, sin] = [Math.cos(family.angle), Math.sin(family.angle)];
  const step = family.dy * cos - family.dx * sin;
  const shift = family.dx * cos + family.dy * sin;
  const lines = new Map<number, number[]>();
  let count = 0;
  for (let i = 0; i < edges.length; i += 4) {
    const across = (k: number): number => (edges[i + k + 1]! - family.y) * cos - (edges[i + k]! - family.x) * sin;
    const along = (k: number): number => (edges[i + k]! - family.x) * cos + (edges[i + k + 1]! - family.y) * sin;
    const [n0, n1, s0, s1] = [across(0) / step, across(2) / step, along(0), along(2)];
    // Half open, so that a line through a corner meets just one of the two edges there.
    const first = Math.ceil(Math.min(n0, n1));
    const last = Math.ceil(Math.max(n0, n1)) - 1;
    count += last - first + 1;
    if (count > 2 * MAX_PIECES) return new Map();
    for (let line = first; line <= last; line++) {
      const s = s0 + ((line - n0) / (n1 - n0)) * (s1 - s0) - line * shift;
      const known = lines.get(line);
      if (known) known.push(s);
      else lines.set(line, [s]);
    }
  }
  return lines;
}

/** Writes one stretch of a line in its dashes; returns how many pieces it took. */
function dash(
  out: Path,
  family: HatchFamily,
  line: number,
  from: number,
  to: number,
  map: Affine,
  most: number,
): number {
  const [cos, sin] = [Math.cos(family.angle), Math.sin(family.angle)];
  const [ox, oy] = [family.x + line * family.dx, family.y + line * family.dy];
  const at = (s: number): [number, number] => {
    const [x, y] = [ox + s * cos, oy + s * sin];
    return [map.a * x + map.c * y + map.e, map.b * x + map.d * y + map.f];
  };
  const piece = (start: number, end: number): void => {
    out.moveTo(...at(start));
    out.lineTo(...at(end));
  };
  const period = family.dashes.reduce((sum, length) => sum + Math.abs(length), 0);
  if (!(period > 0)) {
    piece(from, to);
    return 1;
  }
  let pieces = 0;
  let s = Math.floor(from / period) * period;
  while (s < to && pieces < most) {
    for (const length of family.dashes) {
      const end = s + Math.abs(length);
      if (length >= 0 && end >= from && s <= to) {
        piece(Math.max(s, from), Math.min(end, to));
        pieces++;
      }
      s = end;
    }
  }
  return pieces;
}

function inverse(m: Affine): Affine {
  const det = m.a * m.d - m.b * m.c;
  const [a, b, c, d] = [m.d / det, -m.b / det, -m.c / det, m.a / det];
  return { a, b, c, d, e: -(a * m.e + c * m.f), f: -(b * m.e + d * m.f) };
}
