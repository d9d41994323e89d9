import { PICTURE, TEXT, type Page } from './page';

/** Number of the text or picture that each mark shows, counted over the whole page. */
export function markOrder(page: Page): Uint32Array {
  const order = new Uint32Array(page.markCount);
  let [texts, pictures] = [0, 0];
  for (let mark = 0; mark < page.markCount; mark++) {
    if (page.kind[mark] === TEXT) order[mark] = texts++;
    else if (page.kind[mark] === PICTURE) order[mark] = pictures++;
  }
  return order;
}

/**
 * The box of each mark in page units: xmin, ymin, xmax, ymax in turn, line widths left out, handles of curves counted
 * in. Without an object for each mark, since there may be hundreds of thousands.
 */
export function markBoxes(page: Page, order: ArrayLike<number>): Float64Array {
  const { kind, coordStart, coords, texts, placed, markCount } = page;
  const boxes = new Float64Array(4 * markCount);
  for (let mark = 0; mark < markCount; mark++) {
    if (kind[mark] === TEXT) {
      const { a, b, c, d, x, y, advance, size } = texts[order[mark]!]!;
      setCorners(boxes, 4 * mark, a * advance, b * advance, c * size, d * size, x, y);
      continue;
    }
    if (kind[mark] === PICTURE) {
      const { a, b, c, d, e, f } = placed[order[mark]!]!;
      setCorners(boxes, 4 * mark, a, b, c, d, e, f);
      continue;
    }
    let [xmin, ymin, xmax, ymax] = [Infinity, Infinity, -Infinity, -Infinity];
    const end = coordStart[mark + 1]!;
    for (let i = coordStart[mark]!; i + 1 < end; i += 2) {
      const [x, y] = [coords[i]!, coords[i + 1]!];
      if (x < xmin) xmin = x;
      if (x > xmax) xmax = x;
      if (y < ymin) ymin = y;
      if (y > ymax) ymax = y;
    }
    boxes[4 * mark] = xmin;
    boxes[4 * mark + 1] = ymin;
    boxes[4 * mark + 2] = xmax;
    boxes[4 * mark + 3] = ymax;
  }
  return boxes;
}

/** The box of a parallelogram at (x, y) with the sides (ux, uy) and (vx, vy). */
function setCorners(
  boxes: Float64Array,
  at: number,
  ux: number,
  uy: number,
  vx: number,
  vy: number,
  x: number,
  y: number,
): void {
  boxes[at] = x + Math.min(0, ux) + Math.min(0, vx);
  boxes[at + 1] = y + Math.min(0, uy) + Math.min(0, vy);
  boxes[at + 2] = x + Math.max(0, ux) + Math.max(0, vx);
  boxes[at + 3] = y + Math.max(0, uy) + Math.max(0, vy);
}
