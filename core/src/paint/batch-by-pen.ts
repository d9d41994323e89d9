import { shapeOf, STROKE, type Page } from '../page/page';

/** Smallest side of the cells that say which marks lie over one another, pixels. */
const SMALLEST_CELL = 8;
/** Cells are about as many times larger than the marks. */
const CELL_OVER_MARK = 1.5;
/** Edges are softened over a pixel beyond a line's own width. */
const SOFT_PX = 1;
const KINDS = 5;

/**
 * The marks of a list in another painting order that shows the same: those of one pen come together wherever nothing
 * of another pen lies between them. Canvases are slow to change pens, and drawings change theirs at every other mark.
 *
 * Each mark gets a level above whatever it may lie over; marks of a level touch only others of their own pen. What may
 * touch is settled by a grid of cells, so that order is kept more often than it must be, never less.
 *
 * @param boxes of all marks of the page, see `markBoxes`
 * @param list marks in painting order
 * @param scale pixels to a page unit
 */
export function batchByPen(
  page: Page,
  boxes: Float64Array,
  list: ArrayLike<number>,
  scale: number,
  thinnestPx: number,
): Uint32Array {
  if (page.group.length === 0) return batched(page, boxes, list, scale, thinnestPx);
  // The marks of a group stay together.
  const gathered = new Uint32Array(list.length);
  for (let from = 0; from < list.length;) {
    let to = from + 1;
    while (to < list.length && page.group[list[to]!] === page.group[list[from]!]) to++;
    const run = Array.from({ length: to - from }, (_, i) => list[from + i]!);
    gathered.set(batched(page, boxes, run, scale, thinnestPx), from);
    from = to;
  }
  return gathered;
}

function batched(
  page: Page,
  boxes: Float64Array,
  list: ArrayLike<number>,
  scale: number,
  thinnestPx: number,
): Uint32Array {
  const count = list.length;
  const { cell, xmin, ymin, columns, rows } = gridOf(boxes, list, scale);
  const margins = page.pens.map((pen) => {
    const { join, miterLimit } = shapeOf(pen);
    // A mitred corner sticks out further than half the line's width.
    return Math.max((pen.width * (join === 'miter' ? miterLimit : 1)) / 2, thinnestPx / 2 / scale) + SOFT_PX / scale;
  });
  const topLevel = new Int32Array(columns * rows).fill(-1);
  const topKey = new Int32Array(columns * rows).fill(-1);
  const keys = new Map<number, number>();
  const places = new Float64Array(count);
  const keyOf = (mark: number): number => {
    const looks = (page.clip[mark]! * KINDS + page.kind[mark]!) * page.pens.length + page.pen[mark]!;
    let key = keys.get(looks);
    if (key === undefined) keys.set(looks, (key = keys.size));
    return key;
  };
  const keysOf = new Int32Array(count);
  const levels = new Int32Array(count);
  for (let i = 0; i < count; i++) {
    const mark = list[i]!;
    const key = (keysOf[i] = keyOf(mark));
    const margin = page.kind[mark] === STROKE ? margins[page.pen[mark]!]! : SOFT_PX / scale;
    const at = 4 * mark;
    const left = within((boxes[at]! - margin - xmin) / cell, columns);
    const right = within((boxes[at + 2]! + margin - xmin) / cell, columns);
    const bottom = within((boxes[at + 1]! - margin - ymin) / cell, rows);
    const top = within((boxes[at + 3]! + margin - ymin) / cell, rows);
    let level = 0;
    for (let row = bottom; row <= top; row++) {
      for (let at = row * columns + left; at <= row * columns + right; at++) {
        const least = topKey[at] === key ? topLevel[at]! : topLevel[at]! + 1;
        if (least > level) level = least;
      }
    }
    for (let row = bottom; row <= top; row++) {
      for (let at = row * columns + left; at <= row * columns + right; at++) {
        topLevel[at] = level;
        topKey[at] = key;
      }
    }
    levels[i] = level;
  }
  for (let i = 0; i < count; i++) places[i] = (levels[i]! * keys.size + keysOf[i]!) * count + i;
  places.sort();
  const gathered = new Uint32Array(count);
  for (let i = 0; i < count; i++) gathered[i] = list[places[i]! % count]!;
  return gathered;
}

/** A grid over the marks whose cells are a little larger than most of them. */
function gridOf(boxes: Float64Array, list: ArrayLike<number>, scale: number) {
  let [xmin, ymin, xmax, ymax, sides] = [Infinity, Infinity, -Infinity, -Infinity, 0];
  for (let i = 0; i < list.length; i++) {
    const at = 4 * list[i]!;
    const [left, bottom, right, top] = [boxes[at]!, boxes[at + 1]!, boxes[at + 2]!, boxes[at + 3]!];
    if (!(right >= left)) continue;
    xmin = Math.min(xmin, left);
    ymin = Math.min(ymin, bottom);
    xmax = Math.max(xmax, right);
    ymax = Math.max(ymax, top);
    sides += Math.max(right - left, top - bottom);
  }
  if (!(xmax >= xmin)) return { cell: 1, xmin: 0, ymin: 0, columns: 1, rows: 1 };
  const side = Math.max(xmax - xmin, ymax - ymin, 1);
  // A sheet far away may be seen through a tiny hole: never more cells than a screen has.
  const cell = Math.max(SMALLEST_CELL / scale, (CELL_OVER_MARK * sides) / list.length, side / 500);
  const along = (length: number): number => Math.floor(length / cell) + 1;
  return { cell, xmin, ymin, columns: along(xmax - xmin), rows: along(ymax - ymin) };
}

/** The cell of a place, the nearest one where it lies outside. */
function within(place: number, count: number): number {
  return place > 0 ? Math.min(count - 1, Math.floor(place)) : 0;
}
