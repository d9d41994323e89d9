import { axisOf, isSeeThrough, type Gradient } from '../drawing/gradient';
import { apply, IDENTITY, meanScale, multiply, type Affine } from '../geometry/affine';
import type { PathSink } from '../geometry/curves';
import { isInGroup, visitGroups } from '../page/groups';
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
import { brightness } from '../pens/ink';
import type { FontId } from '../text/fonts';
import type { FontSet } from '../text/layout';
import { traceText } from './text-outline';

/** What painting needs of a canvas's gradient. */
export interface CanvasShade {
  addColorStop(at: number, colour: string): void;
}

/** What painting needs of a 2D canvas; browsers' canvases have it on screen and off. */
export interface Canvas2D {
  fillStyle: unknown;
  strokeStyle: unknown;
  globalAlpha: number;
  lineWidth: number;
  lineCap: string;
  lineJoin: string;
  miterLimit: number;
  font: string;
  fontKerning: string;
  setTransform(a: number, b: number, c: number, d: number, e: number, f: number): void;
  transform(a: number, b: number, c: number, d: number, e: number, f: number): void;
  save(): void;
  restore(): void;
  beginPath(): void;
  moveTo(x: number, y: number): void;
  lineTo(x: number, y: number): void;
  quadraticCurveTo(hx: number, hy: number, x: number, y: number): void;
  bezierCurveTo(x1: number, y1: number, x2: number, y2: number, x: number, y: number): void;
  closePath(): void;
  rect(x: number, y: number, width: number, height: number): void;
  clip(rule?: 'nonzero' | 'evenodd'): void;
  drawImage(image: unknown, x: number, y: number, width: number, height: number): void;
  stroke(): void;
  fill(rule?: 'nonzero' | 'evenodd'): void;
  fillRect(x: number, y: number, width: number, height: number): void;
  fillText(text: string, x: number, y: number): void;
  readonly canvas: { width: number; height: number };
  globalCompositeOperation: string;
  getImageData(x: number, y: number, width: number, height: number): { data: Uint8ClampedArray };
  putImageData(image: unknown, x: number, y: number): void;
  createLinearGradient(x0: number, y0: number, x1: number, y1: number): CanvasShade;
  createRadialGradient(x0: number, y0: number, r0: number, x1: number, y1: number, r1: number): CanvasShade;
  measureText(text: string): { width: number };
  setLineDash(dashes: number[]): void;
}

/** A text set at this many pixels and scaled by the matrix, so that browsers' smallest font size does not matter. */
const SET_AT = 100;

/** How much of a text's em its letters fill, and how dense they are, from far away. */
const [BAR_HEIGHT, BAR_OPACITY] = [0.6, 0.4];

/** An off-screen canvas, and the image by which it is drawn onto another one. */
export interface HiddenCanvas {
  context: Canvas2D;
  image: unknown;
}

/** How a page is to be painted. */
export interface Painting {
  /** Makes a transparent off-screen canvas; groups are painted on one before they are composited. */
  hidden(width: number, height: number): HiddenCanvas;
  /** How texts are lettered: in typefaces that the canvas has loaded, by their names, or as outlines of these. */
  letters: { familyOf(font: FontId): string } | { outlines: FontSet };
  /** Lines never get thinner than this, so that they do not vanish in a miniature. Pixels. */
  thinnestPx?: number;
  /** Texts lower than this are painted as pale bars: nobody can read them, and they take most of the time. Pixels. */
  readablePx?: number;
  /** What the canvas can draw of each of the page's pictures; a crossed box stands for one that is not there. */
  pictures?: readonly unknown[];
  /** The marks to paint, in their order, with the number of the text or picture of each; all where absent. */
  marks?: { list: ArrayLike<number>; order: ArrayLike<number> };
}

/** Marks of one pen are painted as one path up to this many: endless paths slow canvases down. */
const MAX_SUBPATHS = 1000;

/** Paints a page with its lower left corner at (0, heightPx), `pixelsPerMm` large, on white paper. */
export function paintPage(canvas: Canvas2D, page: Page, pixelsPerMm: number, painting: Painting): void {
  const scale = pixelsPerMm / UNITS_PER_MM;
  canvas.setTransform(1, 0, 0, 1, 0, 0);
  canvas.fillStyle = '#ffffff';
  // Fill whole pixels: one that the paper only partly covers would come out grey.
  canvas.fillRect(0, 0, Math.ceil(page.widthMm * pixelsPerMm), Math.ceil(page.heightMm * pixelsPerMm));
  paintMarks(canvas, page, { a: scale, b: 0, c: 0, d: -scale, e: 0, f: page.heightMm * pixelsPerMm }, painting);
}

/** Paints the marks of a page; `map` takes page units to pixels. */
export function paintMarks(canvas: Canvas2D, page: Page, map: Affine, painting: Painting): void {
  new MarkPainter(canvas, page, map, painting).paint();
}

class MarkPainter implements MarkVisitor, PathSink {
  /** Pixels in one page unit. */
  private readonly scale: number;
  private readonly thinnest: number;
  private pen = -1;
  private font = '';
  private clip = 0;
  private subpaths = 0;
  private readonly order: ArrayLike<number>;

  constructor(
    private readonly canvas: Canvas2D,
    private readonly page: Page,
    private readonly map: Affine,
    private readonly painting: Painting,
  ) {
    this.order = painting.marks?.order ?? markOrder(page);
    this.scale = Math.hypot(map.a, map.b);
    this.thinnest = (painting.thinnestPx ?? 0.35) / this.scale;
  }

  paint(): void {
    const { list = Uint32Array.from({ length: this.page.markCount }, (_, i) => i) } = this.painting.marks ?? {};
    this.paintList(list, 0);
  }

  /** Paints marks that are all in the group `around` (0: the page). */
  private paintList(list: ArrayLike<number>, around: number): void {
    const { canvas, page } = this;
    this.toPage();
    canvas.fontKerning = 'none';
    visitGroups(page, list, [0, list.length], around, {
      mark: (mark) => {
        if (page.clip[mark] !== this.clip) this.changeClip(page.clip[mark]!);
        visitMark(page, mark, this.order, this);
      },
      group: (group, from, to) => this.paintGroup(group, Array.prototype.slice.call(list, from, to) as number[]),
    });
    this.endPath();
    if (this.clip) canvas.restore();
  }

  /** Paints a group on a canvas of its own, applies its mask, and composites the result onto this canvas. */
  private paintGroup(group: number, marks: readonly number[]): void {
    const { canvas, page } = this;
    this.changeClip(0);
    const { opacity, mask } = page.groups[group - 1]!;
    const inMask = (mark: number): boolean => mask !== undefined && isInGroup(page, mark, mask);
    const shown = this.apart(
      marks.filter((mark) => !inMask(mark)),
      group,
    );
    if (mask !== undefined) {
      const masking = this.apart(marks.filter(inMask), mask);
      asOpacity(masking.context);
      shown.context.globalCompositeOperation = 'destination-in';
      drawWhole(shown.context, masking.image);
    }
    canvas.globalAlpha = opacity / 100;
    drawWhole(canvas, shown.image);
    this.toPage();
  }

  private apart(marks: readonly number[], group: number): HiddenCanvas {
    const { width, height } = this.canvas.canvas;
    const hidden = this.painting.hidden(width, height);
    const painting = { ...this.painting, marks: { list: marks, order: this.order } };
    new MarkPainter(hidden.context, this.page, this.map, painting).paintList(marks, group);
    return hidden;
  }

  stroke(mark: number): void {
    const { canvas, page } = this;
    this.usePen(page.pen[mark]!);
    if (this.subpaths === 0) canvas.beginPath();
    traceMark(page, mark, this);
    // What is see-through shows where lines cross: each is painted by itself.
    const { opacity, gradient } = page.pens[this.pen]!;
    const seeThrough = opacity < 100 || (gradient && isSeeThrough(gradient));
    if (++this.subpaths >= MAX_SUBPATHS || seeThrough) this.endPath();
  }

  fill(mark: number, nonzero: boolean): void {
    const { canvas, page } = this;
    this.usePen(page.pen[mark]!);
    this.endPath();
    canvas.beginPath();
    traceMark(page, mark, this);
    const { gradient } = page.pens[this.pen]!;
    if (gradient) this.shade(gradient);
    canvas.fill(nonzero ? 'nonzero' : 'evenodd');
    if (gradient?.from) this.toPage();
  }

  /** Fills what is traced with a gradient. Leaves the canvas in the plane of a radial one. */
  private shade(gradient: Gradient): void {
    const { canvas } = this;
    if (!gradient.from) canvas.fillStyle = shadeOf(canvas, gradient);
    else {
      const { a, b, c, d, e, f } = gradient.map;
      canvas.transform(a, b, c, d, e, f);
      canvas.fillStyle = shadeOf(canvas, { ...gradient, map: IDENTITY });
    }
  }

  private toPage(): void {
    const { a, b, c, d, e, f } = this.map;
    this.canvas.setTransform(a, b, c, d, e, f);
  }

  text(mark: number, text: PageText): void {
    const { canvas, page, map, scale } = this;
    const { letters, readablePx = 0 } = this.painting;
    this.usePen(page.pen[mark]!);
    this.endPath();
    if (text.unseen) return;
    if (text.size * Math.hypot(text.c, text.d) * scale < readablePx) {
      return paintBar(canvas, text, page.pens[this.pen]!);
    }
    if ('outlines' in letters) return paintOutlines(canvas, text, letters.outlines);
    const wanted = `${SET_AT}px "${letters.familyOf(text.font)}"`;
    if (wanted !== this.font) canvas.font = this.font = wanted;
    paintText(canvas, text, map);
  }

  picture(_mark: number, placed: PlacedPicture): void {
    this.endPath();
    paintPicture(this.canvas, placed, this.painting.pictures?.[placed.picture], 1 / this.scale);
  }

  moveTo(x: number, y: number): void {
    this.canvas.moveTo(x, y);
  }

  lineTo(x: number, y: number): void {
    this.canvas.lineTo(x, y);
  }

  curveTo(x1: number, y1: number, x2: number, y2: number, x: number, y: number): void {
    this.canvas.bezierCurveTo(x1, y1, x2, y2, x, y);
  }

  close(): void {
    this.canvas.closePath();
  }

  private changeClip(clip: number): void {
    this.endPath();
    if (this.clip) this.canvas.restore();
    this.clip = clip;
    this.pen = -1;
    this.font = '';
    if (clip) clipTo(this.canvas, this.page.clips[clip - 1]!);
  }

  private usePen(pen: number): void {
    if (pen === this.pen) return;
    this.endPath();
    this.pen = pen;
    usePen(this.canvas, this.page.pens[pen]!, this.thinnest);
  }

  private endPath(): void {
    if (this.subpaths > 0) this.canvas.stroke();
    this.subpaths = 0;
  }
}

/** "Left-to-right override", a character that is not seen. */
const LEFT_TO_RIGHT = '\u202d';

export function cssColour(colour: number, opacity = 1): string {
  const clear = opacity < 1 ? hex(Math.round(opacity * 255), 2) : '';
  return `#${hex(colour, 6)}${clear}`;
}

function hex(value: number, digits: number): string {
  return value.toString(16).padStart(digits, '0');
}

function clipTo(canvas: Canvas2D, shapes: readonly ClipShape[]): void {
  canvas.save();
  for (const shape of shapes) {
    canvas.beginPath();
    for (const loop of shape) {
      if (shape.length === 1 && loop.length === 4) {
        const [xmin, ymin, xmax, ymax] = loop as [number, number, number, number];
        canvas.rect(xmin, ymin, xmax - xmin, ymax - ymin);
        break;
      }
      for (let i = 0; i + 1 < loop.length; i += 2) {
        if (i === 0) canvas.moveTo(loop[0]!, loop[1]!);
        else canvas.lineTo(loop[i]!, loop[i + 1]!);
      }
      canvas.closePath();
    }
    canvas.clip('evenodd');
  }
}

function paintPicture(canvas: Canvas2D, placed: PlacedPicture, picture: unknown, pixel: number): void {
  canvas.save();
  canvas.transform(placed.a, placed.b, placed.c, placed.d, placed.e, placed.f);
  if (picture) {
    // Canvas pictures hang from their upper left corner.
    canvas.transform(1, 0, 0, -1, 0, 1);
    canvas.drawImage(picture, 0, 0, 1, 1);
  } else {
    canvas.strokeStyle = '#808080';
    canvas.globalAlpha = 1;
    canvas.setLineDash([]);
    canvas.lineWidth = pixel / (Math.hypot(placed.a, placed.b) || 1);
    canvas.beginPath();
    canvas.rect(0, 0, 1, 1);
    canvas.moveTo(0, 0);
    canvas.lineTo(1, 1);
    canvas.moveTo(0, 1);
    canvas.lineTo(1, 0);
    canvas.stroke();
  }
  canvas.restore();
}

/** Draws an image that is as large as the canvas over all of it. */
function drawWhole(canvas: Canvas2D, image: unknown): void {
  const { width, height } = canvas.canvas;
  canvas.setTransform(1, 0, 0, 1, 0, 0);
  canvas.drawImage(image, 0, 0, width, height);
}

/** Turns the brightness of what is on a canvas into opacity: black becomes transparent. */
function asOpacity(canvas: Canvas2D): void {
  const { width, height } = canvas.canvas;
  // Some canvases transform pixels that are put on them, against the standard.
  canvas.setTransform(1, 0, 0, 1, 0, 0);
  const image = canvas.getImageData(0, 0, width, height);
  const { data } = image;
  for (let i = 0; i < data.length; i += 4) {
    const grey = brightness((data[i]! << 16) | (data[i + 1]! << 8) | data[i + 2]!) & 0xff;
    data[i + 3] = (grey * data[i + 3]!) / 255;
  }
  canvas.putImageData(image, 0, 0);
}

function usePen(canvas: Canvas2D, pen: Pen, thinnest: number): void {
  canvas.fillStyle = cssColour(pen.colour);
  canvas.strokeStyle = pen.gradient ? shadeOf(canvas, pen.gradient) : cssColour(pen.colour);
  canvas.globalAlpha = pen.opacity / 100;
  canvas.lineWidth = Math.max(pen.width, thinnest);
  const { cap, join, miterLimit } = shapeOf(pen);
  canvas.lineCap = cap;
  canvas.lineJoin = join;
  canvas.miterLimit = miterLimit;
  canvas.setLineDash([...pen.dashes]);
}

/** A gradient for a canvas in page units; the circles of a radial one that its map makes ellipses stay circles there. */
function shadeOf(canvas: Canvas2D, { map, from, stops }: Gradient): CanvasShade {
  let shade: CanvasShade;
  if (from) {
    const [[x0, y0], scale] = [apply(map, from.x, from.y), meanScale(map)];
    shade = canvas.createRadialGradient(x0, y0, from.radius * scale, map.e, map.f, scale);
  } else {
    const [x0, y0, x1, y1] = axisOf(map);
    shade = canvas.createLinearGradient(x0, y0, x1, y1);
  }
  for (const { at, colour, opacity } of stops) shade.addColorStop(at, cssColour(colour, opacity));
  return shade;
}

/** A text on a canvas that has its typeface; leaves the canvas under `map`. */
function paintText(canvas: Canvas2D, text: PageText, map: Affine): void {
  // The page has its characters from left to right already; the browser must not order them again.
  const shown = LEFT_TO_RIGHT + text.text;
  const measured = canvas.measureText(shown).width;
  // The page knows the width; the browser's own shaping must not change it.
  const stretch = measured > 0 ? text.advance / measured : text.size / SET_AT;
  const { a, b, c, d, x, y } = text;
  const height = -text.size / SET_AT;
  const whole = multiply(map, { a: a * stretch, b: b * stretch, c: c * height, d: d * height, e: x, f: y });
  canvas.setTransform(whole.a, whole.b, whole.c, whole.d, whole.e, whole.f);
  canvas.fillText(shown, 0, 0);
  canvas.setTransform(map.a, map.b, map.c, map.d, map.e, map.f);
}

function paintOutlines(canvas: Canvas2D, text: PageText, fonts: FontSet): void {
  canvas.beginPath();
  traceText(text, fonts, {
    move: (x, y) => canvas.moveTo(x, y),
    line: (x, y) => canvas.lineTo(x, y),
    curve: (hx, hy, x, y) => canvas.quadraticCurveTo(hx, hy, x, y),
    cubic: (x1, y1, x2, y2, x, y) => canvas.bezierCurveTo(x1, y1, x2, y2, x, y),
    close: () => canvas.closePath(),
  });
  canvas.fill('nonzero');
}

/** What a text looks like from far away. */
function paintBar(canvas: Canvas2D, text: PageText, pen: Pen): void {
  const { a, b, c, d, x, y, advance } = text;
  const high = text.size * BAR_HEIGHT;
  canvas.globalAlpha = (pen.opacity / 100) * BAR_OPACITY;
  canvas.beginPath();
  canvas.moveTo(x, y);
  canvas.lineTo(x + a * advance, y + b * advance);
  canvas.lineTo(x + a * advance + c * high, y + b * advance + d * high);
  canvas.lineTo(x + c * high, y + d * high);
  canvas.fill();
  canvas.globalAlpha = pen.opacity / 100;
}
