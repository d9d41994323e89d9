import { groups, tables, type LayerSpec } from './dxf-tables';

export type Point = readonly [x: number, y: number];

interface Look {
  layer?: string;
  colour?: number;
  weight?: number;
  lineType?: string;
  trueColour?: number;
}

/**
 * Writes a text DXF (AC1027, UTF-8) of the entities that the demo drawings need. Numbers come out with at most four
 * decimals and handles in order of writing, so that the same calls give the same bytes.
 */
export class DxfWriter {
  private readonly blocks: string[] = [];
  private readonly blockNames: string[] = [];
  private body: string[] = [];
  private layer: string;
  private handle = 0x100;
  private dimensions = 0;
  private multilines = false;

  constructor(
    private readonly layers: readonly LayerSpec[],
    private readonly insUnits: number,
    /** Drawing units that a line type's millimetres are multiplied by. */
    private readonly lineTypeScale: number,
  ) {
    this.layer = layers[0]!.name;
  }

  /** Everything drawn from now on lies on this layer. */
  on(layer: string): this {
    if (!this.layers.some(({ name }) => name === layer) && layer !== '0') throw new Error(`no layer ${layer}`);
    this.layer = layer;
    return this;
  }

  line(x0: number, y0: number, x1: number, y1: number, look: Look = {}): void {
    this.entity('LINE', look, [10, x0, 20, y0, 30, 0, 11, x1, 21, y1, 31, 0]);
  }

  polyline(points: readonly (readonly number[])[], closed = true, look: Look = {}): void {
    const vertices = points.flatMap(([x, y, bulge]) => [10, x!, 20, y!, ...(bulge ? [42, bulge] : [])]);
    this.entity('LWPOLYLINE', look, [90, points.length, 70, closed ? 1 : 0, ...vertices]);
  }

  rectangle(x: number, y: number, width: number, height: number, look: Look = {}): void {
    this.polyline(corners(x, y, width, height), true, look);
  }

  circle(x: number, y: number, radius: number, look: Look = {}): void {
    this.entity('CIRCLE', look, [10, x, 20, y, 30, 0, 40, radius]);
  }

  arc(x: number, y: number, radius: number, start: number, end: number, look: Look = {}): void {
    this.entity('ARC', look, [10, x, 20, y, 30, 0, 40, radius, 50, start, 51, end]);
  }

  /** Solid hatch with one loop a polygon; inner polygons are islands. */
  fill(loops: readonly (readonly Point[])[], look: Look = {}): void {
    const paths = loops.flatMap((loop) => [
      ...[92, 3, 72, 0, 73, 1, 93, loop.length],
      ...loop.flatMap(([x, y]) => [10, x, 20, y]),
      ...[97, 0],
    ]);
    const head = [10, 0, 20, 0, 30, 0, 210, 0, 220, 0, 230, 1, 2, 'SOLID', 70, 1, 71, 0, 91, loops.length];
    this.entity('HATCH', look, [...head, ...paths, 75, 0, 76, 1, 98, 0]);
  }

  fillRectangle(x: number, y: number, width: number, height: number, look: Look = {}): void {
    this.fill([corners(x, y, width, height)], look);
  }

  text(x: number, y: number, height: number, text: string, options: TextOptions = {}): void {
    this.entity('TEXT', options, textGroups(x, y, height, text, options));
  }

  /** MTEXT, attached at its top left corner. */
  paragraph(x: number, y: number, height: number, width: number, lines: readonly string[], look: Look = {}): void {
    const text = lines.map((line) => line.replace(/[\\{}]/g, '\\$&')).join('\\P');
    const chunks = text.match(/.{1,250}/gs) ?? [''];
    const groups = chunks.flatMap((chunk, i) => [i === chunks.length - 1 ? 1 : 3, chunk]);
    this.entity('MTEXT', look, [10, x, 20, y, 30, 0, 40, height, 41, width, 71, 1, ...groups, 7, 'NOTES']);
  }

  /** A wall drawn as a multiline, `width` wide about a line through the points. */
  multiline(points: readonly Point[], width: number, look: Look = {}): void {
    this.multilines = true;
    const last = points.length - 1;
    const direction = (i: number): Point => {
      const [[x0, y0], [x1, y1]] = [points[i]!, points[i + 1]!];
      const length = Math.hypot(x1 - x0, y1 - y0);
      return [(x1 - x0) / length, (y1 - y0) / length];
    };
    const vertices = points.flatMap(([x, y], i) => {
      const [before, after] = [direction(Math.max(0, i - 1)), direction(Math.min(i, last - 1))];
      // At a corner the lines meet on its bisector, so far out that both sides keep their distance.
      const [mx, my] = [-(before[1] + after[1]), before[0] + after[0]];
      const length = Math.hypot(mx, my);
      const [nx, ny] = [mx / length, my / length];
      const offset = width / 2 / (ny * after[0] - nx * after[1]);
      const head = [11, x, 21, y, 31, 0, 12, after[0], 22, after[1], 32, 0, 13, nx, 23, ny, 33, 0];
      return [...head, ...[offset, -offset].flatMap((along) => [74, 2, 41, along, 41, 0, 75, 0])];
    });
    const [x, y] = points[0]!;
    const middle = 1;
    const head = [2, 'WALL', 340, WALL_STYLE, 40, width, 70, middle, 71, 1, 72, points.length, 73, 2];
    this.entity('MLINE', look, [...head, 10, x, 20, y, 30, 0, 210, 0, 220, 0, 230, 1, ...vertices]);
  }

  /** Another drawing, shown at the place that it has in its own file. */
  reference(name: string, file: string): void {
    this.addBlock(name, '', EXTERNAL, file);
    this.insert(name, 0, 0);
  }

  insert(block: string, x: number, y: number, options: InsertOptions = {}): void {
    const { scaleX = 1, scaleY = scaleX, rotation = 0, columns = 1, rows = 1, dx = 0, dy = 0, attributes } = options;
    const array = columns * rows > 1 ? [70, columns, 71, rows, 44, dx, 45, dy] : [];
    const placing = [10, x, 20, y, 30, 0, 41, scaleX, 42, scaleY, 43, 1, 50, rotation, ...array];
    this.entity('INSERT', options, [...(attributes ? [66, 1] : []), 2, block, ...placing]);
    if (!attributes) return;
    for (const { tag, text, at, height, align } of attributes) {
      // Attributes say their vertical alignment by code 74 instead of 73.
      const groups = textGroups(x + at[0], y + at[1], height, text, align ? { align } : {});
      const own = align ? groups.slice(0, -2) : groups;
      this.entity('ATTRIB', {}, [...own, 2, tag, 70, 0, ...(align ? [74, 2] : [])]);
    }
    this.entity('SEQEND', {}, []);
  }

  /** What `draw` draws becomes a block with its base at the origin. */
  block(name: string, draw: () => void): void {
    const outer = this.body;
    const layer = this.layer;
    this.body = [];
    this.layer = '0';
    draw();
    const content = this.body.join('');
    this.body = outer;
    this.layer = layer;
    this.addBlock(name, content);
  }

  private addBlock(name: string, content: string, flags = 0, file = ''): void {
    const head = [0, 'BLOCK', 5, this.next(), 100, 'AcDbEntity', 8, '0', 100, 'AcDbBlockBegin', 2, name, 70, flags];
    const end = groups([0, 'ENDBLK', 5, this.next(), 100, 'AcDbEntity', 8, '0', 100, 'AcDbBlockEnd']);
    this.blockNames.push(name);
    this.blocks.push(groups([...head, 10, 0, 20, 0, 30, 0, 3, name, 1, file]) + content + end);
  }

  /**
   * A linear dimension between two points, horizontal or vertical, its line `offset` away; the picture of it is a
   * block, as drafting programs write it. `size` is the height of its figures.
   */
  dimension([x0, y0]: Point, [x1, y1]: Point, offset: number, size: number, figures?: string): void {
    const horizontal = Math.abs(x1 - x0) >= Math.abs(y1 - y0);
    const name = `*D${++this.dimensions}`;
    const length = horizontal ? Math.abs(x1 - x0) : Math.abs(y1 - y0);
    const at = horizontal ? y0 + offset : x0 + offset;
    const point = (along: number, across: number): Point => (horizontal ? [along, across] : [across, along]);
    const [from, to] = horizontal ? [x0, x1] : [y0, y1];
    const base = horizontal ? y0 : x0;
    const side = Math.sign(offset);
    const label = figures ?? String(Math.round(length));
    this.block(name, () => {
      this.line(...point(from, at), ...point(to, at), { colour: 0 });
      for (const along of [from, to]) {
        this.line(...point(along, base + side * size * 0.6), ...point(along, at + side * size * 0.6), { colour: 0 });
        const [x, y] = point(along, at);
        this.line(x - size * 0.35, y - size * 0.35, x + size * 0.35, y + size * 0.35, { weight: 50, colour: 0 });
      }
      const middle = (from + to) / 2;
      const [x, y] = horizontal ? [middle, at + size * 0.4] : [at - size * 0.4, middle];
      this.text(x, y, size, label, { align: 'centre', rotation: horizontal ? 0 : 90, colour: 0 });
    });
    const [px, py] = point(to, at);
    this.entity('DIMENSION', {}, [
      2,
      name,
      10,
      px,
      20,
      py,
      30,
      0,
      70,
      32,
      13,
      x0,
      23,
      y0,
      33,
      0,
      14,
      x1,
      24,
      y1,
      34,
      0,
    ]);
  }

  toString(): string {
    return [
      groups([0, 'SECTION', 2, 'HEADER', 9, '$ACADVER', 1, 'AC1027', 9, '$INSUNITS', 70, this.insUnits]),
      groups([9, '$LTSCALE', 40, this.lineTypeScale, 9, '$MEASUREMENT', 70, 1, 0, 'ENDSEC']),
      groups([0, 'SECTION', 2, 'TABLES']),
      tables(this.layers, ['*Model_Space', '*Paper_Space', ...this.blockNames]),
      groups([0, 'ENDSEC', 0, 'SECTION', 2, 'BLOCKS']),
      ...this.blocks,
      groups([0, 'ENDSEC', 0, 'SECTION', 2, 'ENTITIES']),
      ...this.body,
      groups([0, 'ENDSEC']),
      this.multilines ? MULTILINE_STYLES : '',
      groups([0, 'EOF']),
    ].join('');
  }

  private entity(type: string, look: Look, own: readonly (number | string)[]): void {
    const { layer = this.layer, colour, weight, lineType, trueColour } = look;
    const common: (number | string)[] = [0, type, 5, this.next(), 100, 'AcDbEntity', 8, layer];
    if (lineType) common.push(6, lineType);
    if (colour !== undefined) common.push(62, colour);
    if (trueColour !== undefined) common.push(420, trueColour);
    if (weight !== undefined) common.push(370, weight);
    this.body.push(groups([...common, ...marked(type, own)]));
  }

  private next(): string {
    return (this.handle++).toString(16).toUpperCase();
  }
}

/** Flag of a block that stands for another drawing (code 70). */
const EXTERNAL = 4;

/** Handle of the style that walls are drawn in: two lines, closed at the ends. */
const WALL_STYLE = 'F0000001';
const MULTILINE_STYLES = groups([
  ...[0, 'SECTION', 2, 'OBJECTS', 0, 'MLINESTYLE', 5, WALL_STYLE, 100, 'AcDbMlineStyle', 2, 'WALL'],
  ...[70, 16 + 256, 3, 'Wall', 62, 256, 51, 90, 52, 90, 71, 2],
  ...[49, 0.5, 62, 256, 6, 'BYLAYER', 49, -0.5, 62, 256, 6, 'BYLAYER', 0, 'ENDSEC'],
]);

/** Subclass names that the format wants before an entity's own groups. */
const SUBCLASS: Readonly<Record<string, string>> = {
  LINE: 'AcDbLine',
  LWPOLYLINE: 'AcDbPolyline',
  CIRCLE: 'AcDbCircle',
  TEXT: 'AcDbText',
  ATTRIB: 'AcDbText',
  MTEXT: 'AcDbMText',
  HATCH: 'AcDbHatch',
  INSERT: 'AcDbBlockReference',
  MLINE: 'AcDbMline',
};

/** An entity's own groups with the subclass names in their places. */
function marked(type: string, own: readonly (number | string)[]): (number | string)[] {
  if (type === 'ARC') return [100, 'AcDbCircle', ...own.slice(0, 8), 100, 'AcDbArc', ...own.slice(8)];
  if (type === 'DIMENSION') {
    const measured = own.findIndex((value, i) => i % 2 === 0 && value === 13);
    return [
      100,
      'AcDbDimension',
      ...own.slice(0, measured),
      100,
      'AcDbAlignedDimension',
      ...own.slice(measured),
      100,
      'AcDbRotatedDimension',
    ];
  }
  const name = SUBCLASS[type];
  const head = name ? [100, name, ...own] : [...own];
  // Vertical alignment (73) and tag (2) belong to a second part of TEXT and ATTRIB.
  const second = type === 'TEXT' ? 73 : type === 'ATTRIB' ? 2 : undefined;
  const at = head.findIndex((value, i) => i % 2 === 0 && value === second);
  if (type === 'TEXT') return at < 0 ? head : [...head.slice(0, at), 100, 'AcDbText', ...head.slice(at)];
  return type === 'ATTRIB' ? [...head.slice(0, at), 100, 'AcDbAttribute', ...head.slice(at)] : head;
}

export interface TextOptions extends Look {
  align?: 'left' | 'centre' | 'right' | 'middle';
  rotation?: number;
  style?: 'LABELS' | 'NOTES';
}

export interface InsertOptions extends Look {
  scaleX?: number;
  scaleY?: number;
  rotation?: number;
  columns?: number;
  rows?: number;
  dx?: number;
  dy?: number;
  attributes?: { tag: string; text: string; at: Point; height: number; align?: 'centre' }[];
}

export function corners(x: number, y: number, width: number, height: number): Point[] {
  return [
    [x, y],
    [x + width, y],
    [x + width, y + height],
    [x, y + height],
  ];
}

const ALIGN = { left: [0, 0], centre: [1, 0], right: [2, 0], middle: [1, 2] } as const;

function textGroups(x: number, y: number, height: number, text: string, options: TextOptions): (number | string)[] {
  const [horizontal, vertical] = ALIGN[options.align ?? 'left'];
  const anchor = horizontal || vertical ? [72, horizontal, 11, x, 21, y, 31, 0, 73, vertical] : [];
  const style = options.style ?? 'LABELS';
  return [10, x, 20, y, 30, 0, 40, height, 1, text, 50, options.rotation ?? 0, 7, style, ...anchor];
}
