import {
  apply,
  multiply,
  meanScale,
  rotation,
  scaling,
  scalingAbout,
  translation,
  type Affine,
} from '../geometry/affine';
import type { Box } from '../geometry/box';
import { Path } from '../geometry/path';
import { mappedGradient, recolouredGradient, type Gradient } from '../drawing/gradient';
import type { Resolved } from '../drawing/resolve';
import {
  COLOUR_FOREGROUND,
  type Block,
  type Drawing,
  type Entity,
  type HatchEntity,
  type PictureEntity,
  type ShapeEntity,
  type RichLine,
  type TextEntity,
} from '../drawing/model';
import type { PageBuilder } from '../page/builder';
import { brightness, screened } from '../pens/ink';
import type { FontSet } from '../text/layout';
import { matchesPattern } from '../drawing/patterns';
import { hatchPath } from './hatch';
import { placeEntityText, placeLettering, textAxes } from './lettering';
import type { View } from './model';
import { paperAnchor } from './paper-lettering';
import { placeRich } from './rich-lettering';
import {
  constantWidth,
  drawPath,
  fillPath,
  loopsPath,
  mappedLoops,
  pointPath,
  segmentsPath,
  squarePath,
  taperedPath,
} from './shapes';
import { addStop, walk, type Visitor, type WalkStop } from './walk';

const BLACK = 0x000000;
const PAPER = 0xffffff;
/** Line weights in drawings are 1/100 mm. */
const WEIGHT_UNITS_PER_MM = 100;
/** What weight 0, "the thinnest the device can draw", comes to on paper: DXF's next weight above it. */
const HAIRLINE_MM = 0.05;
/** Dashes shorter than this on paper (mm) would print as a grey line: the line is drawn continuous instead. */
const SHORTEST_PATTERN_MM = 0.1;
/** What lines too dense to print look like from afar. */
const DENSE_PERCENT = 25;

/** What a view had to leave out or replace. */
export interface ViewNotes {
  missing: Set<string>;
  /** Layers with hatches whose lines are too dense to print. */
  dense: Set<string>;
  stops: Map<WalkStop, Set<string>>;
}

/** How a view is drawn, where it differs from the default. */
export interface ViewRenderOptions {
  /** What a unit of a line type's dashes comes to on paper, mm. */
  dashMm?: number;
  /** Has the marks remember their entities. */
  tagged?: boolean;
  /** What becomes of each colour. */
  ink?: (colour: number) => number;
  /** Shows gradients in one colour. */
  flat?: boolean;
  /** Lettering that is sized for the paper. */
  lettering?: Lettered | undefined;
  /** The heading that its layers are listed under, besides their drawing. */
  view?: string;
  /** Draws hidden layers too, marked as switched off. */
  everything?: boolean;
  /** By how much line weights grow. */
  weightFactor?: number | undefined;
  /** Draws transparent entities as solid ones. */
  opaque?: boolean | undefined;
  /** Dots to the inch on paper that its pictures have at most; absent: as the recipe says. */
  pictureDpi?: number | undefined;
}

/** Options without a default. */
type WithoutDefault = 'lettering' | 'pictureDpi';

/** Lettering that is `factor` times as large as the scale of its view would make it, on layers of these patterns. */
export interface Lettered {
  factor: number;
  /** Absent: all. */
  layers?: readonly string[] | undefined;
}

/** The outline of a view on the paper, as x, y in mm; undefined where it shows all of its window. */
export function outlineOf({ outline }: Pick<View, 'outline'>, toPaper: Affine): number[] | undefined {
  return outline?.flatMap(([x, y]) => apply(toPaper, x, y));
}

/**
 * Draws the visible entities of a space onto a page. `toPaper` maps drawing units to mm on the paper, `clip` is the
 * view's rectangle there; `hidden` names layers (lower case) left out of this view.
 */
export function placeView(
  builder: PageBuilder,
  fonts: FontSet,
  drawing: Drawing,
  entities: readonly Entity[],
  toPaper: Affine,
  clip: Box | undefined,
  hidden: ReadonlySet<string>,
  {
    dashMm = meanScale(toPaper),
    tagged = false,
    ink = (colour) => colour,
    flat = false,
    lettering,
    view = '',
    everything = false,
    weightFactor = 1,
    opaque = false,
    pictureDpi,
  }: ViewRenderOptions = {},
): ViewNotes {
  const painter = new ViewPainter(builder, fonts, drawing, toPaper, hidden, {
    dashMm,
    tagged,
    ink,
    flat,
    lettering,
    view,
    everything,
    weightFactor,
    opaque,
    pictureDpi,
  });
  if (clip) builder.clipTo(clip);
  walk(drawing, entities, painter, hidden, everything);
  if (clip) builder.endClip();
  return painter.notes;
}

/** The window of a space in paper mm for a scale: lower left corner of the window goes to (x, y). */
export function windowToPaper(window: Box, mmPerUnit: number, scale: number, x: number, y: number): Affine {
  const factor = mmPerUnit * scale;
  return multiply(translation(x, y), multiply(scaling(factor), translation(-window.xmin, -window.ymin)));
}

class ViewPainter implements Visitor {
  readonly notes: ViewNotes = { missing: new Set(), dense: new Set(), stops: new Map() };
  private readonly path = new Path();
  private readonly layers: number[];
  /** How many masks are open: their colours are brightness, not ink. */
  private masking = 0;
  /** By layer, how much larger its lettering is than the scale makes it. */
  private readonly grown: number[];

  constructor(
    private readonly builder: PageBuilder,
    private readonly fonts: FontSet,
    private readonly drawing: Drawing,
    private readonly toPaper: Affine,
    private readonly hidden: ReadonlySet<string>,
    private readonly drawn: Required<Omit<ViewRenderOptions, WithoutDefault>> & Pick<ViewRenderOptions, WithoutDefault>,
  ) {
    this.layers = new Array<number>(drawing.layers.length).fill(-1);
    const { lettering } = drawn;
    this.grown = drawing.layers.map(({ name }) => {
      const meant =
        lettering && (!lettering.layers || lettering.layers.some((pattern) => matchesPattern(pattern, name)));
      return meant ? lettering.factor : 1;
    });
  }

  grows({ layer }: Resolved): number {
    return this.grown[layer] ?? 1;
  }

  entity(entity: ShapeEntity, resolved: Resolved, local: Affine, inDimension: boolean): void {
    const looks = this.drawn.opaque ? { ...resolved, opacity: 100 } : resolved;
    const at = this.grows(looks) === 1 ? undefined : paperAnchor(entity, inDimension);
    const kept = at ? multiply(local, scalingAbout(this.grows(looks), at)) : local;
    const map = multiply(this.toPaper, kept);
    const colour = this.ink(looks.colour === COLOUR_FOREGROUND ? BLACK : looks.colour);
    const layer = this.layer(looks.layer);
    if (entity.kind === 'text' && entity.rich) return this.rich(entity, entity.rich, looks, map, layer, colour);
    if (entity.kind === 'text') {
      const pen = this.builder.pen(0, colour, [], true, looks.opacity);
      for (const { text, box } of placeEntityText(this.fonts, this.drawing, entity, map, this.notes.missing)) {
        this.builder.text(text, box, layer, pen);
      }
      return;
    }
    const { opacity } = looks;
    const path = this.path.clear();
    if (entity.kind === 'path' && entity.filled) {
      drawPath(path, entity, map);
      const pen = this.builder.pen(0, colour, [], true, opacity, { gradient: this.gradient(entity, map) });
      return this.builder.fill(path, layer, pen, entity.filled === 'nonzero');
    }
    if (entity.kind === 'fill') {
      fillPath(path, entity, map);
      const pen = entity.mask
        ? this.builder.pen(0, PAPER)
        : this.builder.pen(0, colour, [], true, opacity, { gradient: this.gradient(entity, map) });
      this.builder.fill(path, layer, pen);
      return;
    }
    if (entity.kind === 'picture') return this.picture(entity, map, layer, opacity);
    if (entity.kind === 'hatch') return this.hatch(entity, looks, map, layer, colour);
    const width = entity.kind === 'polyline' ? constantWidth(entity) : entity.kind === 'path' ? (entity.width ?? 0) : 0;
    if (entity.kind === 'polyline' && width === undefined) {
      taperedPath(path, entity, map);
      this.builder.fill(path, layer, this.builder.pen(0, colour, [], true, opacity));
      return;
    }
    const dashes = this.dashes(looks.lineType, entity.style.lineTypeScale);
    if (entity.kind === 'point') pointPath(path, entity, this.drawing.pointStyle, map);
    else if (entity.kind === 'polyline' && dashes.length > 0 && !entity.dashesRunOn) segmentsPath(path, entity, map);
    else drawPath(path, entity, map);
    const ownWidth = (width ?? 0) * meanScale(map);
    const penWidth =
      ownWidth > 0 ? ownWidth : Math.max(HAIRLINE_MM, (this.drawn.weightFactor * looks.weight) / WEIGHT_UNITS_PER_MM);
    const lineType = dashes.length > 0 ? this.drawing.lineTypes[looks.lineType]?.name : undefined;
    const own = entity.kind === 'path' ? { shape: entity.shape, gradient: this.gradient(entity, map) } : {};
    const pen = this.builder.pen(penWidth, colour, dashes, ownWidth === 0, opacity, { lineType, ...own });
    this.builder.stroke(path, layer, pen);
  }

  private ink(colour: number): number {
    return this.masking > 0 ? brightness(colour) : this.drawn.ink(colour);
  }

  /** What an entity is painted with, mm on the paper. */
  private gradient({ gradient }: { gradient?: Gradient }, map: Affine): Gradient | undefined {
    if (!gradient || (this.drawn.flat && this.masking === 0)) return undefined;
    return recolouredGradient(mappedGradient(gradient, map), (colour) => this.ink(colour));
  }

  private rich(
    entity: TextEntity,
    rich: RichLine[],
    { opacity }: Resolved,
    map: Affine,
    layer: number,
    colour: number,
  ): void {
    const { builder } = this;
    const axes = textAxes(entity, map);
    const { texts, rules } = placeRich(this.fonts, this.drawing, { ...entity, rich }, axes, this.notes.missing);
    const pen = (own: number | undefined): number =>
      builder.pen(0, own === undefined ? colour : this.ink(own), [], true, opacity);
    for (const { text, box, colour: own } of texts) builder.text(text, box, layer, pen(own));
    for (const { corners, colour: own } of rules) {
      const path = this.path.clear();
      corners.forEach(([x, y], i) => (i === 0 ? path.moveTo(x, y) : path.lineTo(x, y)));
      path.close();
      builder.fill(path, layer, pen(own));
    }
  }

  private picture({ picture, map: own }: PictureEntity, map: Affine, layer: number, opacity: number): void {
    const source = this.drawing.pictures[picture];
    if (!source) return;
    const placed = multiply(map, own);
    if (source.kind === 'linked') return this.crossedBox(placed, source.linked ?? '', layer);
    const { kind, page, key = this.drawing.key ?? '', index = picture } = source;
    const { pictureDpi: dpi } = this.drawn;
    if (opacity < 100) this.builder.beginGroup(opacity);
    this.builder.picture({ kind, page, drawing: key, index, ...(dpi !== undefined && { dpi }) }, placed, layer);
    if (opacity < 100) this.builder.endGroup();
  }

  /** In place of a picture whose file is missing: its outline, crossed, with the name of the file. */
  private crossedBox(square: Affine, name: string, layer: number): void {
    const path = this.path.clear();
    squarePath(path, square);
    path.moveTo(...apply(square, 0, 0));
    path.lineTo(...apply(square, 1, 1));
    path.moveTo(...apply(square, 0, 1));
    path.lineTo(...apply(square, 1, 0));
    this.builder.stroke(path, layer, this.builder.pen(HAIRLINE_MM, BLACK));
    const width = Math.hypot(square.a, square.b);
    const height = Math.min(width / Math.max(8, name.length), Math.hypot(square.c, square.d) / 6);
    if (!name || !(height > 0)) return;
    const turned = rotation(Math.atan2(square.b, square.a));
    const axes = multiply(translation(...apply(square, 0.5, 0.5)), turned);
    const lettering = {
      lines: [name],
      font: 'sans' as const,
      height,
      widthFactor: 1,
      horizontal: 'centre' as const,
      vertical: 'middle' as const,
      lineSpacing: 1,
    };
    for (const { text, box } of placeLettering(this.fonts, lettering, axes, this.notes.missing)) {
      this.builder.text(text, box, layer, this.builder.pen(0, BLACK));
    }
  }

  private hatch(hatch: HatchEntity, looks: Resolved, map: Affine, layer: number, colour: number): void {
    const { path, builder } = this;
    if (hatchPath(path, hatch, map) === 'lines') {
      const width = Math.max(HAIRLINE_MM, looks.weight / WEIGHT_UNITS_PER_MM);
      builder.stroke(path, layer, builder.pen(width, colour, [], true, looks.opacity));
      return;
    }
    this.notes.dense.add(this.drawing.layers[looks.layer]?.name ?? '');
    loopsPath(path, hatch.loops, map);
    builder.fill(path, layer, builder.pen(0, screened(colour, DENSE_PERCENT), [], true, looks.opacity));
  }

  listed(index: number): void {
    if (this.drawn.tagged) this.builder.comesFrom(index);
  }

  blockBegins({ name, baseX, baseY }: Block, local: Affine): void {
    const fromBase = multiply(local, translation(baseX, baseY));
    this.builder.beginBlock(this.drawing.name, name, multiply(this.toPaper, fromBase));
  }

  blockEnds(): void {
    this.builder.endBlock();
  }

  clipBegins(loops: readonly Float64Array[], local: Affine): void {
    this.builder.clipToLoops(mappedLoops(loops, multiply(this.toPaper, local)));
  }

  groupBegins(group: NonNullable<Block['group']>): void {
    if (group !== 'mask') return this.builder.beginGroup(group.opacity);
    this.masking++;
    this.builder.beginMask();
  }

  groupEnds(group: NonNullable<Block['group']>): void {
    if (group !== 'mask') return this.builder.endGroup();
    this.masking--;
    this.builder.endMask();
  }

  clipEnds(): void {
    this.builder.endClip();
  }

  stopped(why: WalkStop, block: string): void {
    addStop(this.notes.stops, why, block);
  }

  private layer(index: number): number {
    const known = this.layers[index]!;
    if (known >= 0) return known;
    const { name = '0', off = false, frozen = false } = this.drawing.layers[index] ?? {};
    const hidden = off || frozen || this.hidden.has(name.toLowerCase());
    return (this.layers[index] = this.builder.layer(this.drawing.name, name, this.drawn.view, hidden));
  }

  /** Dashes and gaps in turn, mm on paper. A dot becomes a dash of no length, which a round pen shows as a dot. */
  private dashes(lineType: number, entityScale: number): number[] {
    const pattern = this.drawing.lineTypes[lineType]?.dashes ?? [];
    const factor = this.drawing.lineTypeScale * entityScale * this.drawn.dashMm;
    const total = pattern.reduce((sum, dash) => sum + Math.abs(dash), 0) * factor;
    if (pattern.length < 2 || !(total > SHORTEST_PATTERN_MM)) return [];
    const mm = pattern.map((dash) => Math.abs(dash) * factor);
    // A pattern that begins with a gap is turned so that it begins with its first dash.
    const first = pattern.findIndex((dash) => dash >= 0);
    if (first < 0) return [];
    const turned = [...mm.slice(first), ...mm.slice(0, first)];
    return turned.length % 2 ? [...turned, ...turned] : turned;
  }
}
