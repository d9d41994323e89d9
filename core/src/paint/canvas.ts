import { multiply, type Affine } from '../geometry/affine';
import { CURVE, LINE, MOVE } from '../geometry/path';
import {
  FILL_NONZERO,
  PICTURE,
  STROKE,
  TEXT,
  UNITS_PER_MM,
  type ClipShape,
  type Page,
  type PageText,
  type Pen,
  type PlacedPicture,
} from '../page/page';
import type { FontId } from '../text/fonts';
import type { FontSet } from '../text/layout';
import { traceText } from './text-outline';

/** What painting needs of a 2D canvas; browsers' canvases have it on screen and off. */
export interface Canvas2D {
  fillStyle: unknown;
  strokeStyle: unknown;
  globalAlpha: number;
  lineWidth: number;
  lineCap: string;
  lineJoin: string;
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
  measureText(text: string): { width: number };
  setLineDash(dashes: number[]): void;
}

/** A text set at this many pixels and scaled by the matrix, so that browsers' smallest font size does not matter. */
const SET_AT = 100;

/** How much of a text's em its letters fill, and how dense they are, from far away. */
const [BAR_HEIGHT, BAR_OPACITY] = [0.6, 0.4];

/** How a page is to be painted. */
export interface Painting {
  /** How texts are lettered: in typefaces that the canvas has loaded, by their names, or as outlines of these. */
  letters: { families: Readonly<Record<FontId, string>> } | { outlines: FontSet };
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
  canvas.fillRect(0, 0, page.widthMm * pixelsPerMm, page.heightMm * pixelsPerMm);
  paintMarks(canvas, page, { a: scale, b: 0, c: 0, d: -scale, e: 0, f: page.heightMm * pixelsPerMm }, painting);
}

/** Paints the marks of a page; `map` takes page units to pixels. */
export function paintMarks(canvas: Canvas2D, page: Page, map: Affine, painting: Painting): void {
  const { letters, thinnestPx = 0.35, readablePx = 0, pictures = [], marks } = painting;
  const scale = Math.hypot(map.a, map.b);
  const thinnest = thinnestPx / scale;
  canvas.setTransform(map.a, map.b, map.c, map.d, map.e, map.f);
  canvas.fontKerning = 'none';
  let pen = -1;
  let font = '';
  let clip = 0;
  let nextText = 0;
  let nextPlaced = 0;
  let subpaths = 0;
  const endPath = (): void => {
    if (subpaths > 0) canvas.stroke();
    subpaths = 0;
  };
  const count = marks ? marks.list.length : page.markCount;
  for (let i = 0; i < count; i++) {
    const mark = marks ? marks.list[i]! : i;
    const kind = page.kind[mark];
    if (page.clip[mark] !== clip) {
      endPath();
      if (clip) canvas.restore();
      clip = page.clip[mark]!;
      pen = -1;
      font = '';
      if (clip) clipTo(canvas, page.clips[clip - 1]!);
    }
    if (kind === PICTURE) {
      endPath();
      const placed = page.placed[marks ? marks.order[mark]! : nextPlaced++]!;
      paintPicture(canvas, placed, pictures[placed.picture], 1 / scale);
      continue;
    }
    if (page.pen[mark] !== pen) {
      endPath();
      usePen(canvas, page.pens[(pen = page.pen[mark]!)]!, thinnest);
    }
    if (kind === STROKE) {
      if (subpaths === 0) canvas.beginPath();
      tracePath(canvas, page, mark);
      // What is see-through shows where lines cross: each is painted by itself.
      if (++subpaths >= MAX_SUBPATHS || page.pens[pen]!.opacity < 100) endPath();
      continue;
    }
    endPath();
    if (kind === TEXT) {
      const text = page.texts[marks ? marks.order[mark]! : nextText++]!;
      if (text.unseen) continue;
      if (text.size * Math.hypot(text.c, text.d) * scale < readablePx) paintBar(canvas, text, page.pens[pen]!);
      else if ('outlines' in letters) paintOutlines(canvas, text, letters.outlines);
      else {
        const wanted = `${SET_AT}px "${letters.families[text.font]}"`;
        if (wanted !== font) canvas.font = font = wanted;
        paintText(canvas, text, map);
      }
      continue;
    }
    canvas.beginPath();
    tracePath(canvas, page, mark);
    canvas.fill(kind === FILL_NONZERO ? 'nonzero' : 'evenodd');
  }
  endPath();
  if (clip) canvas.restore();
}

/** "Left-to-right override", a character that is not seen. */
const LEFT_TO_RIGHT = '\u202d';

export function cssColour(colour: number): string {
  return `#${colour.toString(16).padStart(6, '0')}`;
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

function usePen(canvas: Canvas2D, pen: Pen, thinnest: number): void {
  canvas.strokeStyle = canvas.fillStyle = cssColour(pen.colour);
  canvas.globalAlpha = pen.opacity / 100;
  canvas.lineWidth = Math.max(pen.width, thinnest);
  canvas.lineCap = pen.round ? 'round' : 'butt';
  canvas.lineJoin = pen.round ? 'round' : 'miter';
  canvas.setLineDash([...pen.dashes]);
}

function tracePath(canvas: Canvas2D, page: Page, mark: number): void {
  const { verbs, coords, verbStart, coordStart } = page;
  let at = coordStart[mark]!;
  for (let i = verbStart[mark]!; i < verbStart[mark + 1]!; i++) {
    const verb = verbs[i];
    if (verb === MOVE) canvas.moveTo(coords[at]!, coords[at + 1]!);
    else if (verb === LINE) canvas.lineTo(coords[at]!, coords[at + 1]!);
    else if (verb === CURVE) {
      const [x1, y1, x2, y2] = [coords[at]!, coords[at + 1]!, coords[at + 2]!, coords[at + 3]!];
      canvas.bezierCurveTo(x1, y1, x2, y2, coords[at + 4]!, coords[at + 5]!);
    } else canvas.closePath();
    at += verb === CURVE ? 6 : verb === MOVE || verb === LINE ? 2 : 0;
  }
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
