import type { Gradient } from '../drawing/gradient';
import { multiply } from '../geometry/affine';
import type { PathSink } from '../geometry/curves';
import { markOrder } from '../page/mark-boxes';
import { traceMark } from '../page/mark-path';
import {
  shapeOf,
  UNITS_PER_MM,
  type ClipShape,
  type Page,
  type PageText,
  type Pen,
  type PlacedPicture,
} from '../page/page';
import { visitMark, type MarkVisitor } from '../page/visit-marks';
import type { FontId, ShippedFont } from '../text/fonts';
import type { FontSet } from '../text/layout';
import { cssColour } from './canvas-shapes';
import { traceText } from './text-outline';

export interface SvgOptions {
  /** What is in the picture file behind each of `Page.pictures`, as an address or data; those without are left out. */
  pictures?: readonly (string | undefined)[];
  /** Texts as outlines of these typefaces; absent: as text, which every reader sets in what it has, as wide as here. */
  outlines?: FontSet;
  /** Family names of typefaces that do not ship. */
  families?: ReadonlyMap<FontId, string>;
  title?: string;
}

/** Real names of the typefaces, with fallbacks. */
const FAMILIES: Readonly<Record<ShippedFont, string>> = {
  sans: "'Source Sans 3','Source Sans Pro',sans-serif",
  condensed: "'Roboto Condensed',sans-serif",
  serif: "Tinos,'Times New Roman',serif",
  mono: "'Share Tech Mono',monospace",
  technical: 'Jura,sans-serif',
  symbols: "'DejaVu Sans',sans-serif",
};

/** Lines without a width are as thin as the device can in PDF, in SVG they are not there: 0.05 mm. */
const HAIRLINE = 5;

/**
 * A page as an SVG 1.1 picture in its true size. A unit is 1/100 mm, as in the page; the vertical axis runs downwards.
 * Neighbouring marks of one layer form a group with the layer's name as its label and a class that stands for it.
 */
export function svgOf(page: Page, options: SvgOptions = {}): string {
  const { widthMm, heightMm } = page;
  const [width, height] = [widthMm * UNITS_PER_MM, heightMm * UNITS_PER_MM].map(Math.round) as [number, number];
  const out = [
    `<?xml version="1.0" encoding="UTF-8"?>\n<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink"`,
    ` width="${widthMm}mm" height="${heightMm}mm" viewBox="0 0 ${width} ${height}">\n`,
    options.title ? `<title>${escaped(options.title)}</title>\n` : '',
    `<style>${styleOf(page, options.families)}</style>\n`,
    defsOf(page, height),
    `<rect width="${width}" height="${height}" fill="#fff"/>\n`,
  ];
  new MarkWriter(page, height, options, out).write();
  out.push('</svg>\n');
  return out.join('');
}

function styleOf({ pens, layers }: Page, own: SvgOptions['families'] = new Map()): string {
  const rules = ['text{white-space:pre;direction:ltr;unicode-bidi:bidi-override}.u{fill:none}'];
  for (const [font, family] of Object.entries(FAMILIES)) rules.push(`.f-${font}{font-family:${family}}`);
  for (const [font, family] of own)
    rules.push(`.f-${font}{font-family:'${family.replace(/[^\p{L}\p{N} .-]/gu, '')}',sans-serif}`);
  pens.forEach((pen, i) => rules.push(`.s${i}{${strokeOf(pen, i)}}.p${i}{${fillOf(pen, i)}}`));
  layers.forEach(({ off }, i) => off && rules.push(`.l${i}{display:none}`));
  return rules.join('');
}

function strokeOf(pen: Pen, index: number): string {
  const { width, dashes, opacity } = pen;
  const { cap, join, miterLimit } = shapeOf(pen);
  const mitre = join === 'miter' ? `;stroke-miterlimit:${miterLimit}` : '';
  const ends = `;stroke-linecap:${cap};stroke-linejoin:${join}${mitre}`;
  const dashed = dashes.length ? `;stroke-dasharray:${dashes.join(' ')}` : '';
  const clear = opacity < 100 ? `;stroke-opacity:${opacity / 100}` : '';
  return `fill:none;stroke:${paintOf(pen, index)};stroke-width:${width || HAIRLINE}${ends}${dashed}${clear}`;
}

function fillOf(pen: Pen, index: number): string {
  return `fill:${paintOf(pen, index)}${pen.opacity < 100 ? `;fill-opacity:${pen.opacity / 100}` : ''}`;
}

function paintOf({ colour, gradient }: Pen, index: number): string {
  return gradient ? `url(#g${index})` : cssColour(colour);
}

/** A gradient, the vertical axis turned downwards. */
function gradientOf({ map, from, stops }: Gradient, index: number, height: number): string {
  const { a, b, c, d, e, f } = multiply({ a: 1, b: 0, c: 0, d: -1, e: 0, f: height }, map);
  const placed = `id="g${index}" gradientUnits="userSpaceOnUse" gradientTransform="matrix(${[a, b, c, d, e, f].map(rounded).join(' ')})"`;
  const colours = stops.map(({ at, colour, opacity }) => {
    const clear = opacity < 1 ? ` stop-opacity="${rounded(opacity)}"` : '';
    return `<stop offset="${rounded(at)}" stop-color="${cssColour(colour)}"${clear}/>`;
  });
  if (!from) return `<linearGradient ${placed} x1="0" y1="0" x2="1" y2="0">${colours.join('')}</linearGradient>`;
  const focus = `fx="${rounded(from.x)}" fy="${rounded(from.y)}"${from.radius > 0 ? ` fr="${rounded(from.radius)}"` : ''}`;
  return `<radialGradient ${placed} cx="0" cy="0" r="1" ${focus}>${colours.join('')}</radialGradient>`;
}

/** Clips of several areas are chained: each area is clipped by the one before it. */
function defsOf({ clips, pens }: Page, height: number): string {
  const gradients = pens.map(({ gradient }, i) => (gradient ? gradientOf(gradient, i, height) : ''));
  const paths = clips.flatMap((shapes, i) =>
    shapes.map((shape, k) => {
      const before = k > 0 ? ` clip-path="url(#c${i + 1}-${k - 1})"` : '';
      const id = k === shapes.length - 1 ? `c${i + 1}` : `c${i + 1}-${k}`;
      return `<clipPath id="${id}"${before}><path clip-rule="evenodd" d="${clipPath(shape, height)}"/></clipPath>`;
    }),
  );
  const defs = paths.join('') + gradients.join('');
  return defs && `<defs>${defs}</defs>\n`;
}

function clipPath(shape: ClipShape, height: number): string {
  return shape
    .map((loop) => {
      if (shape.length === 1 && loop.length === 4) {
        const [xmin, ymin, xmax, ymax] = loop as [number, number, number, number];
        return `M${xmin} ${height - ymin}H${xmax}V${height - ymax}H${xmin}Z`;
      }
      const points: string[] = [];
      for (let i = 0; i + 1 < loop.length; i += 2) points.push(`${loop[i]} ${height - loop[i + 1]!}`);
      return `M${points.join('L')}Z`;
    })
    .join('');
}

/** Writes marks in painting order; opens and closes the groups of their clips and layers. */
class MarkWriter implements MarkVisitor, PathSink {
  private clip = 0;
  private layer = -1;
  /** Groups that have marks, or have a group with marks within. */
  private readonly filled = new Set<number>();
  /** The groups that are open, the outermost first. */
  private groups: readonly number[] = [];
  /** The path that is being traced. */
  private path = '';

  constructor(
    private readonly page: Page,
    private readonly height: number,
    private readonly options: SvgOptions,
    private readonly out: string[],
  ) {}

  write(): void {
    const { page } = this;
    const order = markOrder(page);
    for (const group of new Set(page.group)) for (const outer of this.around(group)) this.filled.add(outer);
    for (let mark = 0; mark < page.markCount; mark++) {
      this.group(page.clip[mark]!, page.layer[mark]!, page.group[mark] ?? 0);
      visitMark(page, mark, order, this);
    }
    this.end();
  }

  stroke(mark: number): void {
    this.out.push(`<path class="s${this.page.pen[mark]}" d="${this.pathOf(mark)}"/>\n`);
  }

  fill(mark: number, nonzero: boolean): void {
    const rule = nonzero ? '' : ' fill-rule="evenodd"';
    this.out.push(`<path class="p${this.page.pen[mark]}"${rule} d="${this.pathOf(mark)}"/>\n`);
  }

  moveTo(x: number, y: number): void {
    this.path += `M${x} ${this.height - y}`;
  }

  lineTo(x: number, y: number): void {
    this.path += `L${x} ${this.height - y}`;
  }

  curveTo(x1: number, y1: number, x2: number, y2: number, x: number, y: number): void {
    const { height } = this;
    this.path += `C${x1} ${height - y1} ${x2} ${height - y2} ${x} ${height - y}`;
  }

  close(): void {
    this.path += 'Z';
  }

  private end(): void {
    this.endLayer();
    this.changeGroups([]);
  }

  private endLayer(): void {
    if (this.layer >= 0) this.out.push('</g>');
    if (this.clip > 0) this.out.push('</g>');
    [this.clip, this.layer] = [0, -1];
  }

  private group(clip: number, layer: number, group: number): void {
    const same = group === (this.groups.at(-1) ?? 0);
    if (same && clip === this.clip && layer === this.layer) return;
    this.endLayer();
    if (!same) this.changeGroups(this.around(group));
    const { source, name } = this.page.layers[layer]!;
    if (clip > 0) this.out.push(`<g clip-path="url(#c${clip})">`);
    const label = escaped(source ? `${source}: ${name}` : name);
    this.out.push(`<g class="l${layer}" aria-label="${label}">\n`);
    [this.clip, this.layer] = [clip, layer];
  }

  /** A group and those around it, the outermost first. */
  private around(group: number): number[] {
    return group === 0 ? [] : [...this.around(this.page.groups[group - 1]!.outer), group];
  }

  private changeGroups(wanted: readonly number[]): void {
    const { groups, out } = this;
    let shared = 0;
    while (shared < wanted.length && wanted[shared] === groups[shared]) shared++;
    for (const group of groups.slice(shared).reverse()) out.push(this.isMask(group) ? '</mask>' : '</g>');
    for (const group of wanted.slice(shared)) out.push(this.beginGroup(group));
    this.groups = wanted;
  }

  private isMask(group: number): boolean {
    return this.page.groups.some(({ mask }) => mask === group);
  }

  private beginGroup(group: number): string {
    const { opacity, mask } = this.page.groups[group - 1]!;
    if (this.isMask(group)) {
      const { widthMm, heightMm } = this.page;
      const size = `width="${rounded(widthMm * UNITS_PER_MM)}" height="${rounded(heightMm * UNITS_PER_MM)}"`;
      return `<mask id="m${group}" maskUnits="userSpaceOnUse" x="0" y="0" ${size}>\n`;
    }
    // A reference to a mask that is not there would be an error; one without a mark hides everything.
    const empty = mask !== undefined && !this.filled.has(mask) ? `<mask id="m${mask}"/>\n` : '';
    const masked = mask === undefined ? '' : ` mask="url(#m${mask})"`;
    return `${empty}<g${opacity < 100 ? ` opacity="${opacity / 100}"` : ''}${masked}>\n`;
  }

  private pathOf(mark: number): string {
    this.path = '';
    traceMark(this.page, mark, this);
    return this.path;
  }

  text(mark: number, text: PageText): void {
    const pen = this.page.pen[mark]!;
    const { a, b, c, d, x, y, size, advance } = text;
    const { outlines } = this.options;
    if (outlines) {
      if (!text.unseen) this.outline(text, pen, outlines);
      return;
    }
    const matrix = [a, -b, -c, d].map(rounded).join(' ');
    const hidden = text.unseen ? ' class="u"' : ` class="p${pen}"`;
    const long =
      text.text.trim() && advance > 0 ? ` textLength="${rounded(advance)}" lengthAdjust="spacingAndGlyphs"` : '';
    this.out.push(
      `<g class="f-${text.font}"><text${hidden} transform="matrix(${matrix} ${x} ${this.height - y})" font-size="${size}"${long}>`,
      `${escaped(text.text)}</text></g>\n`,
    );
  }

  private outline(text: PageText, pen: number, fonts: FontSet): void {
    let path = '';
    const point = (x: number, y: number): string => `${rounded(x)} ${rounded(this.height - y)}`;
    traceText(text, fonts, {
      move: (x, y) => (path += `M${point(x, y)}`),
      line: (x, y) => (path += `L${point(x, y)}`),
      curve: (hx, hy, x, y) => (path += `Q${point(hx, hy)} ${point(x, y)}`),
      cubic: (x1, y1, x2, y2, x, y) => (path += `C${point(x1, y1)} ${point(x2, y2)} ${point(x, y)}`),
      close: () => (path += 'Z'),
    });
    if (path) this.out.push(`<path class="p${pen}" d="${path}"/>\n`);
  }

  picture(_mark: number, { picture, a, b, c, d, e, f }: PlacedPicture): void {
    const href = this.options.pictures?.[picture];
    if (!href) return;
    // The unit square of the page stands on its lower left corner, a picture hangs from its upper left one.
    const matrix = [a, -b, -c, d, e + c, this.height - f - d].map(rounded).join(' ');
    this.out.push(
      `<image width="1" height="1" preserveAspectRatio="none" transform="matrix(${matrix})" xlink:href="${href}"/>\n`,
    );
  }
}

function rounded(value: number): number {
  return Math.round(value * 1e4) / 1e4 || 0;
}

function escaped(text: string): string {
  // What XML has no place for cannot be said at all.
  const legal = [...text].filter((c) => c === '\t' || c >= ' ').join('');
  return legal.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');
}
