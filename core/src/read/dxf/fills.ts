import type { Entity, Style } from '../../drawing/model';
import type { Warnings } from '../warnings';
import { isMirrored } from './entities';
import type { Record } from './record';

const RADIANS = Math.PI / 180;

/** SOLID and TRACE: four corners, of which the third and fourth are crossed over in the file. */
export function readSolid(record: Record, style: Style, handle: string): Entity {
  const mirror = isMirrored(record) ? -1 : 1;
  const corner = (n: number): [number, number] => [mirror * record.number(10 + n), record.number(20 + n)];
  const fourth = record.has(13) ? corner(3) : corner(2);
  const points = [corner(0), corner(1), fourth, corner(2)];
  return { kind: 'fill', style, handle, loops: [Float64Array.from(points.flatMap(([x, y]) => [x, y, 0]))] };
}

/** HATCH with a solid fill. A pattern or a boundary that is not understood is told by a warning. */
export function readHatch(record: Record, style: Style, handle: string, warnings: Warnings): Entity | 'unknown' {
  const place = { handle, layer: record.text(8), line: record.line };
  if (record.integer(70) !== 1) {
    warnings.add('dxf.not-shown', 'HATCH with a pattern is not shown yet.', place);
    return { kind: 'fill', style, handle, loops: [] };
  }
  const mirror = isMirrored(record) ? -1 : 1;
  const cursor = new Cursor(record, record.find(91));
  const loops: Float64Array[] = [];
  let paths = cursor.integer(91);
  while (paths-- > 0 && cursor.inside) {
    const flags = cursor.integer(92);
    const loop = flags & 2 ? polylineLoop(cursor) : edgeLoop(cursor);
    if (loop === undefined) {
      const sentence = 'HATCH with an elliptical or spline edge is not shown yet.';
      warnings.add('dxf.not-shown', sentence, place);
      break;
    }
    if (loop.length >= 6) loops.push(mirroredLoop(loop, mirror));
  }
  return { kind: 'fill', style, handle, loops };
}

/** Walks the groups of a record in order: a hatch repeats the same codes with changing meaning. */
class Cursor {
  constructor(
    private readonly record: Record,
    private at: number,
  ) {}

  get inside(): boolean {
    return this.at >= 0 && this.at < this.record.count;
  }

  /** The next number with that code, from here on; the cursor moves behind it. */
  number(code: number): number {
    const found = this.inside ? this.record.find(code, this.at) : -1;
    if (found < 0) {
      this.at = this.record.count;
      return 0;
    }
    this.at = found + 1;
    return this.record.numberAt(found);
  }

  integer(code: number): number {
    return Math.trunc(this.number(code));
  }

  /** The number of the very next group if it has that code, else `standard`. */
  optional(code: number, standard: number): number {
    if (!this.inside || this.record.codes[this.at] !== code) return standard;
    return this.record.numberAt(this.at++, standard);
  }
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

/** A boundary of lines and arcs joined end to end. Undefined when it holds an edge of another kind. */
function edgeLoop(cursor: Cursor): number[] | undefined {
  const points: number[] = [];
  let edges = cursor.integer(93);
  while (edges-- > 0 && cursor.inside) {
    const type = cursor.integer(72);
    if (type === 1) {
      points.push(cursor.number(10), cursor.number(20), 0);
      cursor.number(11);
      cursor.number(21);
    } else if (type === 2) points.push(...arcEdge(cursor));
    else return undefined;
  }
  return points;
}

/** An arc edge as bulged vertices, in pieces of a half turn at most (a bulge cannot say a full circle). */
function arcEdge(cursor: Cursor): number[] {
  const [cx, cy, radius] = [cursor.number(10), cursor.number(20), cursor.number(40)];
  let start = cursor.number(50) * RADIANS;
  let end = cursor.number(51) * RADIANS;
  const clockwise = cursor.integer(73) === 0;
  // Clockwise arcs store their angles negated (DXF, boundary path data).
  if (clockwise) [start, end] = [-start, -end];
  let sweep = end - start;
  if (clockwise && sweep >= 0) sweep -= 2 * Math.PI;
  if (!clockwise && sweep <= 0) sweep += 2 * Math.PI;
  const pieces = Math.abs(sweep) > Math.PI ? 2 : 1;
  return Array.from({ length: pieces }, (_, i) => {
    const angle = start + (sweep * i) / pieces;
    return [cx + radius * Math.cos(angle), cy + radius * Math.sin(angle), Math.tan(sweep / pieces / 4)];
  }).flat();
}

function mirroredLoop(points: number[], mirror: number): Float64Array {
  return Float64Array.from(points, (value, i) => (i % 3 === 1 ? value : mirror * value));
}
