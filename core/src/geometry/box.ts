import { apply, type Affine } from './affine';

/** An axis-parallel rectangle. Empty when `xmin > xmax`. */
export interface Box {
  xmin: number;
  ymin: number;
  xmax: number;
  ymax: number;
}

export function emptyBox(): Box {
  return { xmin: Infinity, ymin: Infinity, xmax: -Infinity, ymax: -Infinity };
}

export function isEmpty(box: Box): boolean {
  return !(box.xmin <= box.xmax && box.ymin <= box.ymax);
}

/** Grows `box` in place to hold the point; points that are not finite are left out. */
export function include(box: Box, x: number, y: number): void {
  if (!Number.isFinite(x) || !Number.isFinite(y)) return;
  if (x < box.xmin) box.xmin = x;
  if (x > box.xmax) box.xmax = x;
  if (y < box.ymin) box.ymin = y;
  if (y > box.ymax) box.ymax = y;
}

/** The box around loops of x, y. */
export function boxOfLoops(loops: readonly (readonly number[])[]): Box {
  const box = emptyBox();
  for (const loop of loops) for (let i = 0; i + 1 < loop.length; i += 2) include(box, loop[i]!, loop[i + 1]!);
  return box;
}

export function union(into: Box, other: Box): void {
  if (isEmpty(other)) return;
  include(into, other.xmin, other.ymin);
  include(into, other.xmax, other.ymax);
}

export function width(box: Box): number {
  return isEmpty(box) ? 0 : box.xmax - box.xmin;
}

export function height(box: Box): number {
  return isEmpty(box) ? 0 : box.ymax - box.ymin;
}

export function intersects(a: Box, b: Box): boolean {
  return a.xmin <= b.xmax && a.xmax >= b.xmin && a.ymin <= b.ymax && a.ymax >= b.ymin;
}

/** What two boxes share; empty when nothing. */
export function intersection(a: Box, b: Box): Box {
  return {
    xmin: Math.max(a.xmin, b.xmin),
    ymin: Math.max(a.ymin, b.ymin),
    xmax: Math.min(a.xmax, b.xmax),
    ymax: Math.min(a.ymax, b.ymax),
  };
}

/** True when `inner` lies in `outer`, with `slack` to spare for rounding. */
export function contains(outer: Box, inner: Box, slack = 0): boolean {
  return (
    inner.xmin >= outer.xmin - slack &&
    inner.xmax <= outer.xmax + slack &&
    inner.ymin >= outer.ymin - slack &&
    inner.ymax <= outer.ymax + slack
  );
}

export function expanded(box: Box, by: number): Box {
  return { xmin: box.xmin - by, ymin: box.ymin - by, xmax: box.xmax + by, ymax: box.ymax + by };
}

/** The box around the mapped corners of `box`. */
export function mappedBox(m: Affine, box: Box): Box {
  const out = emptyBox();
  if (isEmpty(box)) return out;
  for (const x of [box.xmin, box.xmax]) for (const y of [box.ymin, box.ymax]) include(out, ...apply(m, x, y));
  return out;
}
