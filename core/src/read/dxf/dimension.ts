import type { PlainEntity, Style } from '../../drawing/model';
import { withOverrides, type DimensionStyle } from './dimension-looks';
import { dimensionText, writtenAngle, writtenLength } from './dimension-text';
import { arrowhead } from './leader';
import type { NameTables } from './names';
import type { Record } from './record';
import { spannedText } from './texts';

type Point = readonly [x: number, y: number];

const RADIANS = Math.PI / 180;
const TURN = 2 * Math.PI;
const KIND = 7;
const [ALIGNED, ANGULAR, DIAMETER, RADIUS, ANGULAR_BY_POINTS, ORDINATE] = [1, 2, 3, 4, 5, 6];
/** Of an ordinate dimension: it measures along x. */
const ALONG_X = 64;
const TEXT_PLACED = 128;
/** With less room than this many arrowheads, they are outside, pointing in (common practice). */
const ROOM_FOR_ARROWS = 3;
/** Width of a character over its height, roughly, for the gap in an interrupted line. */
const CHARACTER_WIDTH = 0.8;

/** What a dimension whose block is missing looks like, drawn from its values; nothing where they measure nothing. */
export function drawDimension(record: Record, style: Style, handle: string, names: NameTables): PlainEntity[] {
  const looks = withOverrides(record, names.dimensionLooks(record.text(3, 'STANDARD')));
  return new Drafter(record, style, handle, looks).draw(record.integer(70) & KIND);
}

class Drafter {
  private readonly shapes: PlainEntity[] = [];
  private readonly size: { [key in 'arrow' | 'offset' | 'beyond' | 'text' | 'tick' | 'gap']: number };

  constructor(
    private readonly record: Record,
    private readonly style: Style,
    private readonly handle: string,
    private readonly looks: DimensionStyle,
  ) {
    const { scale, arrow, offset, beyond, textHeight, tick, gap } = looks;
    this.size = {
      arrow: arrow * scale,
      offset: offset * scale,
      beyond: beyond * scale,
      text: textHeight * scale,
      tick: tick * scale,
      gap: gap * scale,
    };
  }

  draw(kind: number): PlainEntity[] {
    if (kind === ANGULAR || kind === ANGULAR_BY_POINTS) this.angular(kind);
    else if (kind === DIAMETER || kind === RADIUS) this.round(kind);
    else if (kind === ORDINATE) this.ordinate();
    else this.linear(kind);
    return this.shapes;
  }

  /** Between two points, along their own direction or a given one. */
  private linear(kind: number): void {
    const [from, to, through] = [this.point(13), this.point(14), this.point(10)];
    const turn = kind === ALIGNED ? Math.atan2(to[1] - from[1], to[0] - from[0]) : this.record.number(50) * RADIANS;
    const [along, across] = [direction(turn), direction(turn + Math.PI / 2)];
    const onLine = (point: Point): Point => moved(point, across, dot(minus(through, point), across));
    const [start, end] = [onLine(from), onLine(to)];
    const length = Math.abs(dot(minus(to, from), along));
    if (!(length > 0)) return;
    this.extension(from, start);
    this.extension(to, end);
    const text = dimensionText(this.record.text(1), writtenLength(this.measured(length), this.looks));
    this.dimensionLine(start, end, text);
  }

  private extension(from: Point, to: Point): void {
    const way = minus(to, from);
    const length = Math.hypot(...way);
    if (!(length > this.size.offset)) return;
    const unit: Point = [way[0] / length, way[1] / length];
    this.line(moved(from, unit, this.size.offset), moved(to, unit, this.size.beyond));
  }

  private dimensionLine(start: Point, end: Point, text: string): void {
    const way = minus(end, start);
    const length = Math.hypot(...way);
    const along: Point = [way[0] / length, way[1] / length];
    const middle = halfway(start, end);
    const placed = this.placed();
    const interrupted = text !== '' && this.looks.above === 0 && !placed;
    const half = (text.length * CHARACTER_WIDTH * this.size.text) / 2 + this.size.gap;
    if (interrupted && 2 * half < length) {
      this.line(start, moved(middle, along, -half));
      this.line(moved(middle, along, half), end);
    } else this.line(start, end);
    this.ends(start, end, along, length);
    const turn = readable(Math.atan2(along[1], along[0]));
    const lift = this.looks.above === 0 ? 0 : this.size.gap + this.size.text / 2;
    this.text(text, placed ?? moved(middle, direction(turn + Math.PI / 2), lift), turn);
  }

  private ends(start: Point, end: Point, along: Point, length: number): void {
    const { tick, arrow } = this.size;
    if (tick > 0) {
      const slant = direction(Math.atan2(along[1], along[0]) + Math.PI / 4);
      for (const point of [start, end]) this.line(moved(point, slant, -tick), moved(point, slant, tick));
      return;
    }
    const inside = length >= ROOM_FOR_ARROWS * arrow ? 1 : -1;
    this.arrow(start, moved(start, along, inside));
    this.arrow(end, moved(end, along, -inside));
    if (inside > 0) return;
    this.line(start, moved(start, along, -2 * arrow));
    this.line(end, moved(end, along, 2 * arrow));
  }

  private angular(kind: number): void {
    const arms = kind === ANGULAR ? this.armsOfLines() : this.armsOfPoints();
    if (!arms) return;
    const { vertex, radius, start, sweep, ends } = arms;
    const { style, handle } = this;
    const end = start + sweep;
    this.shapes.push({ kind: 'arc', style, handle, cx: vertex[0], cy: vertex[1], radius, start, end, full: false });
    const at = (angle: number): Point => moved(vertex, direction(angle), radius);
    for (const point of ends) this.extension(point, at(angleOf(point, vertex)));
    this.arrow(at(start), moved(at(start), direction(start + Math.PI / 2), 1));
    this.arrow(at(end), moved(at(end), direction(end - Math.PI / 2), 1));
    const text = dimensionText(this.record.text(1), writtenAngle(sweep / RADIANS, this.looks));
    const middle = start + sweep / 2;
    const lift = radius + (this.looks.above === 0 ? 0 : this.size.gap + this.size.text / 2);
    this.text(text, this.placed() ?? moved(vertex, direction(middle), lift), readable(middle - Math.PI / 2));
  }

  /** The angle at 15 between 13 and 14 in which 10 lies. */
  private armsOfPoints(): Arms | undefined {
    const [vertex, first, second, on] = [this.point(15), this.point(13), this.point(14), this.point(10)];
    return armsAround(vertex, on, angleOf(first, vertex), angleOf(second, vertex), [first, second]);
  }

  /** The angle between the lines 13–14 and 15–10 in which 16 lies. */
  private armsOfLines(): Arms | undefined {
    const [a, b, c, d, on] = [this.point(13), this.point(14), this.point(15), this.point(10), this.point(16)];
    const [u, v] = [minus(b, a), minus(d, c)];
    const cross = u[0] * v[1] - u[1] * v[0];
    if (Math.abs(cross) < 1e-12 * Math.hypot(...u) * Math.hypot(...v) || cross === 0) return undefined;
    const way = minus(c, a);
    const vertex = moved(a, u, (way[0] * v[1] - way[1] * v[0]) / cross);
    // Which way along each line the arc lies.
    const to = minus(on, vertex);
    const [s, t] = [(to[0] * v[1] - to[1] * v[0]) / cross, (u[0] * to[1] - u[1] * to[0]) / cross];
    const [first, second] = [direct(u, s), direct(v, t)].map((unit) => Math.atan2(unit[1], unit[0])) as [
      number,
      number,
    ];
    const ends = [farther(a, b, vertex, direct(u, s)), farther(c, d, vertex, direct(v, t))].filter(
      (end) => end !== vertex,
    );
    return armsAround(vertex, on, first, second, ends);
  }

  /** A radius from its centre 10 to 15, or a diameter between them. */
  private round(kind: number): void {
    const [from, to] = [this.point(10), this.point(15)];
    const length = Math.hypot(...minus(to, from));
    if (!(length > 0)) return;
    this.line(from, to);
    this.arrow(to, from);
    if (kind === DIAMETER) this.arrow(from, to);
    const prefix = kind === DIAMETER ? 'Ø' : 'R';
    const text = dimensionText(this.record.text(1), writtenLength(this.measured(length), this.looks, prefix));
    const turn = readable(angleOf(to, from));
    const lift = this.size.gap + this.size.text / 2;
    this.text(text, this.placed() ?? moved(halfway(from, to), direction(turn + Math.PI / 2), lift), turn);
  }

  /** The distance of 13 from the datum 10 along one axis, at the end of a leader to 14. */
  private ordinate(): void {
    const [datum, feature, end] = [this.point(10), this.point(13), this.point(14)];
    const alongX = (this.record.integer(70) & ALONG_X) !== 0;
    const away = minus(feature, datum);
    const length = Math.abs(alongX ? away[0] : away[1]);
    const out: Point = alongX ? [0, Math.sign(end[1] - feature[1])] : [Math.sign(end[0] - feature[0]), 0];
    const knee = moved(end, out, -2 * this.size.arrow);
    const corner: Point = alongX ? [feature[0], knee[1]] : [knee[0], feature[1]];
    this.line(moved(feature, out, this.size.offset), corner);
    this.line(corner, knee);
    this.line(knee, end);
    const text = dimensionText(this.record.text(1), writtenLength(this.measured(length), this.looks));
    const half = (text.length * CHARACTER_WIDTH * this.size.text) / 2 + this.size.gap;
    this.text(text, this.placed() ?? moved(end, out, half), alongX ? Math.PI / 2 : 0);
  }

  /** The measured value stated in the file, or else the one computed from its points. */
  private measured(computed: number): number {
    const stated = this.record.number(42, -1);
    return stated > 0 ? stated : computed;
  }

  /** Where the file says the middle of the text lies, if it does. */
  private placed(): Point | undefined {
    const at = this.point(11);
    const says = this.record.has(11) && (this.record.integer(70) & TEXT_PLACED || at[0] !== 0 || at[1] !== 0);
    return says ? at : undefined;
  }

  private point(code: number): Point {
    return [this.record.number(code), this.record.number(code + 10)];
  }

  private line([x0, y0]: Point, [x1, y1]: Point): void {
    this.shapes.push({ kind: 'line', style: this.style, handle: this.handle, x0, y0, x1, y1 });
  }

  private arrow(tip: Point, towards: Point): void {
    if (this.size.arrow > 0) {
      this.shapes.push(arrowhead([...tip, ...towards], this.size.arrow, this.style, this.handle));
    }
  }

  private text(text: string, [x, y]: Point, turn: number): void {
    if (text === '') return;
    const rotation = this.record.has(53) ? this.record.number(53) * RADIANS : turn;
    this.shapes.push({
      ...spannedText(text, this.size.text, this.style, this.handle),
      x,
      y,
      rotation,
      horizontal: 'centre',
      vertical: 'middle',
    });
  }
}

interface Arms {
  vertex: Point;
  radius: number;
  start: number;
  sweep: number;
  /** Where extension lines begin. */
  ends: Point[];
}

/** From one direction to the other, the way round on which a point lies. */
function armsAround(vertex: Point, on: Point, first: number, second: number, ends: Point[]): Arms | undefined {
  const radius = Math.hypot(...minus(on, vertex));
  if (!(radius > 0)) return undefined;
  const turnTo = (from: number, to: number): number => (((to - from) % TURN) + TURN) % TURN;
  const sweep = turnTo(first, second);
  const within = turnTo(first, angleOf(on, vertex)) <= sweep;
  return within
    ? { vertex, radius, start: first, sweep, ends }
    : { vertex, radius, start: second, sweep: turnTo(second, first), ends };
}

/** A direction, or its opposite where `sign` is negative. */
function direct([x, y]: Point, sign: number): Point {
  return sign < 0 ? [-x, -y] : [x, y];
}

/** The one of two points that lies farther along a direction from the vertex; the vertex where neither lies ahead. */
function farther(a: Point, b: Point, vertex: Point, along: Point): Point {
  const ahead = (point: Point): number => dot(minus(point, vertex), along);
  const end = ahead(a) > ahead(b) ? a : b;
  return ahead(end) > 0 ? end : vertex;
}

/** An angle, turned by 180° where text along it would be upside down. */
function readable(angle: number): number {
  const turned = Math.atan2(Math.sin(angle), Math.cos(angle));
  return turned > Math.PI / 2 + 1e-9 || turned <= -Math.PI / 2 + 1e-9 ? turned + Math.PI : turned;
}

function direction(angle: number): Point {
  return [Math.cos(angle), Math.sin(angle)];
}

function angleOf(point: Point, from: Point): number {
  return Math.atan2(point[1] - from[1], point[0] - from[0]);
}

function moved([x, y]: Point, [dx, dy]: Point, by: number): Point {
  return [x + dx * by, y + dy * by];
}

function halfway(a: Point, b: Point): Point {
  return [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
}

function minus(a: Point, b: Point): Point {
  return [a[0] - b[0], a[1] - b[1]];
}

function dot(a: Point, b: Point): number {
  return a[0] * b[0] + a[1] * b[1];
}
