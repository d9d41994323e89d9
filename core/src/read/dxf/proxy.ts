import { colourFromIndex } from '../../drawing/colours';
import {
  COLOUR_BY_BLOCK,
  COLOUR_BY_LAYER,
  LOOP_STRIDE,
  POLYLINE_STRIDE,
  type ShapeEntity,
  type Style,
  type TextEntity,
} from '../../drawing/model';
import { cross, dot, minus, plus, scaled, unit, type Vector } from '../../geometry/vector';
import { planeOf, type Projection } from './projection';
import { joinBytes } from '../../join-bytes';
import type { NameTables } from './names';
import { MAX_MAGNITUDE, type Record } from './record';

/**
 * The graphics that a program stored with an object that only it knows, so that others can show it: drawing commands, each
 * a length, a kind and data, little-endian (published DXF reference, ACAD_PROXY_ENTITY; the kinds and their data are those
 * that ezdxf, an independent library, reads).
 */
export interface ProxyGraphics {
  shapes: ShapeEntity[];
  /** True where some of it is not understood. */
  partly: boolean;
}

/** Kinds of commands. */
const KIND = {
  circle: 2,
  circleBy3: 3,
  arc: 4,
  arcBy3: 5,
  polyline: 6,
  polygon: 7,
  mesh: 8,
  shell: 9,
  text: 10,
  text2: 11,
  colour: 14,
  layer: 16,
  lineType: 18,
  fill: 20,
  trueColour: 22,
  weight: 23,
  lineTypeScale: 24,
  pushMatrix: 29,
  pushMatrix2: 30,
  popMatrix: 31,
  polylineWithNormal: 32,
  unicodeText: 36,
  unicodeText2: 38,
} as const;
/** Extents, markers, thickness, materials and the like: nothing of it is seen on paper. */
const UNSEEN = new Set([1, 15, 17, 19, 21, 25, 26, 34, 35]);
const HEADER = 8;
/** Codes of the length of the data, by release, and of the data itself (published DXF reference, ACAD_PROXY_ENTITY). */
const [LENGTH, LENGTH_2010, DATA] = [92, 160, 310];
/** How a stored colour is meant, in its highest byte. */
const [BY_BLOCK, RGB, INDEX] = [0xc1, 0xc2, 0xc3];
const MOST_VERTICES = 1_000_000;

/** Rows of a matrix, four numbers each. */
type Matrix = readonly number[];

/** The graphics stored with an entity, as they are projected; undefined where it has none. */
export function readProxyGraphics(
  record: Record,
  style: Style,
  handle: string,
  names: NameTables,
  projection: Projection,
): ProxyGraphics | undefined {
  const bytes = storedBytes(record);
  if (bytes.length <= HEADER) return undefined;
  const reader = new GraphicsReader(bytes, style, handle, names, projection);
  reader.read();
  return reader.shapes.length > 0 ? reader : undefined;
}

/** The bytes of the first run of chunks behind a length. */
function storedBytes(record: Record): Uint8Array {
  const length = Math.max(record.find(LENGTH), record.find(LENGTH_2010));
  const chunks: Uint8Array[] = [];
  if (length >= 0) {
    for (let i = length + 1; i < record.count && record.codes[i] === DATA; i++) chunks.push(record.chunkAt(i));
  }
  return joinBytes(chunks);
}

class GraphicsReader implements ProxyGraphics {
  readonly shapes: ShapeEntity[] = [];
  partly = false;
  private readonly view: DataView;
  private at = HEADER;
  private end = HEADER;
  private fills = false;
  private readonly matrices: Matrix[];

  constructor(
    private readonly bytes: Uint8Array,
    private style: Style,
    private readonly handle: string,
    private readonly names: NameTables,
    [x, y]: Projection,
  ) {
    // Only x and y of what comes out of it are used.
    this.matrices = [[...x, 0, ...y, 0, 0, 0, 0, 0, 0, 0, 0, 1]];
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  }

  read(): void {
    let next = HEADER;
    while (next + HEADER <= this.bytes.length) {
      const [size, kind] = [this.view.getUint32(next, true), this.view.getUint32(next + 4, true)];
      this.end = next + size;
      if (size < HEADER || this.end > this.bytes.length) {
        this.partly = true;
        return;
      }
      this.at = next + HEADER;
      try {
        this.command(kind);
      } catch (error) {
        // Reading beyond the data of a command.
        if (!(error instanceof RangeError)) throw error;
        this.partly = true;
      }
      next = this.end;
    }
  }

  private command(kind: number): void {
    switch (kind) {
      case KIND.circle: {
        const [centre, radius, normal] = [this.vector(), this.double(), this.vector()];
        const { x, y } = planeOf(normal);
        return this.arc(centre, radius, x, y, 2 * Math.PI);
      }
      case KIND.arc: {
        const [centre, radius, normal, start] = [this.vector(), this.double(), this.vector(), this.vector()];
        return this.arc(centre, radius, unit(start), cross(normal, unit(start)), this.double());
      }
      case KIND.circleBy3:
      case KIND.arcBy3:
        return this.arcThrough(this.vector(), this.vector(), this.vector(), kind === KIND.circleBy3);
      case KIND.polyline:
      case KIND.polylineWithNormal:
      case KIND.polygon:
        return this.polyline(this.list(this.long()), kind === KIND.polygon);
      case KIND.mesh:
        return this.mesh();
      case KIND.shell:
        return this.shell();
      case KIND.text:
      case KIND.text2:
      case KIND.unicodeText:
      case KIND.unicodeText2:
        return this.text(kind);
      case KIND.pushMatrix:
      case KIND.pushMatrix2:
        this.matrices.push(
          product(
            this.matrix,
            Array.from({ length: 16 }, () => this.double()),
          ),
        );
        return;
      case KIND.popMatrix:
        if (this.matrices.length > 1) this.matrices.pop();
        return;
      case KIND.fill:
        this.fills = this.long() !== 0;
        return;
      default:
        if (!this.trait(kind)) this.partly ||= !UNSEEN.has(kind);
    }
  }

  /** Sets how what follows looks; false for another command. */
  private trait(kind: number): boolean {
    switch (kind) {
      case KIND.colour:
        return this.restyle({ colour: indexed(this.long()) });
      case KIND.trueColour:
        return this.restyle({ colour: stored(this.long()) });
      case KIND.weight:
        return this.restyle({ weight: Math.max(-3, this.long() | 0) });
      case KIND.lineTypeScale:
        return this.restyle({ lineTypeScale: this.double() });
      // Tables are counted in the order of the file.
      case KIND.layer: {
        const layer = this.long();
        return layer < this.names.layers.length ? this.restyle({ layer }) : true;
      }
      case KIND.lineType: {
        const lineType = this.long();
        return lineType < this.names.lineTypes.length ? this.restyle({ lineType }) : true;
      }
    }
    return false;
  }

  private restyle(change: Partial<Style>): true {
    const { layer, colour, weight, lineType, lineTypeScale, opacity } = { ...this.style, ...change };
    this.style = this.names.style(layer, colour, weight, lineType, lineTypeScale, opacity);
    return true;
  }

  private get matrix(): Matrix {
    return this.matrices.at(-1)!;
  }

  private get base(): { style: Style; handle: string } {
    return { style: this.style, handle: this.handle };
  }

  private add(shape: ShapeEntity): void {
    this.shapes.push(shape);
    this.fills = false;
  }

  /** An arc from the tip of `u` towards that of `v`, both of length one. */
  private arc(centre: Vector, radius: number, u: Vector, v: Vector, sweep: number): void {
    const [cx, cy] = this.plan(centre);
    const [ux, uy] = this.direction(u, radius);
    const [vx, vy] = this.direction(v, radius);
    this.add({
      kind: 'ellipse',
      ...this.base,
      cx,
      cy,
      ux,
      uy,
      vx,
      vy,
      start: Math.min(0, sweep),
      end: Math.max(0, sweep),
    });
  }

  /** The circle through three points, or its arc from the first to the last. */
  private arcThrough(a: Vector, b: Vector, c: Vector, whole: boolean): void {
    const [ab, ac] = [minus(b, a), minus(c, a)];
    const normal = cross(ab, ac);
    const square = dot(normal, normal);
    if (!(square > 0)) return;
    const towards = plus(scaled(cross(normal, ab), dot(ac, ac)), scaled(cross(ac, normal), dot(ab, ab)));
    const centre = plus(a, scaled(towards, 1 / (2 * square)));
    const [u, axis] = [unit(minus(a, centre)), unit(normal)];
    const v = cross(axis, u);
    const end = minus(c, centre);
    const sweep = (Math.atan2(dot(end, v), dot(end, u)) + 2 * Math.PI) % (2 * Math.PI);
    this.arc(centre, Math.hypot(...minus(a, centre)), u, v, whole ? 2 * Math.PI : sweep);
  }

  private polyline(vertices: readonly Vector[], closed: boolean): void {
    const points = vertices.map((vertex) => this.plan(vertex));
    if (points.length < 2) return;
    if (this.fills && points.length > 2) {
      const loop = new Float64Array(points.length * LOOP_STRIDE);
      points.forEach((point, i) => loop.set(point, i * LOOP_STRIDE));
      return this.add({ kind: 'fill', ...this.base, loops: [loop] });
    }
    const flat = new Float64Array(points.length * POLYLINE_STRIDE);
    points.forEach((point, i) => flat.set(point, i * POLYLINE_STRIDE));
    this.add({ kind: 'polyline', ...this.base, vertices: flat, closed });
  }

  private mesh(): void {
    const [rows, columns] = [this.long(), this.long()];
    const vertices = this.list(rows * columns);
    if (vertices.length === 0) return;
    for (let row = 0; row < rows; row++) this.polyline(vertices.slice(row * columns, (row + 1) * columns), false);
    for (let column = 0; column < columns; column++) {
      this.polyline(
        vertices.filter((_, i) => i % columns === column),
        false,
      );
    }
  }

  private shell(): void {
    const vertices = this.list(this.long());
    for (let left = this.long(); left > 0;) {
      const corners = Math.abs(this.long() | 0);
      const face = Array.from({ length: corners }, (): Vector => vertices[this.long()] ?? [NaN, NaN, NaN]);
      left -= 1 + corners;
      if (face.flat().every(Number.isFinite)) this.polyline(face, true);
    }
  }

  private text(kind: number): void {
    const unicode = kind === KIND.unicodeText || kind === KIND.unicodeText2;
    const second = kind === KIND.text2 || kind === KIND.unicodeText2;
    const [start, , direction] = [this.vector(), this.vector(), this.vector()];
    const early = second ? this.string(unicode) : '';
    if (second) this.at += 8;
    const [height, widthFactor, oblique] = [this.double(), this.double(), this.double()];
    if (second) this.at += 8;
    const flags = second ? [this.long(), this.long()] : [0, 0];
    const text = second ? early : this.string(unicode);
    const [x, y] = this.plan(start);
    const [dx, dy] = this.direction(direction, 1);
    const entity: TextEntity = {
      kind: 'text',
      ...this.base,
      lines: [text],
      x,
      y,
      x2: x,
      y2: y,
      height,
      rotation: Math.atan2(dy, dx),
      widthFactor: widthFactor || 1,
      oblique,
      backwards: flags[0] !== 0,
      upsideDown: flags[1] !== 0,
      horizontal: 'left',
      vertical: 'baseline',
      wrapWidth: 0,
      lineSpacing: 1,
      textStyle: 0,
    };
    this.add(entity);
  }

  private plan([x, y, z]: Vector): [number, number] {
    const m = this.matrix;
    return [m[0]! * x + m[1]! * y + m[2]! * z + m[3]!, m[4]! * x + m[5]! * y + m[6]! * z + m[7]!];
  }

  private direction([x, y, z]: Vector, by: number): [number, number] {
    const m = this.matrix;
    return [by * (m[0]! * x + m[1]! * y + m[2]! * z), by * (m[4]! * x + m[5]! * y + m[6]! * z)];
  }

  private list(count: number): Vector[] {
    if (!(count <= MOST_VERTICES)) throw new RangeError('more vertices than there are bytes for');
    return Array.from({ length: count }, () => this.vector());
  }

  private vector(): Vector {
    return [this.double(), this.double(), this.double()];
  }

  private double(): number {
    this.forward(8);
    const value = this.view.getFloat64(this.at - 8, true);
    if (!(Math.abs(value) < MAX_MAGNITUDE)) throw new RangeError('no place in a building');
    return value;
  }

  private long(): number {
    this.forward(4);
    return this.view.getUint32(this.at - 4, true);
  }

  private forward(bytes: number): void {
    this.at += bytes;
    if (this.at > this.end) throw new RangeError('beyond the command');
  }

  /** A text that ends with a zero, padded to four bytes. */
  private string(unicode: boolean): string {
    const unit = unicode ? 2 : 1;
    const from = this.at;
    let text = '';
    for (;;) {
      this.forward(unit);
      const code = unicode ? this.view.getUint16(this.at - 2, true) : this.view.getUint8(this.at - 1);
      if (code === 0) break;
      text += String.fromCharCode(code);
    }
    this.at = from + ((this.at - from + 3) & ~3);
    return text;
  }
}

function indexed(index: number): number {
  if (index === 0) return COLOUR_BY_BLOCK;
  return index > 255 ? COLOUR_BY_LAYER : colourFromIndex(index);
}

function stored(raw: number): number {
  const how = raw >>> 24;
  if (how === RGB) return raw & 0xffffff;
  if (how === INDEX) return indexed(raw & 0xff);
  return how === BY_BLOCK ? COLOUR_BY_BLOCK : COLOUR_BY_LAYER;
}

function product(outer: Matrix, inner: Matrix): Matrix {
  return Array.from({ length: 16 }, (_, i) => {
    const [row, column] = [i >> 2, i & 3];
    return [0, 1, 2, 3].reduce((sum, k) => sum + outer[4 * row + k]! * inner[4 * k + column]!, 0);
  });
}
