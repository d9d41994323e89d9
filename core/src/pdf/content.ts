import { fadedGradient, isSeeThrough, type Gradient } from '../drawing/gradient';
import { CURVE, LINE, MOVE } from '../geometry/path';
import { POINTS_PER_MM } from '../measure/units';
import { isInGroup, visitGroups } from '../page/groups';
import { markOrder } from '../page/mark-boxes';
import {
  FILL,
  FILL_NONZERO,
  FRAME_LAYER,
  PICTURE,
  shapeOf,
  STROKE,
  TEXT,
  TITLE_LAYER,
  UNITS_PER_MM,
  type Page,
  type PageText,
  type Pen,
  type PlacedPicture,
} from '../page/page';
import type { FontId } from '../text/fonts';
import type { FontSet } from '../text/layout';
import { letterOf } from '../text/reading';
import { ByteWriter } from './bytes';
import { clipOperators } from './clip-operators';
import { codeOf, fontName, useCode, type UsedCodes } from './embed-font';
import { userUnit } from './user-unit';
import { hiddenText, writeBitmap, writeOutlines } from './glyph-ink';
import {
  UNMASKED,
  type ContentOptions,
  type GroupContent,
  type NamedGradient,
  type PageContent,
  type RepeatedContent,
} from './page-content';

/** Marks of one pen are gathered into one path up to this many: readers slow down on endless paths. */
const MAX_SUBPATHS = 400;
const STANDARD_TEXT_DPI = 300;
/** Layers that many pages have alike, and whether their texts are alike too. */
const REPEATED: ReadonlyMap<string, boolean> = new Map([
  [FRAME_LAYER, true],
  [TITLE_LAYER, false],
]);
/** What is shorter, bytes, is not worth an object of its own. */
const MIN_REPEATED = 300;

/** Ends and corners by their numbers, and the limit of mitres that a page begins with (ISO 32000-2, tables 51, 53, 54). */
const CAPS = ['butt', 'round', 'square'];
const JOINS = ['miter', 'round', 'bevel'];
const STANDARD_MITER = 10;

const M = 109;
const L = 108;

/** Writes the marks of a page as a PDF content stream: whole hundredths of a millimetre under one scaling matrix. */
export function writeContent(page: Page, fonts: FontSet, layered: boolean, options: ContentOptions = {}): PageContent {
  return new ContentWriter(page, fonts, layered, options).write();
}

interface GraphicsState {
  strokePen: number;
  /** The colour, or a number below 0 for the gradient of a pen. */
  fillColour: number;
  opacity: number;
  /** Pen whose gradient lets marks fade; -1: none does. */
  mask: number;
  /** True where texts are not seen. */
  unseen: boolean;
}

const UNSET: GraphicsState = { strokePen: -1, fillColour: -1, opacity: 100, mask: -1, unseen: false };

class ContentWriter {
  private readonly out: ByteWriter;
  private readonly used = new Map<FontId, UsedCodes>();
  private readonly layersUsed: Set<number>;
  private state: GraphicsState = { ...UNSET };
  private outside: GraphicsState = { ...UNSET };
  private layer = -1;
  private clip = 0;
  private openSubpaths = 0;
  private openPen = -1;
  private font = '';
  private readonly order: Uint32Array;
  private readonly opacities: Set<number>;
  private readonly gradients: Set<number>;
  /** The group whose content this is, counted from 1; 0: the page. */
  private group = 0;
  private readonly groups: GroupContent[];
  private readonly repeated: RepeatedContent[] = [];

  constructor(
    private readonly page: Page,
    private readonly fonts: FontSet,
    private readonly layered: boolean,
    private readonly options: ContentOptions,
    private readonly within?: ContentWriter,
  ) {
    this.order = within?.order ?? markOrder(page);
    // The content of a group names what it needs in the resources of its page.
    this.layersUsed = within?.layersUsed ?? new Set();
    this.opacities = within?.opacities ?? new Set();
    this.gradients = within?.gradients ?? new Set();
    this.groups = within?.groups ?? [];
    this.out = new ByteWriter(within ? undefined : page.coords.length * 7 + page.texts.length * 160 + 4096);
  }

  write(): PageContent {
    const { page, out } = this;
    this.toPageUnits();
    const alike = page.layers.map(({ source, name }) => source === '' && REPEATED.has(name));
    let plain = 0;
    for (let mark = 0; mark < page.markCount; mark++) {
      if (!alike[page.layer[mark]!]) continue;
      const end = this.repeatedUntil(mark);
      if (end === mark) continue;
      this.marks(plain, mark);
      this.repeat(mark, end);
      plain = end;
      mark = end - 1;
    }
    this.marks(plain, page.markCount);
    this.end();
    const layers = [...this.layersUsed].sort((a, b) => a - b);
    const opacities = [...this.opacities].sort((a, b) => a - b);
    const gradients = [...this.gradients].sort((a, b) => a - b);
    return {
      bytes: out.taken(),
      repeated: this.repeated,
      groups: this.groups,
      fonts: this.used,
      layers,
      opacities,
      gradients: gradients.map((pen): NamedGradient => [pen, writtenGradient(page.pens[pen]!)]),
    };
  }

  private marks(from: number, to: number): void {
    if (this.page.group.length > 0) {
      this.grouped(Array.from({ length: to - from }, (_, i) => from + i));
      return;
    }
    for (let mark = from; mark < to; mark++) this.mark(mark);
  }

  private mark(mark: number): void {
    const { page, order } = this;
    const kind = page.kind[mark]!;
    this.enter(page.layer[mark]!, page.clip[mark]!, page.pen[mark]!, kind);
    // Not by `visitMark`: this is most of the time that writing takes besides deflating.
    if (kind === TEXT) this.text(page.texts[order[mark]!]!);
    else if (kind === PICTURE) this.picture(page.placed[order[mark]!]!);
    else this.path(mark, kind);
  }

  private grouped(marks: readonly number[]): void {
    visitGroups(this.page, marks, [0, marks.length], this.group, {
      mark: (mark) => this.mark(mark),
      group: (group, from, to) => this.paintGroup(group, marks.slice(from, to)),
    });
  }

  /** Paints marks as a transparency group (ISO 32000-2, 11.6.6). */
  private paintGroup(group: number, marks: readonly number[]): void {
    const { opacity, mask } = this.page.groups[group - 1]!;
    const inMask = (mark: number): boolean => mask !== undefined && isInGroup(this.page, mark, mask);
    const masked = mask === undefined ? '' : `/K${this.form(marks.filter(inMask), mask, true)} gs `;
    const form = this.form(
      marks.filter((mark) => !inMask(mark)),
      group,
    );
    this.endPath();
    this.endLayer();
    if (this.clip) this.changeClip(0);
    if (this.state.mask >= 0) this.useMask(-1);
    this.opacities.add(opacity);
    const back = (1 / this.unitScale()).toFixed(10);
    this.out.raw(`q ${back} 0 0 ${back} 0 0 cm ${masked}/G${opacity} gs /X${form} Do Q\n`);
  }

  /** The number of marks written as the content of a group. */
  private form(marks: readonly number[], group: number, masks = false): number {
    const inner = new ContentWriter(this.page, this.fonts, this.layered, this.options, this);
    inner.group = group;
    inner.toPageUnits();
    inner.begin();
    inner.grouped(marks);
    inner.end();
    this.useFontsOf(inner);
    return this.groups.push({ bytes: inner.out.taken(), masks }) - 1;
  }

  private unitScale(): number {
    return POINTS_PER_MM / UNITS_PER_MM / userUnit(this.page);
  }

  private toPageUnits(): void {
    const scale = this.unitScale().toFixed(10);
    this.out.raw(`${scale} 0 0 ${scale} 0 0 cm\n`);
  }

  /** Sets what is not set with each mark, since it may be anything before. */
  private begin(): void {
    this.out.raw(`[] 0 d 0 Tr ${STANDARD_MITER} M\n`);
  }

  private end(): void {
    this.endPath();
    this.endLayer();
    if (this.clip) this.out.raw('Q\n');
  }

  private useFontsOf({ used }: ContentWriter): void {
    for (const [font, codes] of used)
      for (const [code, character] of codes) useCode(this.codesOf(font), code, character);
  }

  /** Where the marks end that begin here, on a layer that pages have alike; here where they cannot be written apart. */
  private repeatedUntil(first: number): number {
    const { page } = this;
    const layer = page.layer[first]!;
    let end = first;
    while (end < page.markCount && page.layer[end] === layer && page.clip[end] === 0) {
      const pen = page.pens[page.pen[end]!]!;
      if (page.kind[end] !== PICTURE && (pen.opacity !== 100 || pen.gradient)) break;
      if (page.group[end]) break;
      end++;
    }
    return end;
  }

  /** Writes what marks have alike with those of other pages apart, and then the others of them. */
  private repeat(first: number, end: number): void {
    const { page } = this;
    const alike = (mark: number): boolean => {
      const kind = page.kind[mark]!;
      return kind !== PICTURE && (kind !== TEXT || REPEATED.get(page.layers[page.layer[mark]!]!.name)!);
    };
    const marks = Array.from({ length: end - first }, (_, i) => first + i);
    const apart = new ContentWriter(page, this.fonts, false, this.options, this);
    const content = apart.alone(marks.filter(alike));
    if (content.bytes.length < MIN_REPEATED) {
      this.marks(first, end);
      return;
    }
    this.endPath();
    // As for a picture: what is written apart sets all else itself.
    this.enter(page.layer[first]!, 0, 0, PICTURE);
    this.out.raw(`/R${this.repeated.push(content) - 1} Do\n`);
    this.useFontsOf(apart);
    for (const mark of marks) if (!alike(mark)) this.marks(mark, mark + 1);
  }

  /** Marks as content that depends on nothing set before. */
  private alone(marks: readonly number[]): RepeatedContent {
    this.begin();
    for (const mark of marks) this.marks(mark, mark + 1);
    this.endPath();
    return { bytes: this.out.taken(), fonts: [...this.used.keys()] };
  }

  /** Sets layer, clipping and pen for the next mark; writes only what changes. */
  private enter(layer: number, clip: number, pen: number, kind: number): void {
    const stroked = kind === STROKE;
    if (this.openSubpaths > 0 && (!stroked || pen !== this.openPen || layer !== this.layer || clip !== this.clip)) {
      this.endPath();
    }
    if (clip !== this.clip) {
      this.endLayer();
      this.changeClip(clip);
    }
    if (layer !== this.layer) {
      this.endLayer();
      this.layer = layer;
      this.layersUsed.add(layer);
      if (this.layered) this.out.raw(`/OC /L${layer} BDC\n`);
    }
    const { pens } = this.page;
    const gradient = kind === PICTURE || kind === TEXT ? undefined : pens[pen]!.gradient;
    const mask = gradient && isSeeThrough(gradient) ? pen : -1;
    const opacity = kind === PICTURE || mask >= 0 ? 100 : pens[pen]!.opacity;
    if (opacity !== this.state.opacity) this.useOpacity(opacity);
    if (mask !== this.state.mask) this.useMask(mask);
    if (kind === PICTURE) return;
    const fillColour = gradient ? -2 - pen : pens[pen]!.colour;
    if (stroked) {
      if (pen !== this.state.strokePen) this.usePen(pens[pen]!, pens[this.state.strokePen], pen);
    } else if (fillColour !== this.state.fillColour) {
      this.state.fillColour = fillColour;
      if (gradient) this.shade(pen, false);
      else this.colour(pens[pen]!.colour, false);
    }
  }

  private changeClip(clip: number): void {
    if (this.clip) {
      this.out.raw('Q\n');
      this.state = this.outside;
    }
    this.clip = clip;
    this.font = '';
    if (!clip) return;
    this.out.raw('q ');
    for (const shape of this.page.clips[clip - 1]!) this.out.raw(clipOperators(shape));
    this.outside = { ...this.state };
  }

  private endLayer(): void {
    if (this.layer >= 0 && this.layered) this.out.raw('EMC\n');
    this.layer = -1;
  }

  private usePen(pen: Pen, before: Pen | undefined, index: number): void {
    const { out } = this;
    if (pen.width !== before?.width) out.raw(`${pen.width} w\n`);
    const [shape, last] = [shapeOf(pen), before && shapeOf(before)];
    if (shape.cap !== last?.cap || shape.join !== last.join) {
      out.raw(`${CAPS.indexOf(shape.cap)} J ${JOINS.indexOf(shape.join)} j\n`);
    }
    if (shape.miterLimit !== (last?.miterLimit ?? STANDARD_MITER)) out.raw(`${shape.miterLimit} M\n`);
    if (pen.dashes.join() !== (before?.dashes.join() ?? '')) out.raw(`[${pen.dashes.join(' ')}] 0 d\n`);
    if (pen.gradient) this.shade(index, true);
    else if (pen.colour !== before?.colour || before.gradient) this.colour(pen.colour, true);
    this.state.strokePen = index;
  }

  private colour(colour: number, stroke: boolean): void {
    const [r, g, b] = [(colour >> 16) & 0xff, (colour >> 8) & 0xff, colour & 0xff];
    if (r === g && g === b) {
      this.out.decimal(r / 255, 4).raw(stroke ? 'G\n' : 'g\n');
      return;
    }
    for (const part of [r, g, b]) this.out.decimal(part / 255, 4);
    this.out.raw(stroke ? 'RG\n' : 'rg\n');
  }

  /** Paints with the gradient of a pen from here on. */
  private shade(pen: number, stroke: boolean): void {
    this.gradients.add(pen);
    this.out.raw(stroke ? `/Pattern CS /S${pen} SCN\n` : `/Pattern cs /S${pen} scn\n`);
  }

  private useMask(pen: number): void {
    this.endPath();
    this.out.raw(`/${UNMASKED}${pen < 0 ? '' : pen} gs\n`);
    this.state.mask = pen;
  }

  private useOpacity(opacity: number): void {
    this.endPath();
    this.opacities.add(opacity);
    this.out.raw(`/G${opacity} gs\n`);
    this.state.opacity = opacity;
  }

  private picture({ picture, a, b, c, d, e, f }: PlacedPicture): void {
    const { out } = this;
    out.raw('q ');
    for (const part of [a, b, c, d, e, f]) out.decimal(part, 3);
    out.raw(`cm /P${picture} Do Q\n`);
  }

  private path(mark: number, kind: number): void {
    const { verbs, coords, verbStart, coordStart } = this.page;
    const { out } = this;
    let at = coordStart[mark]!;
    const end = verbStart[mark + 1]!;
    for (let i = verbStart[mark]!; i < end; i++) {
      const verb = verbs[i];
      if (verb === MOVE || verb === LINE) {
        out.pair(coords[at]!, coords[at + 1]!, verb === MOVE ? M : L);
        at += 2;
      } else if (verb === CURVE) {
        for (let k = 0; k < 6; k++) out.integer(coords[at + k]!);
        out.raw('c\n');
        at += 6;
      } else out.raw('h\n');
    }
    if (kind === FILL || kind === FILL_NONZERO) out.raw(kind === FILL ? 'f*\n' : 'f\n');
    else {
      this.openPen = this.page.pen[mark]!;
      // What is see-through shows where lines cross: each is painted by itself.
      const seeThrough = this.state.opacity < 100 || this.state.mask >= 0;
      if (++this.openSubpaths >= MAX_SUBPATHS || seeThrough) this.endPath();
    }
  }

  private endPath(): void {
    if (this.openSubpaths > 0) this.out.raw('S\n');
    this.openSubpaths = 0;
  }

  private text(text: PageText): void {
    const { out } = this;
    const { text: mode = 'text', textDpi = STANDARD_TEXT_DPI } = this.options;
    const seen = this.fonts.face(text.font);
    const asText = mode === 'text' && seen.embedding !== 'none';
    if (!text.unseen && mode === 'picture') writeBitmap(out, text, seen, textDpi);
    else if (!text.unseen && !asText) writeOutlines(out, text, seen);
    const written = seen.embedding === 'none' ? hiddenText(text, this.fonts) : text;
    const { font: id } = written;
    const face = this.fonts.face(id);
    const unseen = text.unseen === true || !asText;
    out.raw('BT\n');
    if (unseen !== this.state.unseen) out.raw(unseen ? '3 Tr\n' : '0 Tr\n');
    this.state.unseen = unseen;
    const font = `/${fontName(id)} ${text.size} Tf\n`;
    if (font !== this.font) out.raw((this.font = font));
    for (const part of [written.a, written.b, written.c, written.d]) out.decimal(part, 5);
    out.integer(text.x);
    out.integer(text.y);
    out.raw('Tm\n<');
    const used = this.codesOf(id);
    for (const character of text.text) {
      const codePoint = character.codePointAt(0)!;
      const code = codeOf(face, codePoint);
      useCode(used, code, letterOf(codePoint));
      out.hex16(code);
    }
    out.raw('> Tj\nET\n');
  }

  private codesOf(font: FontId): UsedCodes {
    let used = this.used.get(font);
    if (!used) this.used.set(font, (used = new Map()));
    return used;
  }
}

/** The gradient of a pen. One that fades holds the pen's opacity too: readers differ in how they combine the two. */
function writtenGradient({ gradient, opacity }: Pen): Gradient {
  return isSeeThrough(gradient!) ? fadedGradient(gradient!, opacity / 100) : gradient!;
}
