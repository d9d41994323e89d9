import type { HatchFamily, PlainEntity, Style } from '../../drawing/model';
import { meanColour } from '../../drawing/gradient';
import { LOOP_STRIDE } from '../../drawing/model';
import { apply, multiply, rotation, type Affine } from '../../geometry/affine';
import { Path } from '../../geometry/path';
import { flattened } from '../../geometry/flatten';
import { boxOfLoops, contains } from '../../geometry/box';
import { isInside } from '../../geometry/clip-loops';
import { bulgeArc, ellipsePoint } from '../../geometry/curves';
import { splinePath } from '../../geometry/spline';
import type { Warnings } from '../warnings';
import { Cursor } from './cursor';
import { allNumbers } from './curves';
import { isMirrored } from './projection';
import type { Record } from './record';

const RADIANS = Math.PI / 180;
/** Straight pieces of a full ellipse in a boundary: off by 7.5e-5 of its radius. */
const ELLIPSE_PIECES = 256;
/** Straight pieces of a bulge, where only the nesting of loops matters. */
const BULGE_PIECES = 16;
const POLYLINE = 2;
/** Hatch styles besides the usual one, in which every loop counts. */
const [OUTERMOST, WHOLE] = [1, 2];
/** With more loops than this, their nesting is not looked at. */
const MAX_NESTED = 2000;
/** Boundaries, families and dashes beyond this are taken for nonsense. */
const MAX_PARTS = 100_000;

/**
 * HATCH: a solid or averaged fill, or the lines of a pattern, within loops that alternate between in and out, or what
 * its style makes of them.
 */
export function readHatch(record: Record, style: Style, handle: string, warnings: Warnings): PlainEntity {
  const mirror = isMirrored(record) ? -1 : 1;
  const cursor = new Cursor(record, record.find(91));
  const loops = shownLoops(readLoops(cursor), record.integer(75)).map((loop) => mirroredLoop(loop, mirror));
  if (record.integer(450) === 1) return gradientFill(record, style, handle, { loops, mirror }, warnings);
  if (record.integer(70) === 1) return { kind: 'fill', style, handle, loops };
  const families = readFamilies(cursor, mirror);
  if (families.length > 0) return { kind: 'hatch', style, handle, loops, families };
  const place = { handle, layer: record.text(8), line: record.line };
  const sentence = 'A HATCH states no pattern lines and is shown as its outline; hatch it again in its program.';
  warnings.add('dxf.hatch-without-lines', sentence, place);
  return { kind: 'hatch', style, handle, loops, families: [] };
}

/**
 * The loops that an area of even and odd parts is made from, by hatch style (code 75): all of them; only the outermost
 * and the islands in them; only the outermost, islands and all.
 */
function shownLoops(loops: number[][], style: number): number[][] {
  if ((style !== OUTERMOST && style !== WHOLE) || loops.length < 2 || loops.length > MAX_NESTED) return loops;
  const outlines = loops.map(outlineOf);
  const areas = outlines.map((outline) => Math.abs(areaOf(outline)));
  const boxes = outlines.map((outline) => boxOfLoops([outline]));
  const depthOf = (i: number): number => {
    const [x, y] = [outlines[i]![0]!, outlines[i]![1]!];
    // Boxes first: most loops are nowhere near each other.
    const around = outlines.filter((_, j) => areas[j]! > areas[i]! && contains(boxes[j]!, boxes[i]!));
    return around.filter((outline) => isInside([outline], x, y)).length;
  };
  return loops.filter((_, i) => depthOf(i) <= (style === OUTERMOST ? 1 : 0));
}

/** A loop of x, y, bulge as straight pieces. */
function outlineOf(loop: readonly number[]): number[] {
  const outline: number[] = [];
  for (let i = 0; i < loop.length; i += LOOP_STRIDE) {
    const [x, y, bulge] = [loop[i]!, loop[i + 1]!, loop[i + 2]!];
    const next = (i + LOOP_STRIDE) % loop.length;
    const arc = bulgeArc(x, y, loop[next]!, loop[next + 1]!, bulge);
    outline.push(x, y);
    for (let k = 1; arc && k < BULGE_PIECES; k++) {
      const angle = arc.start + (arc.sweep * k) / BULGE_PIECES;
      outline.push(arc.cx + arc.radius * Math.cos(angle), arc.cy + arc.radius * Math.sin(angle));
    }
  }
  return outline;
}

/** Area of a closed outline of x, y pairs, positive counter-clockwise. */
function areaOf(outline: readonly number[]): number {
  let twice = 0;
  for (let i = 0, j = outline.length - 2; i < outline.length; j = i, i += 2) {
    twice += outline[j]! * outline[i + 1]! - outline[i]! * outline[j + 1]!;
  }
  return twice / 2;
}

function readLoops(cursor: Cursor): number[][] {
  const loops: number[][] = [];
  let paths = Math.min(MAX_PARTS, cursor.integer(91));
  while (paths-- > 0 && cursor.inside) {
    const loop = cursor.integer(92) & POLYLINE ? polylineLoop(cursor) : edgeLoop(cursor);
    if (loop.length >= 2 * LOOP_STRIDE) loops.push(loop);
    // The objects that a boundary was made from follow it; they name handles only.
    cursor.skip(330, cursor.integer(97));
  }
  return loops;
}

function polylineLoop(cursor: Cursor): number[] {
  const hasBulge = cursor.integer(72) !== 0;
  cursor.integer(73);
  const points: number[] = [];
  let count = cursor.integer(93);
  while (count-- > 0 && cursor.inside) {
    points.push(cursor.number(10), cursor.number(20), hasBulge ? cursor.optional(42, 0) : 0);
  }
  return points;
}

/** A boundary of lines, arcs, ellipses and splines joined end to end. */
function edgeLoop(cursor: Cursor): number[] {
  const points: number[] = [];
  let edges = cursor.integer(93);
  while (edges-- > 0 && cursor.inside) {
    const type = cursor.integer(72);
    if (type === 1) {
      points.push(cursor.number(10), cursor.number(20), 0);
      cursor.number(11);
      cursor.number(21);
    } else if (type === 2) points.push(...arcEdge(cursor));
    else if (type === 3) points.push(...ellipseEdge(cursor));
    else if (type === 4) points.push(...splineEdge(cursor));
    else break;
  }
  return points;
}

/** An arc edge as bulged vertices, in pieces of a half turn at most (a bulge cannot say a full circle). */
function arcEdge(cursor: Cursor): number[] {
  const [cx, cy, radius] = [cursor.number(10), cursor.number(20), cursor.number(40)];
  const { start, sweep } = turnOf(cursor);
  const pieces = Math.abs(sweep) > Math.PI ? 2 : 1;
  return Array.from({ length: pieces }, (_, i) => {
    const angle = start + (sweep * i) / pieces;
    return [cx + radius * Math.cos(angle), cy + radius * Math.sin(angle), Math.tan(sweep / pieces / 4)];
  }).flat();
}

function ellipseEdge(cursor: Cursor): number[] {
  const centre: [number, number] = [cursor.number(10), cursor.number(20)];
  const u: [number, number] = [cursor.number(11), cursor.number(21)];
  const ratio = cursor.number(40);
  const { start, sweep } = turnOf(cursor);
  const pieces = Math.max(1, Math.ceil((Math.abs(sweep) / (2 * Math.PI)) * ELLIPSE_PIECES));
  const v: [number, number] = [-u[1] * ratio, u[0] * ratio];
  return Array.from({ length: pieces }, (_, i) => [
    ...ellipsePoint(centre, u, v, start + (sweep * i) / pieces),
    0,
  ]).flat();
}

/** Start and signed sweep of an arc edge; clockwise ones store their angles negated (DXF, boundary path data). */
function turnOf(cursor: Cursor): { start: number; sweep: number } {
  let start = cursor.number(50) * RADIANS;
  let end = cursor.number(51) * RADIANS;
  const clockwise = cursor.integer(73) === 0;
  if (clockwise) [start, end] = [-start, -end];
  let sweep = end - start;
  if (clockwise && sweep >= 0) sweep -= 2 * Math.PI;
  if (!clockwise && sweep <= 0) sweep += 2 * Math.PI;
  return { start, sweep };
}

function splineEdge(cursor: Cursor): number[] {
  const degree = cursor.integer(94);
  const rational = cursor.integer(73) !== 0;
  cursor.integer(74);
  const [knotCount, pointCount] = [cursor.integer(95), cursor.integer(96)].map((n) => Math.min(n, MAX_PARTS));
  const knots = Array.from({ length: knotCount! }, () => cursor.number(40));
  const [points, weights]: [number[], number[]] = [[], []];
  for (let i = 0; i < pointCount! && cursor.inside; i++) {
    points.push(cursor.number(10), cursor.number(20));
    if (rational) weights.push(cursor.optional(42, 1));
  }
  const path = new Path();
  if (!splinePath(path, { degree, knots, points, weights })) return [];
  const line = flattened(path)[0] ?? [];
  const loop: number[] = [];
  // The last point is the first of the next edge.
  for (let i = 0; i + 2 < line.length; i += 2) loop.push(line[i]!, line[i + 1]!, 0);
  return loop;
}

function readFamilies(cursor: Cursor, mirror: number): HatchFamily[] {
  if (!cursor.seek(78)) return [];
  const families: HatchFamily[] = [];
  let count = Math.min(MAX_PARTS, cursor.integer(78));
  while (count-- > 0 && cursor.seek(53)) {
    const angle = cursor.number(53) * RADIANS;
    const [x, y] = [mirror * cursor.number(43), cursor.number(44)];
    const [dx, dy] = [mirror * cursor.number(45), cursor.number(46)];
    const dashCount = Math.max(0, Math.min(MAX_PARTS, cursor.integer(79)));
    const dashes = Array.from({ length: dashCount }, () => cursor.number(49));
    families.push({ angle: mirror < 0 ? Math.PI - angle : angle, x, y, dx, dy, dashes });
  }
  return families;
}

/**
 * A fill whose colours change along a direction (DXF reference, HATCH, groups 450 to 470): from the first to the second
 * colour, or there and back again. How far it reaches, from edge to edge of the area, is from memory. Those laid out in
 * circles, or shifted, have no definition that is published: they are shown in their average colour.
 */
function gradientFill(
  record: Record,
  style: Style,
  handle: string,
  { loops, mirror }: { loops: Float64Array[]; mirror: number },
  warnings: Warnings,
): PlainEntity {
  const [first, second] = allNumbers(record, 421);
  if (first === undefined) return { kind: 'fill', style, handle, loops };
  const name = record.text(470).toUpperCase();
  const [from, to] = name.startsWith('INV') ? [second ?? first, first] : [first, second ?? first];
  const back = name.endsWith('CYLINDER');
  const colours = back ? [from, to, from] : [from, to];
  const stops = colours.map((colour, i) => ({ at: i / (colours.length - 1), colour, opacity: 1 }));
  const angle = record.number(460);
  const map = acrossLoops(loops, mirror < 0 ? Math.PI - angle : angle);
  const shown = map && { map, stops };
  const colour = meanColour({ stops });
  const fill = { kind: 'fill' as const, style: { ...style, colour }, handle, loops };
  if (shown && (back || name === 'LINEAR' || name === '') && record.number(461) === 0)
    return { ...fill, gradient: shown };
  const sentence = `A HATCH with ${name ? `the gradient ${name}` : 'a gradient'} is shown in its average colour.`;
  warnings.add('dxf.gradient', sentence, { handle, layer: record.text(8), line: record.line });
  return fill;
}

/** The plane of a gradient that runs across loops in a direction (radians); undefined where they have no extent in it. */
function acrossLoops(loops: readonly Float64Array[], angle: number): Affine | undefined {
  const turned = boxOfLoops(loops.map((loop) => turnedPoints(outlineOf([...loop]), -angle)));
  const length = turned.xmax - turned.xmin;
  if (!(length > 0)) return undefined;
  return multiply(rotation(angle), { a: length, b: 0, c: 0, d: length, e: turned.xmin, f: turned.ymin });
}

function turnedPoints(points: readonly number[], angle: number): number[] {
  const map = rotation(angle);
  return points.flatMap((x, i) => (i % 2 ? [] : apply(map, x, points[i + 1]!)));
}

function mirroredLoop(points: number[], mirror: number): Float64Array {
  return Float64Array.from(points, (value, i) => (i % LOOP_STRIDE === 1 ? value : mirror * value));
}
