import { PLAIN_INSERT, type FillEntity, type PictureEntity, type PlainEntity, type Style } from '../../drawing/model';
import { apply, multiply, rotation, scaling, translation } from '../../geometry/affine';
import { allNumbers } from './curves';
import { placeOf, type EntityContext } from './context';
import type { Record } from './record';

/** Flag of an IMAGE: its outline clips it. */
const USES_CLIP = 4;
/** Brightness and contrast of an IMAGE that leave it as it is (published DXF reference, IMAGE). */
const AS_IN_FILE = 50;
/** Flags of an underlay (published DXF reference, UNDERLAY, group 280). */
const [UNDERLAY_CLIPPED, UNDERLAY_ON, UNDERLAY_MONOCHROME] = [1, 2, 4];

/** WIPEOUT: an outline inside which everything below is covered with the colour of the paper. */
export function readWipeout(record: Record, style: Style, handle: string): FillEntity {
  const outline = outlineOf(record).flatMap(([x, y]) => [x, y, 0]);
  return { kind: 'fill', style, handle, loops: [Float64Array.from(outline)], mask: true };
}

/** IMAGE: a picture, clipped and faded as it states. */
export function readImage(record: Record, style: Style, handle: string, context: EntityContext): PlainEntity {
  const picture = imageOf(record, style, handle, context.linked(record.text(340), placeOf(record)));
  if (record.integer(281, AS_IN_FILE) !== AS_IN_FILE || record.integer(282, AS_IN_FILE) !== AS_IN_FILE) {
    const sentence = 'A picture has another brightness or contrast in its program; it is shown as it is in its file.';
    context.warnings.add('dxf.picture-looks', sentence, placeOf(record));
  }
  return placedPicture(picture, imageClip(record), record.number(283), context);
}

/** PDFUNDERLAY: a page of a PDF below a drawing; nothing where it is switched off. */
export function readPdfUnderlay(
  record: Record,
  style: Style,
  handle: string,
  context: EntityContext,
): PlainEntity | 'nothing' {
  const flags = record.integer(280, UNDERLAY_ON);
  if (!(flags & UNDERLAY_ON)) return 'nothing';
  if (flags & UNDERLAY_MONOCHROME) {
    const sentence = 'An underlay is set to monochrome; it is shown in its own colours.';
    context.warnings.add('dxf.picture-looks', sentence, placeOf(record));
  }
  const underlay = underlayOf(record, style, handle, context.linked(record.text(340), placeOf(record)));
  return placedPicture(underlay, underlayClip(record, underlay), record.number(282), context);
}

/** A picture; one that is clipped or fades into the paper (per cent) lies in a block of its own. */
function placedPicture(
  picture: PictureEntity,
  clip: Float64Array[] | undefined,
  fade: number,
  { wrapped }: EntityContext,
): PlainEntity {
  const group = fade > 0 ? { group: { opacity: Math.max(0, 100 - fade) } } : undefined;
  if (!clip && !group) return picture;
  const { style, handle } = picture;
  return { ...PLAIN_INSERT, style, handle, block: wrapped(picture, { ...(clip && { clip }), ...group }) };
}

/** The picture of an IMAGE, in another file. */
function imageOf(record: Record, style: Style, handle: string, picture: number): PictureEntity {
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

/** The page of a PDF in another file, by its lower left corner. An inch of it is a unit before it is scaled (common practice). */
function underlayOf(record: Record, style: Style, handle: string, picture: number): PictureEntity {
  const turn = rotation((record.number(50) * Math.PI) / 180);
  const placed = multiply(translation(record.number(10), record.number(20)), turn);
  const map = multiply(placed, scaling(record.number(41, 1) || 1, record.number(42, 1) || 1));
  return { kind: 'picture', style, handle, picture, map };
}

/** Loops that clip an underlay: corners in its own units, of which two make a rectangle; undefined where it is whole. */
function underlayClip(record: Record, { map }: PictureEntity): Float64Array[] | undefined {
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

/** Loops that clip an IMAGE; undefined where clipping is off or the outline is the whole picture. */
function imageClip(record: Record): Float64Array[] | undefined {
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
