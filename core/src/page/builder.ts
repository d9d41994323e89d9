import { mappedGradient } from '../drawing/gradient';
import { multiply, scaling, type Affine } from '../geometry/affine';
import { boxOfLoops, contains, expanded, intersection, intersects, mappedBox, type Box } from '../geometry/box';
import { clipFill, clipStroke } from '../geometry/clip-path';
import { lineReach } from '../geometry/line-shape';
import { Path } from '../geometry/path';
import {
  FILL,
  FILL_NONZERO,
  PICTURE,
  shapeOf,
  STROKE,
  TEXT,
  UNITS_PER_MM,
  type ClipShape,
  type Page,
  type PageLayer,
  type PageGroup,
  type PagePicture,
  type PlacedBlock,
  type PageText,
  type Pen,
  type PlacedPicture,
} from './page';

/** Farther from the paper than this (mm) nothing is kept: it would leave the range of whole numbers. */
const FAR_MM = 50_000;

/** What few pens have; a gradient in mm. */
type PenExtras = { [Name in 'lineType' | 'shape' | 'gradient']?: Pen[Name] | undefined };

interface OpenClip {
  /** The clip around it. */
  outer: OpenClip | undefined;
  /** Its own shape after those of the clips around it. */
  shapes: readonly ClipShape[];
  /** What all of them leave, mm: around it where they are not rectangles. */
  box: Box;
  /** Its own shape where that is a rectangle, mm. */
  rectangle: Box | undefined;
  /** Number in the page's list, once a mark needed it. */
  index: number;
}

/** Puts a Page together mark by mark. Paths come in millimetres; see `Page` for what it holds. */
export class PageBuilder {
  private readonly layers: PageLayer[] = [];
  private readonly pens: Pen[] = [];
  private readonly clips: (readonly ClipShape[])[] = [];
  private readonly texts: PageText[] = [];
  private readonly pictures: PagePicture[] = [];
  private readonly placed: PlacedPicture[] = [];
  private readonly layerAt = new Map<string, number>();
  private readonly penAt = new Map<string, number>();
  private readonly scratch = new Path();
  private readonly far: Box;
  private kind = new Uint8Array(256);
  private layerOf = new Uint16Array(256);
  private penOf = new Uint32Array(256);
  private clipOf = new Uint32Array(256);
  private tags: Uint32Array<ArrayBuffer> | undefined;
  private tag = 0;
  private readonly groups: PageGroup[] = [];
  private groupOf: Uint32Array<ArrayBuffer> | undefined;
  private group = 0;
  /** How many masks are open. */
  private masking = 0;
  private readonly blocks: PlacedBlock[] = [];
  private blockOf: Uint32Array<ArrayBuffer> | undefined;
  private block = 0;
  private verbStart = new Uint32Array(256);
  private coordStart = new Uint32Array(256);
  private verbs = new Uint8Array(1024);
  private coords = new Int32Array(4096);
  private marks = 0;
  private verbCount = 0;
  private coordCount = 0;
  /** Clips now open, the innermost last: each with all those around it. */
  private readonly open: OpenClip[] = [];

  /**
   * A page of this size, mm. `enlarged` has all of it come out so many times as large, dashes too, with line weights as
   * they are: what is laid out on paper at 1:50 has its true size at 50. `withBlocks` has the page say which marks are of
   * which block reference.
   */
  constructor(
    private readonly widthMm: number,
    private readonly heightMm: number,
    private readonly enlarged = 1,
    withBlocks = false,
  ) {
    if (withBlocks) this.blockOf = new Uint32Array(this.kind.length);
    this.far = expanded({ xmin: 0, ymin: 0, xmax: widthMm, ymax: heightMm }, FAR_MM / Math.max(1, enlarged));
  }

  get markCount(): number {
    return this.marks;
  }

  /** What follows comes from the entity of this number; once used, every mark remembers its own. */
  comesFrom(tag: number): void {
    this.tags ??= new Uint32Array(this.kind.length);
    this.tag = tag;
  }

  /** What follows, until `endGroup`, is one group: painted together, then composited with this opacity (per cent). */
  beginGroup(opacity: number): void {
    this.groupOf ??= new Uint32Array(this.kind.length);
    this.group = this.groups.push({ outer: this.group, opacity });
  }

  /** What follows is the mask of the open group, until `endMask`: the brighter it is, the more of the group shows. */
  beginMask(): void {
    const masked = this.groups[this.group - 1];
    this.beginGroup(100);
    if (masked) masked.mask = this.group;
    this.masking++;
  }

  endGroup(): void {
    this.group = this.groups[this.group - 1]?.outer ?? 0;
  }

  endMask(): void {
    this.masking--;
    this.endGroup();
  }

  /** What follows, until `endBlock`, belongs to a reference to a block of a drawing; `map` takes the block's coordinates to mm. */
  beginBlock(source: string, name: string, map: Affine): void {
    if (!this.blockOf) return;
    const toPage = multiply(scaling(UNITS_PER_MM * this.enlarged), map);
    this.block = this.blocks.push({ source, name, map: toPage, cut: false });
  }

  endBlock(): void {
    this.block = 0;
  }

  layer(source: string, name: string, view = '', off = false): number {
    const key = `${source}\n${name}\n${view}`;
    const known = this.layerAt.get(key);
    if (known !== undefined) return known;
    this.layerAt.set(key, this.layers.length);
    return this.layers.push({ source, name, ...(view && { view }), ...(off && { off }) }) - 1;
  }

  /** The number of a pen; widths, dashes and where its gradient lies are given in mm. */
  pen(
    widthMm: number,
    colour: number,
    dashesMm: readonly number[] = [],
    round = true,
    opacity = 100,
    { lineType, shape, gradient: gradientMm }: PenExtras = {},
  ): number {
    const width = Math.max(0, Math.round(widthMm * UNITS_PER_MM));
    const dashes = dashesMm.map((dash) => Math.round(dash * this.enlarged * UNITS_PER_MM * 100) / 100);
    const gradient = gradientMm && mappedGradient(gradientMm, scaling(UNITS_PER_MM * this.enlarged));
    const masks = this.masking > 0;
    const more = {
      ...(lineType && { lineType }),
      ...(shape && { shape }),
      ...(gradient && { gradient }),
      ...(masks && { masks: true as const }),
    };
    const special = shape || gradient || masks ? JSON.stringify([shape, gradient, masks]) : '';
    const key = `${width} ${colour} ${round} ${opacity} ${dashes.join(' ')} ${lineType ?? ''} ${special}`;
    const known = this.penAt.get(key);
    if (known !== undefined) return known;
    this.penAt.set(key, this.pens.length);
    const pen = { width, colour, dashes, round, opacity, ...more };
    return this.pens.push(pen) - 1;
  }

  /** What follows shows only inside this rectangle (mm), and inside those open already, until `endClip`. */
  clipTo(box: Box): void {
    this.beginClip([[box.xmin, box.ymin, box.xmax, box.ymax].map((mm) => this.units(mm))], box, box);
  }

  /**
   * What follows shows only inside these loops of x, y (mm; even-odd), and inside what is open already. Loops of fewer
   * than three points enclose nothing.
   */
  clipToLoops(loops: readonly (readonly number[])[]): void {
    const enclosing = loops.filter((loop) => loop.length >= 6);
    const shape = enclosing.map((loop) => loop.map((mm) => this.units(mm)));
    this.beginClip(shape, boxOfLoops(enclosing), rectangleOf(enclosing));
  }

  endClip(): void {
    this.open.pop();
  }

  stroke(path: Path, layer: number, pen: number): void {
    this.addPath(STROKE, path, layer, pen);
  }

  /** Fills by the even-odd rule, or by nonzero winding. */
  fill(path: Path, layer: number, pen: number, nonzero = false): void {
    this.addPath(nonzero ? FILL_NONZERO : FILL, path, layer, pen);
  }

  /** Adds a text; positions and sizes in mm, `box` around it for clipping. */
  text(text: PageText, box: Box, layer: number, pen: number): void {
    if (this.hidden(box)) return;
    if (!intersects(this.far, box)) return this.cutsBlock();
    this.mark(TEXT, layer, pen, box);
    this.texts.push({
      ...text,
      x: this.units(text.x),
      y: this.units(text.y),
      size: this.units(text.size),
      advance: this.units(text.advance),
    });
  }

  /** Places a picture: `map` takes its unit square to mm. */
  picture(picture: PagePicture, map: Affine, layer: number): void {
    const box = mappedBox(map, { xmin: 0, ymin: 0, xmax: 1, ymax: 1 });
    if (this.hidden(box)) return;
    if (!contains(this.far, box)) return this.cutsBlock();
    this.mark(PICTURE, layer, 0, box);
    let index = this.pictures.findIndex(
      ({ drawing, index, dpi }) => drawing === picture.drawing && index === picture.index && dpi === picture.dpi,
    );
    if (index < 0) index = this.pictures.push(picture) - 1;
    const scaled = (value: number): number => Math.round(value * this.enlarged * UNITS_PER_MM * 1000) / 1000;
    this.placed.push({
      picture: index,
      a: scaled(map.a),
      b: scaled(map.b),
      c: scaled(map.c),
      d: scaled(map.d),
      e: scaled(map.e),
      f: scaled(map.f),
    });
  }

  build(): Page {
    const { marks } = this;
    this.room();
    this.verbStart[marks] = this.verbCount;
    this.coordStart[marks] = this.coordCount;
    return {
      widthMm: this.widthMm * this.enlarged,
      heightMm: this.heightMm * this.enlarged,
      layers: this.layers,
      pens: this.pens,
      clips: this.clips,
      texts: this.texts,
      pictures: this.pictures,
      placed: this.placed,
      markCount: marks,
      kind: this.kind.slice(0, marks),
      layer: this.layerOf.slice(0, marks),
      pen: this.penOf.slice(0, marks),
      clip: this.clipOf.slice(0, marks),
      tag: this.tags?.slice(0, marks) ?? new Uint32Array(0),
      group: this.groupOf?.slice(0, marks) ?? new Uint32Array(0),
      groups: this.groups,
      ...(this.blockOf && { block: this.blockOf.slice(0, marks), blocks: this.blocks }),
      verbStart: this.verbStart.slice(0, marks + 1),
      coordStart: this.coordStart.slice(0, marks + 1),
      verbs: this.verbs.slice(0, this.verbCount),
      coords: this.coords.slice(0, this.coordCount),
    };
  }

  private addPath(kind: number, path: Path, layer: number, pen: number): void {
    if (path.verbCount < 2) return;
    const drawn = this.pens[pen]!;
    const reach = kind === STROKE ? lineReach(drawn.width, shapeOf(drawn)) / UNITS_PER_MM : 0;
    if (this.hidden(path.box, reach)) return;
    let kept = path;
    if (!contains(this.far, path.box)) {
      kept = this.scratch.clear();
      if (kind !== STROKE) clipFill(path, this.far, kept);
      else clipStroke(path, this.far, kept);
      this.cutsBlock();
      if (kept.verbCount < 2) return;
    }
    this.mark(kind, layer, pen, expanded(kept.box, reach));
    this.append(kept);
  }

  private mark(kind: number, layer: number, pen: number, box: Box): void {
    this.room();
    const at = this.marks++;
    this.kind[at] = kind;
    this.layerOf[at] = layer;
    this.penOf[at] = pen;
    this.clipOf[at] = this.clipFor(box);
    if (this.tags) this.tags[at] = this.tag;
    if (this.groupOf) this.groupOf[at] = this.group;
    if (this.blockOf) this.blockOf[at] = this.block;
    if (this.clipOf[at] > 0) this.cutsBlock();
    this.verbStart[at] = this.verbCount;
    this.coordStart[at] = this.coordCount;
  }

  private beginClip(shape: ClipShape, box: Box, rectangle: Box | undefined): void {
    const outer = this.open.at(-1);
    this.open.push({
      outer,
      shapes: [...(outer?.shapes ?? []), shape],
      box: outer ? intersection(outer.box, box) : box,
      rectangle,
      index: 0,
    });
  }

  private hidden(box: Box, reach = 0): boolean {
    const clip = this.open.at(-1);
    const hidden = clip !== undefined && !intersects(expanded(clip.box, reach), box);
    if (hidden) this.cutsBlock();
    return hidden;
  }

  /** Something of the block reference that is being drawn does not show. */
  private cutsBlock(): void {
    const block = this.blocks[this.block - 1];
    if (block) block.cut = true;
  }

  /** Number of the clip that a mark needs: rectangles that it lies wholly inside are not needed, from the innermost outwards. */
  private clipFor(box: Box): number {
    let clip = this.open.at(-1);
    while (clip?.rectangle && contains(clip.rectangle, box, 1e-6)) clip = clip.outer;
    if (!clip) return 0;
    clip.index ||= this.clips.push(clip.shapes);
    return clip.index;
  }

  private append(path: Path): void {
    if (this.verbCount + path.verbCount > this.verbs.length) {
      this.verbs = into(new Uint8Array(2 * (this.verbCount + path.verbCount)), this.verbs);
    }
    if (this.coordCount + path.coordCount > this.coords.length) {
      this.coords = into(new Int32Array(2 * (this.coordCount + path.coordCount)), this.coords);
    }
    for (let i = 0; i < path.verbCount; i++) this.verbs[this.verbCount++] = path.verbs[i]!;
    const perMm = UNITS_PER_MM * this.enlarged;
    for (let i = 0; i < path.coordCount; i++) this.coords[this.coordCount++] = Math.round(path.coords[i]! * perMm);
  }

  private units(mm: number): number {
    return Math.round(mm * UNITS_PER_MM * this.enlarged);
  }

  private room(): void {
    if (this.marks + 1 < this.kind.length) return;
    const size = this.kind.length * 2;
    this.kind = into(new Uint8Array(size), this.kind);
    this.layerOf = into(new Uint16Array(size), this.layerOf);
    this.penOf = into(new Uint32Array(size), this.penOf);
    this.clipOf = into(new Uint32Array(size), this.clipOf);
    if (this.tags) this.tags = into(new Uint32Array(size), this.tags);
    if (this.groupOf) this.groupOf = into(new Uint32Array(size), this.groupOf);
    if (this.blockOf) this.blockOf = into(new Uint32Array(size), this.blockOf);
    this.verbStart = into(new Uint32Array(size), this.verbStart);
    this.coordStart = into(new Uint32Array(size), this.coordStart);
  }
}

/** The rectangle along the axes that loops of x, y are; undefined where they are something else. */
function rectangleOf(loops: readonly (readonly number[])[]): Box | undefined {
  const [loop] = loops;
  if (loops.length !== 1 || loop!.length < 8 || loop!.length > 10) return undefined;
  const box = boxOfLoops(loops);
  // Each side changes one of the two coordinates, and each point is a corner of the box.
  const sides = [0, 2, 4, 6].map((i) => [loop![i] === loop![(i + 2) % 8], loop![i + 1] === loop![(i + 3) % 8]]);
  const along = sides.every(([upright, level], i) => upright !== level && upright !== sides[(i + 1) % 4]![0]);
  const closed = loop!.length === 8 || (loop![8] === loop![0] && loop![9] === loop![1]);
  return along && closed ? box : undefined;
}

function into<T extends { set(old: T): void }>(bigger: T, old: T): T {
  bigger.set(old);
  return bigger;
}
