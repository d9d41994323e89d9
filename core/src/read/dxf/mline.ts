import { colourFromIndex } from '../../drawing/colours';
import {
  LINE_TYPE_BY_LAYER,
  LOOP_STRIDE,
  POLYLINE_STRIDE,
  type FillEntity,
  type PlainEntity,
  type PolylineEntity,
  type Style,
} from '../../drawing/model';
import type { NameTables } from './names';
import type { Record } from './record';

/** Flags of an MLINE (code 71). */
const [CLOSED, NO_START_CAPS, NO_END_CAPS] = [2, 4, 8];
/** Flags of an MLINESTYLE (code 70): the fill, joints at the corners, and the caps of either end. */
const [FILLED, JOINTS] = [1, 2];
const START = { square: 16, inner: 32, round: 64 } as const;
const END = { square: 256, inner: 512, round: 1024 } as const;
/** Bulges: the tangent of a quarter of the angle. */
const [HALF_TURN, QUARTER_TURN] = [1, Math.tan(Math.PI / 8)];
const BY_LAYER_INDEX = 256;
/** More vertices or elements than this mean a damaged file. */
const MAX_PARTS = 100_000;

/** A vertex of an MLINE. */
interface Corner {
  x: number;
  y: number;
  /** Direction of the segment that begins here. */
  dx: number;
  dy: number;
  /** For each element of the style, the point in which it meets the miter. */
  points: Point[];
  /** For each element: where its line begins from there, then where it breaks off and goes on in turn. */
  breaks: number[][];
}

type Point = readonly [x: number, y: number];

/** An MLINE, whose style comes later in the file. */
export interface Multiline {
  style: Style;
  handle: string;
  /** Handle and name of its style. */
  styleHandle: string;
  styleName: string;
  flags: number;
  corners: Corner[];
}

/** What an MLINESTYLE says of all its lines. */
export interface MultilineStyle {
  handle: string;
  name: string;
  flags: number;
  /** Colour indices; 256 and 0: as the MLINE itself. */
  fill: number;
  elements: { colour: number; trueColour?: number; lineType: string }[];
}

/** MLINE, in world coordinates. Undefined where it states no segment. */
export function readMultiline(record: Record, style: Style, handle: string): Multiline | undefined {
  const corners: Corner[] = [];
  const elements = Math.min(MAX_PARTS, record.integer(73));
  let [mx, my] = [0, 0];
  for (let i = 0; i < record.count && corners.length < MAX_PARTS; i++) {
    const code = record.codes[i]!;
    const corner = corners.at(-1);
    if (code === 11) corners.push({ x: record.numberAt(i), y: 0, dx: 0, dy: 0, points: [], breaks: [] });
    else if (!corner) continue;
    else if (code === 21) corner.y = record.numberAt(i);
    else if (code === 12) corner.dx = record.numberAt(i);
    else if (code === 22) corner.dy = record.numberAt(i);
    else if (code === 13) mx = record.numberAt(i);
    else if (code === 23) my = record.numberAt(i);
    else if (code === 74 && corner.points.length < elements) {
      const values: number[] = [];
      const wanted = Math.min(MAX_PARTS, record.numberAt(i));
      while (values.length < wanted && record.codes[i + 1] === 41) values.push(record.numberAt(++i));
      const [along = 0, ...breaks] = values;
      corner.points.push([corner.x + mx * along, corner.y + my * along]);
      corner.breaks.push(breaks);
    }
  }
  const usable = corners.filter(({ points }) => points.length === elements);
  if (usable.length < 2 || elements < 1) return undefined;
  const names = { styleHandle: record.text(340).toUpperCase(), styleName: record.text(2).toLowerCase() };
  return { style, handle, ...names, flags: record.integer(71), corners: usable };
}

/** MLINESTYLE: first what holds for all of it, then its elements, each from its offset (code 49) on. */
export function readMultilineStyle(record: Record): MultilineStyle {
  const style: MultilineStyle = {
    ...{ handle: record.text(5).toUpperCase(), name: record.text(2).toLowerCase() },
    ...{ flags: record.integer(70), fill: BY_LAYER_INDEX, elements: [] },
  };
  for (let i = 0; i < record.count; i++) {
    const [code, element] = [record.codes[i]!, style.elements.at(-1)];
    if (code === 49) style.elements.push({ colour: BY_LAYER_INDEX, lineType: '' });
    else if (code === 62 && element) element.colour = record.numberAt(i);
    else if (code === 62) style.fill = record.numberAt(i);
    else if (code === 420 && element) element.trueColour = record.numberAt(i) & 0xffffff;
    else if (code === 6 && element) element.lineType = record.textAt(i);
  }
  return style;
}

/** What an MLINE draws: its fill, the lines of its elements, joints and caps. Without a style, the lines only. */
export function drawMultiline(line: Multiline, style: MultilineStyle | undefined, names: NameTables): PlainEntity[] {
  const count = line.corners[0]!.points.length;
  const looks = Array.from({ length: count }, (_, i) => elementStyle(line.style, style?.elements[i], names));
  const parts = looks.flatMap((look, element) => elementLines(line, element, look));
  if (!style) return parts;
  const closed = (line.flags & CLOSED) !== 0;
  // By where they lie at the first corner, from one side to the other.
  const order = [...looks.keys()].sort((a, b) => sideOf(line.corners[0]!, a) - sideOf(line.corners[0]!, b));
  const [first, last] = [order[0]!, order.at(-1)!];
  const joint = (corner: Corner): PlainEntity[] => acrossAt(line, corner, looks, first, last);
  const fill = style.flags & FILLED ? [filled(line, style, first, last, names)] : [];
  const joints = style.flags & JOINTS ? line.corners.slice(closed ? 0 : 1, closed ? undefined : -1).flatMap(joint) : [];
  if (closed) return [...fill, ...parts, ...joints];
  const caps = [
    ...(line.flags & NO_START_CAPS ? [] : capsAt(line, looks, order, style.flags, START)),
    ...(line.flags & NO_END_CAPS ? [] : capsAt(line, looks, order, style.flags, END)),
  ];
  return [...fill, ...parts, ...joints, ...caps];
}

/** On which side of the first segment an element lies, and how far. */
function sideOf({ x, y, dx, dy, points }: Corner, element: number): number {
  const [px, py] = points[element]!;
  return dx * (py - y) - dy * (px - x);
}

function elementStyle(own: Style, element: MultilineStyle['elements'][number] | undefined, names: NameTables): Style {
  if (!element) return own;
  const lineType = element.lineType.toUpperCase();
  const asItself = lineType === '' || lineType === 'BYLAYER' || lineType === 'BYBLOCK';
  return names.style(
    own.layer,
    element.trueColour ?? indexed(element.colour, own.colour),
    own.weight,
    asItself ? own.lineType : names.lineType(element.lineType),
    own.lineTypeScale,
    own.opacity,
  );
}

function indexed(index: number, own: number): number {
  return index === BY_LAYER_INDEX || index === 0 ? own : colourFromIndex(Math.abs(index));
}

/** The line of one element: whole, or in the pieces between its breaks. */
function elementLines(line: Multiline, element: number, look: Style): PlainEntity[] {
  const { corners, flags } = line;
  const closed = (flags & CLOSED) !== 0;
  const isBroken = corners.some(({ breaks }) => breaks[element]!.length > 1 || (breaks[element]![0] ?? 0) !== 0);
  if (!isBroken) {
    return [
      polyline(
        line,
        look,
        corners.map(({ points }) => points[element]!),
        closed,
      ),
    ];
  }
  const ends = closed ? corners : corners.slice(0, -1);
  return ends.flatMap(({ points, breaks, dx, dy }, i) => {
    const [from, to] = [points[element]!, corners[(i + 1) % corners.length]!.points[element]!];
    const [start = 0, ...gaps] = breaks[element]!;
    const length = Math.hypot(to[0] - from[0], to[1] - from[1]);
    // Measured from where the line begins; after an even number of breaks it goes on to the end.
    const places = [start, ...gaps.map((gap) => start + gap), ...(gaps.length % 2 === 0 ? [length] : [])];
    const at = (along: number): Point => [from[0] + dx * along, from[1] + dy * along];
    const pieces: PlainEntity[] = [];
    for (let k = 0; k + 1 < places.length; k += 2) {
      if (places[k + 1]! > places[k]!) pieces.push(polyline(line, look, [at(places[k]!), at(places[k + 1]!)]));
    }
    return pieces;
  });
}

/** A line between two elements at a corner, each half of it in the looks of its element. */
function acrossAt(line: Multiline, { points }: Corner, looks: readonly Style[], a: number, b: number): PlainEntity[] {
  const [from, to] = [points[a]!, points[b]!];
  const middle: Point = [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2];
  return [polyline(line, looks[a]!, [from, middle]), polyline(line, looks[b]!, [middle, to])];
}

/**
 * The caps of one end: a line across, a half circle around all of it, half circles between its inner elements; each
 * half of them in the looks of its element.
 */
function capsAt(
  line: Multiline,
  looks: readonly Style[],
  order: readonly number[],
  flags: number,
  kinds: typeof START | typeof END,
): PlainEntity[] {
  const isStart = kinds === START;
  const corner = isStart ? line.corners[0]! : line.corners.at(-1)!;
  const { dx, dy } = isStart ? corner : line.corners.at(-2)!;
  const outward: Point = isStart ? [-dx, -dy] : [dx, dy];
  const round = (i: number): PlainEntity[] => {
    const [a, b] = [order[i]!, order[order.length - 1 - i]!];
    const [from, to] = [corner.points[a]!, corner.points[b]!];
    const radius = Math.hypot(to[0] - from[0], to[1] - from[1]) / 2;
    const top: Point = [(from[0] + to[0]) / 2 + outward[0] * radius, (from[1] + to[1]) / 2 + outward[1] * radius];
    const bulge = bulgeTo(from, to, outward) * QUARTER_TURN;
    return [polyline(line, looks[a]!, [from, top], false, bulge), polyline(line, looks[b]!, [top, to], false, bulge)];
  };
  const inner = Array.from({ length: Math.max(0, (order.length >> 1) - 1) }, (_, i) => i + 1);
  return [
    ...(flags & kinds.square ? acrossAt(line, corner, looks, order[0]!, order.at(-1)!) : []),
    ...(flags & kinds.round ? round(0) : []),
    ...(flags & kinds.inner ? inner.flatMap(round) : []),
  ];
}

/** The bulge of a half circle from one point to another that lies on the side of a direction. */
function bulgeTo([x0, y0]: Point, [x1, y1]: Point, [dx, dy]: Point): number {
  // A positive bulge lies to the right of its direction.
  return (y1 - y0) * dx - (x1 - x0) * dy > 0 ? HALF_TURN : -HALF_TURN;
}

/** The area between the outermost elements, round caps included. */
function filled(line: Multiline, style: MultilineStyle, first: number, last: number, names: NameTables): FillEntity {
  const { corners, style: own, handle, flags } = line;
  const colour = indexed(style.fill, own.colour);
  const look = names.style(own.layer, colour, own.weight, LINE_TYPE_BY_LAYER, 1, own.opacity);
  const side = (element: number): Point[] => corners.map(({ points }) => points[element]!);
  if (flags & CLOSED) {
    return { kind: 'fill', style: look, handle, loops: [loop(side(first)), loop(side(last))] };
  }
  const [there, back] = [side(first), side(last).reverse()];
  const points = loop([...there, ...back]);
  const end = corners.at(-2)!;
  const start = corners[0]!;
  if (style.flags & END.round && !(flags & NO_END_CAPS)) {
    points[(there.length - 1) * LOOP_STRIDE + 2] = bulgeTo(there.at(-1)!, back[0]!, [end.dx, end.dy]);
  }
  if (style.flags & START.round && !(flags & NO_START_CAPS)) {
    points[points.length - 1] = bulgeTo(back.at(-1)!, there[0]!, [-start.dx, -start.dy]);
  }
  return { kind: 'fill', style: look, handle, loops: [points] };
}

function loop(points: readonly Point[]): Float64Array {
  return Float64Array.from(points.flatMap(([x, y]) => [x, y, 0]));
}

function polyline(
  { handle }: Multiline,
  style: Style,
  points: readonly Point[],
  closed = false,
  bulge = 0,
): PolylineEntity {
  const vertices = new Float64Array(points.length * POLYLINE_STRIDE);
  points.forEach(([x, y], i) => vertices.set([x, y, i === 0 ? bulge : 0], i * POLYLINE_STRIDE));
  return { kind: 'polyline', style, handle, vertices, closed };
}
