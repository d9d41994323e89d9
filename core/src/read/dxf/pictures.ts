import type { FillEntity, PictureEntity, Style } from '../../drawing/model';
import { apply, multiply, rotation, scaling, translation } from '../../geometry/affine';
import { allNumbers } from './curves';
import type { Record } from './record';

/** Flag of an IMAGE: its outline clips it. */
const USES_CLIP = 4;
/** Flags of an underlay (published DXF reference, UNDERLAY, group 280). */
const [UNDERLAY_CLIPPED, UNDERLAY_ON, UNDERLAY_MONOCHROME] = [1, 2, 4];

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

/**
 * PDFUNDERLAY: a page of a PDF in another file, by its lower left corner. An inch of it is a unit before it is scaled
 * (common practice).
 */
export function readUnderlay(record: Record, style: Style, handle: string, picture: number): PictureEntity {
  const turn = rotation((record.number(50) * Math.PI) / 180);
  const placed = multiply(translation(record.number(10), record.number(20)), turn);
  const map = multiply(placed, scaling(record.number(41, 1) || 1, record.number(42, 1) || 1));
  return { kind: 'picture', style, handle, picture, map };
}

/** Loops that clip an underlay: corners in its own units, of which two make a rectangle; undefined where it is whole. */
export function underlayClip(record: Record, { map }: PictureEntity): Float64Array[] | undefined {
  const [x, y] = [allNumbers(record, 11), allNumbers(record, 21)];
  if ((record.integer(280) & UNDERLAY_CLIPPED) === 0 || x.length < 2) return undefined;
  const [x0, x1, y0, y1] = [x[0]!, x[1]!, y[0] ?? 0, y[1] ?? 0];
  const corners =
    x.length > 2
      ? x.map((px, i) => [px, y[i] ?? 0] as const)
      : ([
          [x0, y0],
          [x1, y0],
          [x1, y1],
          [x0, y1],
        ] as const);
  return [Float64Array.from(corners.flatMap(([px, py]) => apply(map, px, py)))];
}

/** True where an underlay is switched on. */
export function isUnderlayOn(record: Record): boolean {
  return (record.integer(280, UNDERLAY_ON) & UNDERLAY_ON) !== 0;
}

/** True where an underlay is shown in one colour. */
export function isUnderlayMonochrome(record: Record): boolean {
  return (record.integer(280) & UNDERLAY_MONOCHROME) !== 0;
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
