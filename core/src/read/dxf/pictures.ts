import type { FillEntity, PathEntity, Style } from '../../drawing/model';
import { Path } from '../../geometry/path';
import { all, pathEntity } from './curves';
import type { Record } from './record';

/** WIPEOUT: an outline inside which everything below is covered with the colour of the paper. */
export function readWipeout(record: Record, style: Style, handle: string): FillEntity {
  const outline = outlineOf(record).flatMap(([x, y]) => [x, y, 0]);
  return { kind: 'fill', style, handle, loops: [Float64Array.from(outline)], mask: true };
}

/** IMAGE, whose picture is not here: its outline, crossed. */
export function readImage(record: Record, style: Style, handle: string): PathEntity {
  const path = new Path();
  const outline = outlineOf(record);
  outline.forEach(([x, y], i) => (i === 0 ? path.moveTo(x, y) : path.lineTo(x, y)));
  path.close();
  if (outline.length === 4) {
    for (const [from, to] of [
      [0, 2],
      [1, 3],
    ] as const) {
      path.moveTo(...outline[from]!);
      path.lineTo(...outline[to]!);
    }
  }
  return pathEntity(path, style, handle);
}

/**
 * The clip outline of a picture, in drawing coordinates: pixels counted from the upper left corner, y downwards, of
 * which two corners make a rectangle.
 */
function outlineOf(record: Record): [number, number][] {
  const [ox, oy] = [record.number(10), record.number(20)];
  const [ux, uy, vx, vy] = [record.number(11, 1), record.number(21), record.number(12), record.number(22, 1)];
  const [width, height] = [record.number(13, 1), record.number(23, 1)];
  const at = (px: number, py: number): [number, number] => {
    const [across, up] = [px + 0.5, height - (py + 0.5)];
    return [ox + ux * across + vx * up, oy + uy * across + vy * up];
  };
  const [x, y] = [all(record, 14), all(record, 24)];
  if (x.length > 2) return x.map((px, i) => at(px, y[i] ?? 0));
  const [left = -0.5, right = width - 0.5] = x;
  const [top = -0.5, bottom = height - 0.5] = y;
  return [at(left, top), at(right, top), at(right, bottom), at(left, bottom)];
}
