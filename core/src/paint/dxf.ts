import { colourFromIndex } from '../drawing/colours';
import {
  apply,
  determinant,
  inverse,
  meanScale,
  multiply,
  scaling,
  translation,
  type Affine,
} from '../geometry/affine';
import { mappedBox, type Box } from '../geometry/box';
import { asEvenOdd, clipFillToLoops } from '../geometry/clip-areas';
import { clipFill, clipStroke } from '../geometry/clip-path';
import { insideLoops, isInside } from '../geometry/clip-loops';
import { cubicHandles } from '../geometry/curves';
import { flattened } from '../geometry/flatten';
import { mapPath } from '../geometry/map-path';
import { Path } from '../geometry/path';
import { MM_PER_UNIT } from '../measure/units';
import { ownFontsOn } from '../page/fonts-on';
import { withoutGroups } from '../page/groups';
import { markOrder } from '../page/mark-boxes';
import { markPath } from '../page/mark-path';
import {
  STROKE,
  UNITS_PER_MM,
  type ClipShape,
  type Page,
  type PageText,
  type Pen,
  type PlacedBlock,
  type PlacedPicture,
} from '../page/page';
import { visitMark, type MarkVisitor } from '../page/visit-marks';
import { isOwnFont, SHIPPED_FONTS } from '../text/fonts';
import type { FontSet } from '../text/layout';
import type { FontFace } from '../text/sfnt';
import { blocksOf, type BlockDefinition, type KeptBlock } from './dxf-blocks';
import { fill, fill12, strokes, strokes12, type Entity } from './dxf-entities';
import { cssColour } from './canvas';
import { Dxf12File } from './dxf-12';
import {
  DxfFile,
  type DxfTables,
  type DxfUnit,
  type DxfVersion,
  type Groups,
  type PictureFile,
  type WrittenDxf,
  type WrittenLayer,
  type WrittenLineType,
} from './dxf-file';
import { traceText } from './text-outline';

/** Line weights that the format can say, 1/100 mm (published DXF reference, group 370). */
const WEIGHTS = [0, 5, 9, 13, 15, 18, 20, 25, 30, 35, 40, 50, 53, 60, 70, 80, 90, 100, 106, 120, 140, 158, 200, 211];
const PALETTE = Array.from({ length: 255 }, (_, i) => colourFromIndex(i + 1));
const FOREGROUND = 7;
/** Transparency is a byte with this above it. */
const CLEAR = 0x02000000;
/** Flags of an IMAGE: it shows, also where it is turned; it is clipped by its outline. */
const [SHOWN, CLIPPED] = [3, 4];
/** "Fit": a text between two points, stretched to reach the second. */
const FIT = 5;

/** How a page is written as DXF, where it differs from the default. */
export interface DxfOptions {
  /** Absent: millimetres. */
  unit?: DxfUnit;
  /** Where the page's lower left corner lies, mm; absent: at the origin. */
  x?: number;
  y?: number;
  /** By how much the page was enlarged when it was composed. Its pens were not: lines with a width of their own get wider. */
  enlarged?: number;
  /** Texts as the outlines of their letters. */
  outlines?: boolean;
  /** Absent: 2013. */
  version?: DxfVersion;
  /** The files that pictures of the page are in, by their index there; those without are outlines. */
  pictures?: readonly (PictureFile | undefined)[];
  /** A layer for each pen, with its colour and weight, instead of those of the drawings. */
  layersByPen?: boolean;
}

/**
 * A page as a DXF drawing at its own size: lines with weights, line types and layers, curves as splines, solid hatches, texts
 * that fill the width they have on the page. Nothing in the format clips lines: what clips hide is cut away. Of pictures
 * that have no file of their own, and in release 12, there is the outline only.
 */
export function dxfOf(page: Page, fonts: FontSet, options: DxfOptions = {}): string {
  return new PageWriter(withoutGroups(page), fonts, options).write();
}

class PageWriter implements MarkVisitor {
  private readonly path = new Path();
  private readonly file: WrittenDxf;
  private readonly layers: FileLayers;
  /** True for release 12, which has neither splines nor hatches. */
  private readonly old: boolean;
  private readonly lineTypes: WrittenLineType[] = [];
  private readonly looks: Groups[];
  /** Widths of lines that have one of their own, by pen; 0: they have a weight. */
  private readonly widths: number[];
  /** Page units to the unit and place of the file. */
  private readonly pageToFile: Affine;
  /** Page units to the coordinates of the file, or of the block that is being written. */
  private toFile: Affine;
  /** Names of the blocks of the file. */
  private readonly blocks = new Map<BlockDefinition, string>();

  constructor(
    private readonly page: Page,
    private readonly fonts: FontSet,
    private readonly options: DxfOptions,
  ) {
    const { unit = 'mm', version = '2013', x = 0, y = 0, enlarged = 1 } = options;
    const mmToFile = multiply(scaling(1 / MM_PER_UNIT[unit]), translation(x, y));
    this.toFile = this.pageToFile = multiply(mmToFile, scaling(1 / UNITS_PER_MM));
    this.widths = page.pens.map(({ width, round }) => (round ? 0 : this.length(width * enlarged)));
    this.old = version === 'R12';
    const plain = this.old || version === '2000';
    this.looks = page.pens.map((pen) => {
      // Layers of pens have the looks of their pens.
      return [...this.lineTypeOf(pen), ...(options.layersByPen ? clearness(pen, plain) : looksOf(pen, plain))];
    });
    this.layers = options.layersByPen ? penLayers(page, plain) : drawnLayers(page);
    const tables: DxfTables = {
      unit,
      version,
      box: mappedBox(mmToFile, { xmin: 0, ymin: 0, xmax: page.widthMm, ymax: page.heightMm }),
      layers: this.layers.all,
      lineTypes: this.lineTypes,
      styles: [
        { name: 'Standard', family: fonts.face('sans').postScriptName },
        ...[...SHIPPED_FONTS, ...ownFontsOn(page)]
          .map((id) => fonts.face(id))
          .map((face) => ({ name: styleOf(face), family: face.postScriptName })),
      ],
    };
    this.file = this.old ? new Dxf12File(tables) : new DxfFile(tables);
  }

  write(): string {
    const { page } = this;
    const order = markOrder(page);
    const { kept, all } = blocksOf(page, order);
    for (const definition of all) this.block(definition, order);
    for (let mark = 0; mark < page.markCount; mark++) {
      const block = kept.get(mark);
      if (block) {
        this.reference(block);
        mark = block.to - 1;
      } else visitMark(page, mark, order, this);
    }
    return this.file.toString();
  }

  /** Writes a block in the unit of the file, as large as its first reference and turned back upright. */
  private block(definition: BlockDefinition, order: ArrayLike<number>): void {
    const { name, first } = definition;
    const written = freeName(legal(name), new Set([...this.blocks.values()].map((one) => one.toLowerCase())));
    this.blocks.set(definition, written);
    const toFile = this.toFile;
    this.toFile = multiply(scaling(this.sizeOf(first.placed)), inverse(first.placed.map));
    this.file.block(written, () => {
      for (let mark = first.from; mark < first.to; mark++) visitMark(this.page, mark, order, this);
    });
    this.toFile = toFile;
  }

  private reference({ placed, from, definition }: KeptBlock): void {
    const map = multiply(this.toFile, placed.map);
    const size = this.sizeOf(placed) / this.sizeOf(definition.first.placed);
    const turned = (Math.atan2(map.b, map.a) * 180) / Math.PI;
    const up = determinant(map) < 0 ? -size : size;
    // With more digits than lengths need: they are multiplied by how far the block reaches.
    const [across, along, angle] = [size, up, turned].map((value) => value.toFixed(12)) as [string, string, string];
    this.file.entity(
      'INSERT',
      this.layers.of(from),
      [],
      [
        ...[100, 'AcDbBlockReference', 2, this.blocks.get(definition)!, 10, map.e, 20, map.f, 30, 0],
        ...[41, across, 42, along, 43, across, 50, angle],
      ],
    );
  }

  /** Units of the file that a unit of a placed block measures. */
  private sizeOf({ map }: PlacedBlock): number {
    return meanScale(this.pageToFile) * meanScale(map);
  }

  stroke(mark: number): void {
    const path = this.cut(markPath(this.page, mark, this.path), this.clipsOf(mark), true);
    this.line(mapPath(path, this.toFile), this.widths[this.page.pen[mark]!]!, mark);
  }

  private line(path: Path, width: number, mark: number): void {
    (this.old ? strokes12 : strokes)(path, width, this.entityOf(mark));
  }

  fill(mark: number, nonzero: boolean): void {
    this.area(mark, markPath(this.page, mark, this.path), nonzero);
  }

  private area(mark: number, path: Path, nonzero: boolean): void {
    // Hatches know the even-odd rule only.
    const loops = nonzero ? new Path() : path;
    if (nonzero) asEvenOdd(path, loops);
    const whole = mapPath(this.cut(loops, this.clipsOf(mark), false), this.toFile);
    (this.old ? fill12 : fill)(whole, this.entityOf(mark));
  }

  picture(mark: number, placed: PlacedPicture): void {
    const { a, b, c, d, e, f, picture, opacity = 100 } = placed;
    const square = this.path.clear();
    square.moveTo(e, f);
    square.lineTo(e + a, f + b);
    square.lineTo(e + a + c, f + b + d);
    square.lineTo(e + c, f + d);
    square.close();
    const clips = this.clipsOf(mark);
    const file = this.options.pictures?.[picture];
    const edge = clips.length > 0 && file ? largest(flattened(this.cut(square, clips, false))) : undefined;
    // All of it is cut away.
    if (clips.length > 0 && file && !edge) return;
    const written =
      file && this.file.picture(this.layers.of(mark), file, this.pictureGroups(file, placed, edge, opacity));
    if (!written) this.line(mapPath(this.cut(square, clips, true), this.toFile), 0, mark);
  }

  /** The groups of a picture (published DXF reference, IMAGE): a pixel's sides, and the outline that it shows in, in pixels. */
  private pictureGroups(
    { width, height }: PictureFile,
    placed: Affine,
    edge: readonly number[] | undefined,
    opacity: number,
  ): (definition: string, reactor: string) => Groups {
    const { a, b, c, d, e, f } = multiply(this.toFile, placed);
    const inverted = inverse(placed);
    const corners = (edge ?? []).flatMap((x, i) => {
      if (i % 2) return [];
      const [across, up] = apply(inverted, x, edge![i + 1]!);
      return [14, across * width - 0.5, 24, (1 - up) * height - 0.5];
    });
    const whole = [14, -0.5, 24, -0.5, 14, width - 0.5, 24, height - 0.5];
    const outline = edge ? [71, 2, 91, corners.length / 4, ...corners] : [71, 1, 91, 2, ...whole];
    // More digits than lengths have: they are multiplied by thousands of pixels.
    const exact = (value: number): string => value.toFixed(12);
    return (definition, reactor) => [
      ...[100, 'AcDbRasterImage', 90, 0, 10, e, 20, f, 30, 0],
      ...[11, exact(a / width), 21, exact(b / width), 31, 0, 12, exact(c / height), 22, exact(d / height), 32, 0],
      ...[13, width, 23, height, 340, definition, 70, SHOWN | (edge ? CLIPPED : 0), 280, edge ? 1 : 0],
      ...[281, 50, 282, 50, 283, 100 - opacity, 360, reactor, ...outline],
    ];
  }

  private length(units: number): number {
    return units * meanScale(this.pageToFile);
  }

  private clipsOf(mark: number): readonly ClipShape[] {
    const clip = this.page.clip[mark]!;
    return clip > 0 ? this.page.clips[clip - 1]! : [];
  }

  private entityOf(mark: number): Entity {
    const pen = this.page.pen[mark]!;
    return (type, own) => this.file.entity(type, this.layers.of(mark), this.looks[pen] ?? [], own);
  }

  /** What of a path its clips leave. */
  private cut(path: Path, clips: readonly ClipShape[], stroked: boolean): Path {
    let current = path;
    for (const shape of clips) {
      const next = new Path();
      const box = boxOf(shape);
      if (stroked && box) clipStroke(current, box, next);
      else if (stroked) strokeInLoops(current, shape, next);
      else if (box) clipFill(current, box, next);
      else clipFillToLoops(current, shape, next);
      current = next;
    }
    return current;
  }

  text(mark: number, text: PageText): void {
    const { a, b, c, d, x, y, size, advance, font } = text;
    const [across, up] = [Math.hypot(a, b), Math.hypot(c, d)];
    if (text.unseen || !text.text.trim() || !(across > 0 && up > 0)) return;
    const face = this.fonts.face(font);
    const height = (size * face.capHeight) / face.unitsPerEm;
    // Of a text that is cut, all shows or nothing: its middle says which.
    const [mx, my] = [x + (a * advance + c * height) / 2, y + (b * advance + d * height) / 2];
    if (!this.clipsOf(mark).every((shape) => shows(shape, mx, my))) return;
    if (this.options.outlines) return this.letters(mark, text);
    const axes = multiply(this.toFile, { a, b, c, d, e: x, f: y });
    const turned = (Math.atan2(axes.b, axes.a) * 180) / Math.PI;
    const mirrored = determinant(axes) < 0;
    const slant = 90 - ((Math.atan2(axes.d, axes.c) - Math.atan2(axes.b, axes.a)) * 180) / Math.PI;
    const oblique = mirrored ? 0 : ((slant + 540) % 360) - 180;
    const [left, bottom] = [axes.e, axes.f];
    const [right, top] = apply(axes, advance, 0);
    this.entityOf(mark)('TEXT', [
      ...[100, 'AcDbText', 10, left, 20, bottom, 30, 0, 40, this.length(height * up)],
      ...[1, spelled(text.text), 50, turned],
      ...(Math.abs(oblique) > 0.01 && Math.abs(oblique) < 85 ? [51, oblique] : []),
      ...[7, styleOf(face), ...(mirrored ? [71, 4] : []), 72, FIT],
      ...[11, right, 21, top, 31, 0, 100, 'AcDbText', 73, 0],
    ]);
  }

  /** A text as the areas of its letters. */
  private letters(mark: number, text: PageText): void {
    const path = this.path.clear();
    traceText(text, this.fonts, {
      move: (x, y) => path.moveTo(x, y),
      line: (x, y) => path.lineTo(x, y),
      curve: (hx, hy, x, y) => {
        const at = path.coordCount;
        path.curveTo(...cubicHandles(path.coords[at - 2]!, path.coords[at - 1]!, hx, hy, x, y), x, y);
      },
      cubic: (...curve) => path.curveTo(...curve),
      close: () => path.close(),
    });
    if (path.verbCount > 1) this.area(mark, path, true);
  }

  private lineTypeOf({ dashes, lineType = 'dashes' }: Pen): Groups {
    if (dashes.length === 0) return [];
    const lengths = dashes.map((dash) => this.length(dash));
    const known = this.lineTypes.find((one) => String(one.dashes) === String(lengths));
    if (known) return [6, known.name];
    const name = `${legal(lineType)} ${this.lineTypes.length + 1}`;
    this.lineTypes.push({ name, dashes: lengths });
    return [6, name];
  }
}

/** The name of the text style for a typeface. Own typefaces go by their font's name: their ids would mean nothing elsewhere. */
function styleOf({ id, postScriptName }: FontFace): string {
  return isOwnFont(id) ? legal(postScriptName) : id;
}

/** The loop that encloses most; undefined where there is none. */
function largest(loops: readonly number[][]): number[] | undefined {
  const areaOf = (loop: readonly number[]): number => {
    let twice = 0;
    for (let i = 0; i < loop.length; i += 2) {
      const next = (i + 2) % loop.length;
      twice += loop[i]! * loop[next + 1]! - loop[next]! * loop[i + 1]!;
    }
    return Math.abs(twice);
  };
  return [...loops].sort((one, other) => areaOf(other) - areaOf(one))[0];
}

/** What of a stroked path lies inside loops, as straight pieces. */
function strokeInLoops(path: Path, loops: ClipShape, out: Path): void {
  for (const points of flattened(path)) {
    let [lastX, lastY] = [NaN, NaN];
    for (let i = 0; i + 3 < points.length; i += 2) {
      const [x0, y0, x1, y1] = [points[i]!, points[i + 1]!, points[i + 2]!, points[i + 3]!];
      const inside = insideLoops(loops, x0, y0, x1, y1);
      for (let k = 0; k < inside.length; k += 2) {
        const at = (place: number): [number, number] => [x0 + place * (x1 - x0), y0 + place * (y1 - y0)];
        const [[fx, fy], [tx, ty]] = [at(inside[k]!), at(inside[k + 1]!)];
        if (fx !== lastX || fy !== lastY) out.moveTo(fx, fy);
        out.lineTo(tx, ty);
        [lastX, lastY] = [tx, ty];
      }
    }
  }
}

/** A clip that is a rectangle. */
function boxOf(shape: ClipShape): Box | undefined {
  const loop = shape[0];
  if (shape.length !== 1 || loop?.length !== 4) return undefined;
  const [xmin, ymin, xmax, ymax] = loop as [number, number, number, number];
  return { xmin, ymin, xmax, ymax };
}

function shows(shape: ClipShape, x: number, y: number): boolean {
  const box = boxOf(shape);
  return box ? x >= box.xmin && x <= box.xmax && y >= box.ymin && y <= box.ymax : isInside(shape, x, y);
}

/** The looks of a pen; `plain` for releases that have neither true colours nor transparency. */
function looksOf({ colour, width, opacity }: Pen, plain: boolean): Groups {
  // Black is the foreground: it shows on dark screens too, and prints black.
  const exact = plain ? [] : [420, colour];
  const colours = colour === 0 ? [62, FOREGROUND] : [62, nearestIndex(colour), ...exact];
  return [...colours, 370, nearestWeight(width), ...clearness({ opacity }, plain)];
}

function clearness({ opacity }: Pick<Pen, 'opacity'>, plain: boolean): Groups {
  return opacity < 100 && !plain ? [440, CLEAR + Math.round((opacity / 100) * 255)] : [];
}

function nearestWeight(width: number): number {
  return WEIGHTS.reduce((best, weight) => (Math.abs(weight - width) < Math.abs(best - width) ? weight : best));
}

/** For readers that know indices only. */
function nearestIndex(colour: number): number {
  const parts = (rgb: number): number[] => [rgb >> 16, (rgb >> 8) & 255, rgb & 255];
  const wanted = parts(colour);
  const far = (rgb: number): number => parts(rgb).reduce((sum, part, i) => sum + (part - wanted[i]!) ** 2, 0);
  let best = 0;
  PALETTE.forEach((rgb, i) => {
    if (rgb >= 0 && (PALETTE[best]! < 0 || far(rgb) < far(PALETTE[best]!))) best = i;
  });
  return best + 1;
}

/** The layers of a file, and that of each mark. */
interface FileLayers {
  all: WrittenLayer[];
  of(mark: number): string;
}

/** Layers by drawing and name; those of several views under one name. */
function drawnLayers({ layers, layer }: Page): FileLayers {
  const names = layers.map(({ source, name }) =>
    legal(source ? `${source.replace(/\.\w{1,5}$/, '')} - ${name}` : name),
  );
  const offOf = (name: string): boolean => layers.every(({ off }, i) => names[i] !== name || off);
  const all = ['0', ...new Set(names)].map((name) => ({ name, off: name !== '0' && offOf(name) }));
  return { all, of: (mark) => names[layer[mark]!]! };
}

/** A layer for each weight and colour of lines, and for each colour of areas and texts. What is on layers that are off is not seen. */
function penLayers({ pens, pen, kind, layer, layers }: Page, plain: boolean): FileLayers {
  const colour = (rgb: number): string => (rgb === 0 ? '' : ` ${cssColour(rgb).slice(1)}`);
  const nameOf = (mark: number): string => {
    const { width, round, colour: rgb } = pens[pen[mark]!]!;
    const lines = round ? `Lines ${(width / UNITS_PER_MM).toFixed(2)}` : 'Wide lines';
    const drawn = kind[mark] === STROKE ? lines : 'Areas and texts';
    return `${drawn}${colour(rgb)}${layers[layer[mark]!]!.off ? ' off' : ''}`;
  };
  const all = new Map<string, WrittenLayer>([['0', { name: '0', off: false }]]);
  const names = Array.from(kind, (_, mark) => {
    const name = nameOf(mark);
    if (!all.has(name)) {
      const looks = looksOf({ ...pens[pen[mark]!]!, opacity: 100 }, plain);
      all.set(name, { name, off: layers[layer[mark]!]!.off === true, looks });
    }
    return name;
  });
  return { all: [...all.values()], of: (mark) => names[mark]! };
}

/** Names of tables hold no such characters (published DXF reference, symbol table names), and are at most this long. */
function legal(name: string): string {
  const clean = [...name].map((c) => (c < ' ' || '<>/\\":;?*|=`,'.includes(c) ? '_' : c)).join('');
  return clean.trim().slice(0, 255) || '_';
}

/** A name, counted up where it is taken; `taken` in lower case. */
function freeName(name: string, taken: ReadonlySet<string>): string {
  let free = name;
  for (let count = 2; taken.has(free.toLowerCase()); count++) free = `${name.slice(0, 240)} ${count}`;
  return free;
}

/** Signs that the format reads as codes are spelled out. */
function spelled(text: string): string {
  const plain = [...text].map((c) => (c < ' ' ? ' ' : c)).join('');
  return plain.replace(/%%/g, '%%%%%%').replace(/\^/g, '^ ');
}
