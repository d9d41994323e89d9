import { emptyBox, include, type Box } from './box';
import type { PathSink } from './curves';

export const MOVE = 0;
export const LINE = 1;
export const CURVE = 2;
export const CLOSE = 3;

/** How many points follow each verb. */
const POINTS_OF = [1, 1, 3, 0];

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

  /** Writes another path behind this one. */
  append(other: Path): void {
    let at = 0;
    for (let v = 0; v < other.verbCount; v++) {
      this.verb(other.verbs[v]!);
      for (let n = POINTS_OF[other.verbs[v]!]!; n > 0; n--) this.point(other.coords[at++]!, other.coords[at++]!);
    }
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

function grown<T extends Uint8Array | Float64Array>(old: T, next: T): T {
  next.set(old);
  return next;
}
