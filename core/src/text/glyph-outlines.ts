/** The outline of a glyph: closed loops of curves in font units, to be filled by the nonzero rule. */
export type GlyphOutline = readonly OutlineLoop[];

/** Points x, y of a loop in turn and which of them lie on the curve; the others are handles. */
export interface OutlineLoop {
  x: number[];
  y: number[];
  on: boolean[];
  /** True where each curve has two handles, and the first point lies on the curve; absent: it has one handle. */
  cubic?: true;
}

/** Flags of points and of components (ISO/IEC 14496-22, 5.3.4). */
const [ON_CURVE, X_SHORT, Y_SHORT, REPEAT, X_SAME, Y_SAME] = [1, 2, 4, 8, 16, 32];
const [WORDS, ARE_XY, SCALED, MORE, TWO_SCALES, MATRIX] = [0x1, 0x2, 0x8, 0x20, 0x40, 0x80];
const MAX_DEPTH = 6;

/** Reads the outlines of TrueType glyphs from the tables loca and glyf, each once; one without ink has no loops. */
export function trueTypeOutlines(bytes: Uint8Array): (glyph: number) => GlyphOutline {
  const known = new Map<number, GlyphOutline>();
  let reader: Reader | undefined;
  return (glyph) => {
    let outline = known.get(glyph);
    if (!outline) known.set(glyph, (outline = (reader ??= new Reader(bytes)).outline(glyph, 0)));
    return outline;
  };
}

class Reader {
  private readonly data: DataView;
  private readonly loca: number;
  private readonly glyf: number;
  private readonly long: boolean;

  constructor(bytes: Uint8Array) {
    this.data = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    this.loca = this.table('loca');
    this.glyf = this.table('glyf');
    this.long = this.data.getInt16(this.table('head') + 50) === 1;
  }

  outline(glyph: number, depth: number): OutlineLoop[] {
    const { data, long, loca } = this;
    const at = (index: number): number =>
      long ? data.getUint32(loca + 4 * index) : 2 * data.getUint16(loca + 2 * index);
    if (at(glyph) === at(glyph + 1)) return [];
    const start = this.glyf + at(glyph);
    const loops = data.getInt16(start);
    return loops >= 0 ? this.simple(start + 10, loops) : this.composite(start + 10, depth);
  }

  private simple(start: number, count: number): OutlineLoop[] {
    const { data } = this;
    const ends = Array.from({ length: count }, (_, i) => data.getUint16(start + 2 * i));
    const points = (ends.at(-1) ?? -1) + 1;
    let at = start + 2 * count;
    at += 2 + data.getUint16(at);
    const flags: number[] = [];
    while (flags.length < points) {
      const flag = data.getUint8(at++);
      const times = flag & REPEAT ? 1 + data.getUint8(at++) : 1;
      for (let i = 0; i < times; i++) flags.push(flag);
    }
    const axis = (short: number, same: number): number[] => {
      let value = 0;
      return flags.map((flag) => {
        if (flag & short) value += flag & same ? data.getUint8(at++) : -data.getUint8(at++);
        else if (!(flag & same)) {
          value += data.getInt16(at);
          at += 2;
        }
        return value;
      });
    };
    const x = axis(X_SHORT, X_SAME);
    const y = axis(Y_SHORT, Y_SAME);
    return ends.map((end, i) => {
      const from = i === 0 ? 0 : ends[i - 1]! + 1;
      const on = flags.slice(from, end + 1).map((flag) => (flag & ON_CURVE) !== 0);
      return { x: x.slice(from, end + 1), y: y.slice(from, end + 1), on };
    });
  }

  private composite(start: number, depth: number): OutlineLoop[] {
    const { data } = this;
    if (depth > MAX_DEPTH) return [];
    const loops: OutlineLoop[] = [];
    let at = start;
    for (let more = true; more;) {
      const [flags, glyph] = [data.getUint16(at), data.getUint16(at + 2)];
      at += 4;
      const place = placeIn(data, at, flags);
      at += flags & WORDS ? 4 : 2;
      const part = (): number => data.getInt16((at += 2) - 2) / 16384;
      let [a, b, c, d] = [1, 0, 0, 1];
      if (flags & SCALED) a = d = part();
      else if (flags & TWO_SCALES) [a, d] = [part(), part()];
      else if (flags & MATRIX) [a, b, c, d] = [part(), part(), part(), part()];
      const placed = this.outline(glyph, depth + 1).map(({ x, y, on }): OutlineLoop => {
        return { x: x.map((px, i) => a * px + c * y[i]!), y: y.map((py, i) => b * x[i]! + d * py), on };
      });
      const [e, f] = flags & ARE_XY ? place : between(pointOf(placed, place[1]), pointOf(loops, place[0]));
      for (const { x, y, on } of placed) loops.push({ x: x.map((px) => px + e), y: y.map((py) => py + f), on });
      more = (flags & MORE) !== 0;
    }
    return loops;
  }

  private table(tag: string): number {
    const { data } = this;
    for (let i = 0; i < data.getUint16(4); i++) {
      const at = 12 + 16 * i;
      const name = String.fromCharCode(...[0, 1, 2, 3].map((k) => data.getUint8(at + k)));
      if (name === tag) return data.getUint32(at + 8);
    }
    throw new Error(`the font has no ${tag} table`);
  }
}

type Point = readonly [x: number, y: number];

/** The two arguments of a component: a distance, or the numbers of a point of the glyph so far and of one of its own. */
function placeIn(data: DataView, at: number, flags: number): Point {
  if (flags & ARE_XY) {
    return flags & WORDS ? [data.getInt16(at), data.getInt16(at + 2)] : [data.getInt8(at), data.getInt8(at + 1)];
  }
  return flags & WORDS ? [data.getUint16(at), data.getUint16(at + 2)] : [data.getUint8(at), data.getUint8(at + 1)];
}

/** A point by its number, counted through all loops; the origin where there is none. */
function pointOf(loops: readonly OutlineLoop[], index: number): Point {
  let first = 0;
  for (const { x, y } of loops) {
    if (index < first + x.length) return [x[index - first]!, y[index - first]!];
    first += x.length;
  }
  return [0, 0];
}

function between(from: Point, to: Point): Point {
  return [to[0] - from[0], to[1] - from[1]];
}

/** What takes an outline, curve by curve. */
export interface OutlineSink {
  move(x: number, y: number): void;
  line(x: number, y: number): void;
  /** A quadratic curve from where the pen is, by a handle, to a point. */
  curve(hx: number, hy: number, x: number, y: number): void;
  /** A cubic curve by two handles. */
  cubic(x1: number, y1: number, x2: number, y2: number, x: number, y: number): void;
  close(): void;
}

/** Draws an outline. */
export function drawOutline(outline: GlyphOutline, sink: OutlineSink): void {
  for (const loop of outline) {
    if (loop.x.length < 2) continue;
    if (loop.cubic) drawCubic(loop, sink);
    else drawQuadratic(loop, sink);
    sink.close();
  }
}

function drawCubic({ x, y, on }: OutlineLoop, sink: OutlineSink): void {
  sink.move(x[0]!, y[0]!);
  for (let i = 1; i < x.length; i++) {
    if (on[i]) sink.line(x[i]!, y[i]!);
    else {
      const end = (i + 2) % x.length;
      sink.cubic(x[i]!, y[i]!, x[i + 1]!, y[i + 1]!, x[end]!, y[end]!);
      i += 2;
    }
  }
}

/** Between two handles in a row lies a point half-way (ISO/IEC 14496-22, 5.3.4). */
function drawQuadratic({ x, y, on }: OutlineLoop, sink: OutlineSink): void {
  const count = x.length;
  const first = on.indexOf(true);
  const half = (i: number, j: number): [number, number] => [(x[i]! + x[j]!) / 2, (y[i]! + y[j]!) / 2];
  const [sx, sy] = first < 0 ? half(count - 1, 0) : [x[first]!, y[first]!];
  sink.move(sx, sy);
  const from = first < 0 ? 0 : first + 1;
  const steps = first < 0 ? count : count - 1;
  for (let k = 0; k < steps; k++) {
    const i = (from + k) % count;
    if (on[i]) {
      sink.line(x[i]!, y[i]!);
      continue;
    }
    const next = (i + 1) % count;
    const last = k === steps - 1;
    if (last) sink.curve(x[i]!, y[i]!, sx, sy);
    else if (on[next]) {
      sink.curve(x[i]!, y[i]!, x[next]!, y[next]!);
      k++;
    } else sink.curve(x[i]!, y[i]!, ...half(i, next));
  }
}
