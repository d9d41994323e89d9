import Flatbush from 'flatbush';
import { markBoxes, markOrder, UNITS_PER_MM, type Page } from '@folvex/core';

const TEXT = 2;
const PICTURE = 3;
const [MOVE, LINE, CURVE] = [0, 1, 2];

type Box = [xmin: number, ymin: number, xmax: number, ymax: number];

/** Finds the marks of a page by place. Lengths come and go in mm; inside they are page units. */
export class MarkFinder {
  /** Number of the text or picture of each mark. */
  readonly order: Uint32Array;
  /** Box of each mark, page units; see `markBoxes`. */
  readonly boxes: Float64Array;
  private readonly whole: Box = [Infinity, Infinity, -Infinity, -Infinity];
  private built: Flatbush | undefined;

  constructor(private readonly page: Page) {
    this.order = markOrder(page);
    this.boxes = markBoxes(page, this.order);
    for (let at = 0; at < this.boxes.length; at += 4) grow(this.whole, this.boxes, at);
  }

  /** The index by place: made when first asked for, so that a first picture, which shows all, need not wait for it. */
  index(): Flatbush | undefined {
    const { boxes, page } = this;
    if (this.built || page.markCount === 0) return this.built;
    this.built = new Flatbush(page.markCount);
    for (let at = 0; at < boxes.length; at += 4) {
      this.built.add(boxes[at]!, boxes[at + 1]!, boxes[at + 2], boxes[at + 3]);
    }
    this.built.finish();
    return this.built;
  }

  /** Marks that a box touches, in painting order, without those of hidden layers. */
  within(box: Box, hidden: readonly number[]): Uint32Array {
    const shown = this.shown(hidden);
    const [xmin, ymin, xmax, ymax] = box.map((mm) => mm * UNITS_PER_MM) as Box;
    const { page, whole } = this;
    // Seen whole, a walk over all marks is quicker than asking the index for all of them.
    if (whole[0] >= xmin && whole[1] >= ymin && whole[2] <= xmax && whole[3] <= ymax) {
      const all = Uint32Array.from({ length: page.markCount }, (_, mark) => mark);
      return hidden.length ? all.filter((mark) => shown(mark)) : all;
    }
    return Uint32Array.from(this.index()?.search(xmin, ymin, xmax, ymax, shown) ?? []).sort();
  }

  /** The mark nearest to a point within reach; of several as near, the one painted last. */
  nearest(x: number, y: number, reach: number, hidden: readonly number[]): number | undefined {
    const [px, py, r] = [x * UNITS_PER_MM, y * UNITS_PER_MM, reach * UNITS_PER_MM];
    let best: number | undefined;
    let nearest = r;
    for (const mark of this.around(px, py, r, hidden)) {
      const distance = this.distance(mark, px, py);
      if (distance < nearest || (distance === nearest && mark > (best ?? -1))) {
        nearest = distance;
        best = mark;
      }
    }
    return best;
  }

  /** The vertex nearest to a point within reach, mm. */
  vertex(x: number, y: number, reach: number, hidden: readonly number[]): [number, number] | undefined {
    const [px, py, r] = [x * UNITS_PER_MM, y * UNITS_PER_MM, reach * UNITS_PER_MM];
    let best: [number, number] | undefined;
    let nearest = r;
    const { kind, coordStart, coords } = this.page;
    for (const mark of this.around(px, py, r, hidden)) {
      if (kind[mark] === TEXT || kind[mark] === PICTURE) continue;
      for (let i = coordStart[mark]!; i + 1 < coordStart[mark + 1]!; i += 2) {
        const distance = Math.hypot(coords[i]! - px, coords[i + 1]! - py);
        if (distance >= nearest) continue;
        nearest = distance;
        best = [coords[i]! / UNITS_PER_MM, coords[i + 1]! / UNITS_PER_MM];
      }
    }
    return best;
  }

  ofTag(tag: number): Uint32Array {
    const found: number[] = [];
    for (let mark = 0; mark < this.page.markCount; mark++) if (this.page.tag[mark] === tag) found.push(mark);
    return Uint32Array.from(found);
  }

  /** Box around the marks of an entity, mm. */
  boxOfTag(tag: number): Box {
    const box: Box = [Infinity, Infinity, -Infinity, -Infinity];
    for (const mark of this.ofTag(tag)) grow(box, this.boxes, 4 * mark);
    return box.map((units) => units / UNITS_PER_MM) as Box;
  }

  private around(x: number, y: number, reach: number, hidden: readonly number[]): number[] {
    return this.index()?.search(x - reach, y - reach, x + reach, y + reach, this.shown(hidden)) ?? [];
  }

  private shown(hidden: readonly number[]): (mark: number) => boolean {
    const off = new Set(hidden);
    return (mark) => !off.has(this.page.layer[mark]!);
  }

  /** Distance of a point from what is drawn of a mark; curves count by their handles' outline. */
  private distance(mark: number, px: number, py: number): number {
    const { kind, verbs, verbStart, coordStart, coords } = this.page;
    if (kind[mark] === TEXT || kind[mark] === PICTURE) {
      const [xmin, ymin, xmax, ymax] = this.boxes.subarray(4 * mark, 4 * mark + 4) as unknown as Box;
      return Math.hypot(Math.max(xmin - px, 0, px - xmax), Math.max(ymin - py, 0, py - ymax));
    }
    let at = coordStart[mark]!;
    let [x, y, startX, startY] = [0, 0, 0, 0];
    let nearest = Infinity;
    const to = (nx: number, ny: number): void => {
      nearest = Math.min(nearest, fromSegment(px, py, x, y, nx, ny));
      [x, y] = [nx, ny];
    };
    for (let i = verbStart[mark]!; i < verbStart[mark + 1]!; i++) {
      const verb = verbs[i];
      if (verb === MOVE) {
        [x, y] = [startX, startY] = [coords[at]!, coords[at + 1]!];
        at += 2;
      } else if (verb === LINE) {
        to(coords[at]!, coords[at + 1]!);
        at += 2;
      } else if (verb === CURVE) {
        const [x0, y0] = [x, y];
        for (let k = 1; k <= 8; k++) {
          const [t, s] = [k / 8, 1 - k / 8];
          const mix = (from: number, j: number): number =>
            s * s * s * from +
            3 * s * s * t * coords[at + j]! +
            3 * s * t * t * coords[at + 2 + j]! +
            t * t * t * coords[at + 4 + j]!;
          to(mix(x0, 0), mix(y0, 1));
        }
        at += 6;
      } else to(startX, startY);
    }
    return nearest;
  }
}

/** Makes a box large enough to hold another. */
function grow(box: Box, boxes: Float64Array, at: number): void {
  box[0] = Math.min(box[0], boxes[at]!);
  box[1] = Math.min(box[1], boxes[at + 1]!);
  box[2] = Math.max(box[2], boxes[at + 2]!);
  box[3] = Math.max(box[3], boxes[at + 3]!);
}

function fromSegment(px: number, py: number, x0: number, y0: number, x1: number, y1: number): number {
  const [dx, dy] = [x1 - x0, y1 - y0];
  const length = dx * dx + dy * dy;
  const t = length > 0 ? Math.min(1, Math.max(0, ((px - x0) * dx + (py - y0) * dy) / length)) : 0;
  return Math.hypot(px - x0 - t * dx, py - y0 - t * dy);
}
