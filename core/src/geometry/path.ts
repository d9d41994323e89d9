import { emptyBox, include, type Box } from './box';
import type { PathSink } from './curves';
import { clipPolygon, clipSegment } from './clip';

export const MOVE = 0;
export const LINE = 1;
export const CURVE = 2;
export const CLOSE = 3;

const FLAT_PIECES = 64;

/** A path that is written, handed on and written again: verbs and coordinates in growing arrays. */
export class Path implements PathSink {
  verbs = new Uint8Array(64);
  coords = new Float64Array(256);
  verbCount = 0;
  coordCount = 0;
  /** Around all points, handles of curves included. */
  readonly box: Box = emptyBox();

  clear(): this {
    this.verbCount = 0;
    this.coordCount = 0;
    const { box } = this;
    box.xmin = box.ymin = Infinity;
    box.xmax = box.ymax = -Infinity;
    return this;
  }

  moveTo(x: number, y: number): void {
    this.verb(MOVE);
    this.point(x, y);
  }

  lineTo(x: number, y: number): void {
    this.verb(LINE);
    this.point(x, y);
  }

  curveTo(x1: number, y1: number, x2: number, y2: number, x: number, y: number): void {
    this.verb(CURVE);
    this.point(x1, y1);
    this.point(x2, y2);
    this.point(x, y);
  }

  close(): void {
    this.verb(CLOSE);
  }

  private verb(verb: number): void {
    if (this.verbCount === this.verbs.length) this.verbs = grown(this.verbs, new Uint8Array(this.verbs.length * 2));
    this.verbs[this.verbCount++] = verb;
  }

  private point(x: number, y: number): void {
    if (this.coordCount + 2 > this.coords.length) {
      this.coords = grown(this.coords, new Float64Array(this.coords.length * 2));
    }
    this.coords[this.coordCount++] = x;
    this.coords[this.coordCount++] = y;
    include(this.box, x, y);
  }
}

/** Writes into `out` what a stroked path shows within `box`, as straight pieces. */
export function clipStroke(path: Path, box: Box, out: Path): void {
  for (const points of flattened(path)) {
    let [lastX, lastY] = [NaN, NaN];
    for (let i = 0; i + 3 < points.length; i += 2) {
      const part = clipSegment(box, points[i]!, points[i + 1]!, points[i + 2]!, points[i + 3]!);
      if (!part) continue;
      if (part[0] !== lastX || part[1] !== lastY) out.moveTo(part[0], part[1]);
      out.lineTo(part[2], part[3]);
      [lastX, lastY] = [part[2], part[3]];
    }
  }
}

/** Writes into `out` what a filled path covers within `box`, as straight-sided polygons. */
export function clipFill(path: Path, box: Box, out: Path): void {
  for (const points of flattened(path)) {
    const inside = clipPolygon(box, points);
    for (let i = 0; i < inside.length; i += 2) {
      if (i === 0) out.moveTo(inside[0]!, inside[1]!);
      else out.lineTo(inside[i]!, inside[i + 1]!);
    }
    if (inside.length) out.close();
  }
}

function flattened(path: Path): number[][] {
  const lines: number[][] = [];
  let line: number[] = [];
  let at = 0;
  for (let v = 0; v < path.verbCount; v++) {
    const c = path.coords.subarray(at, at + 6);
    switch (path.verbs[v]) {
      case MOVE:
        lines.push((line = [c[0]!, c[1]!]));
        at += 2;
        break;
      case LINE:
        line.push(c[0]!, c[1]!);
        at += 2;
        break;
      case CURVE:
        pushCurve(line, c);
        at += 6;
        break;
      default:
        line.push(line[0]!, line[1]!);
    }
  }
  return lines;
}

function pushCurve(line: number[], c: Float64Array): void {
  const [x0, y0] = [line.at(-2)!, line.at(-1)!];
  for (let i = 1; i <= FLAT_PIECES; i++) {
    const t = i / FLAT_PIECES;
    const s = 1 - t;
    const [w0, w1, w2, w3] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
    line.push(w0 * x0 + w1 * c[0]! + w2 * c[2]! + w3 * c[4]!, w0 * y0 + w1 * c[1]! + w2 * c[3]! + w3 * c[5]!);
  }
}

function grown<T extends Uint8Array | Float64Array>(old: T, next: T): T {
  next.set(old);
  return next;
}
