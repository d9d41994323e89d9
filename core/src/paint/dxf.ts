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
import { mappedBox } from '../geometry/box';
import { asEvenOdd } from '../geometry/clip-areas';
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
  UNITS_PER_MM,
  type ClipShape,
  type Page,
  type PageText,
  type Pen,
  type PlacedBlock,
  type PlacedPicture,
} from '../page/page';
import { visitMark, type MarkVisitor } from '../page/visit-marks';
import { SHIPPED_FONTS } from '../text/fonts';
import type { FontSet } from '../text/layout';
import { blocksOf, type BlockDefinition, type KeptBlock } from './dxf-blocks';
import { cutTo, largest, shows } from './dxf-clips';
import { fill, fill12, strokes, strokes12, type Entity } from './dxf-entities';
import { Dxf12File } from './dxf-12';
import {
  DxfFile,
  type DxfTables,
  type DxfUnit,
  type DxfVersion,
  type Groups,
  type PictureFile,
  type WrittenDxf,
  type WrittenLineType,
} from './dxf-file';
import { clearness, drawnLayers, looksOf, penLayers, type FileLayers } from './dxf-layers';
import { freeName, legal, spelled, styleOf } from './dxf-names';
import { pictureGroups } from './dxf-pictures';
import { traceText } from './text-outline';

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
    const path = cutTo(markPath(this.page, mark, this.path), this.clipsOf(mark), true);
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
    const whole = mapPath(cutTo(loops, this.clipsOf(mark), false), this.toFile);
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
    const edge = clips.length > 0 && file ? largest(flattened(cutTo(square, clips, false))) : undefined;
    // All of it is cut away.
    if (clips.length > 0 && file && !edge) return;
    const written =
      file && this.file.picture(this.layers.of(mark), file, pictureGroups(file, placed, this.toFile, edge, opacity));
    if (!written) this.line(mapPath(cutTo(square, clips, true), this.toFile), 0, mark);
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
