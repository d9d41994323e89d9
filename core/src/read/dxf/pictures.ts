import type { FillEntity, PictureEntity, Style } from '../../drawing/model';
import { allNumbers } from './curves';
import type { Record } from './record';

/** Flag of an IMAGE: its outline clips it. */
const USES_CLIP = 4;

/** WIPEOUT: an outline inside which everything below is covered with the colour of the paper. */
export function readWipeout(record: Record, style: Style, handle: string): FillEntity {
  const outline = outlineOf(record).flatMap(([x, y]) => [x, y, 0]);
  return { kind: 'fill', style, handle, loops: [Float64Array.from(outline)], mask: true };
}

/** IMAGE: the picture of another file, and the outline that clips it where one is switched on. */
export function readImage(record: Record, style: Style, handle: string, picture: number): PictureEntity {
  const [ux, uy, vx, vy] = [record.number(11, 1), record.number(21), record.number(12), record.number(22, 1)];
  const [width, height] = [record.number(13, 1), record.number(23, 1)];
  const map = {
    a: ux * width,
    b: uy * width,
    c: vx * height,
    d: vy * height,
    e: record.number(10),
    f: record.number(20),
  };
  return { kind: 'picture', style, handle, picture, map };
}

/** Loops that clip an IMAGE; undefined where clipping is off or the outline is the whole picture. */
export function imageClip(record: Record): Float64Array[] | undefined {
  const on = record.integer(280) === 1 && (record.integer(70) & USES_CLIP) !== 0;
  const corners = allNumbers(record, 14).length;
  if (!on || corners < 2) return undefined;
  return [Float64Array.from(outlineOf(record).flat())];
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
  const [x, y] = [allNumbers(record, 14), allNumbers(record, 24)];
  if (x.length > 2) return x.map((px, i) => at(px, y[i] ?? 0));
  const [left = -0.5, right = width - 0.5] = x;
  const [top = -0.5, bottom = height - 0.5] = y;
  return [at(left, top), at(right, top), at(right, bottom), at(left, bottom)];
}
