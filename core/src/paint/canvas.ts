import { CURVE, LINE, MOVE } from '../geometry/path';
import { FILL, STROKE, TEXT, UNITS_PER_MM, type Page, type PageText, type Pen } from '../page/page';
import type { FontId } from '../text/fonts';

/** What painting needs of a 2D canvas; browsers' canvases have it on screen and off. */
export interface Canvas2D {
  fillStyle: unknown;
  strokeStyle: unknown;
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
  bezierCurveTo(x1: number, y1: number, x2: number, y2: number, x: number, y: number): void;
  closePath(): void;
  rect(x: number, y: number, width: number, height: number): void;
  clip(): void;
  stroke(): void;
  fill(rule?: 'nonzero' | 'evenodd'): void;
  fillRect(x: number, y: number, width: number, height: number): void;
  fillText(text: string, x: number, y: number): void;
  measureText(text: string): { width: number };
  setLineDash(dashes: number[]): void;
}

/** A text set at this many pixels and scaled by the matrix, so that browsers' smallest font size does not matter. */
const SET_AT = 100;

/**
 * Paints a page with its lower left corner at (0, heightPx), `pixelsPerMm` large, on white paper. Lines never get
 * thinner than `thinnestPx`, so that they do not vanish in a miniature. `families` names the loaded typefaces.
 */
export function paintPage(
  canvas: Canvas2D,
  page: Page,
  pixelsPerMm: number,
  families: Readonly<Record<FontId, string>>,
  thinnestPx = 0.35,
): void {
  const scale = pixelsPerMm / UNITS_PER_MM;
  const thinnest = thinnestPx / scale;
  canvas.setTransform(1, 0, 0, 1, 0, 0);
  canvas.fillStyle = '#ffffff';
  canvas.fillRect(0, 0, page.widthMm * pixelsPerMm, page.heightMm * pixelsPerMm);
  canvas.setTransform(scale, 0, 0, -scale, 0, page.heightMm * pixelsPerMm);
  canvas.fontKerning = 'none';
  let pen = -1;
  let clip = 0;
  let nextText = 0;
  for (let mark = 0; mark < page.markCount; mark++) {
    if (page.clip[mark] !== clip) {
      if (clip) canvas.restore();
      clip = page.clip[mark]!;
      pen = -1;
      if (clip) clipTo(canvas, page.clips[clip - 1]!);
    }
    if (page.pen[mark] !== pen) usePen(canvas, page.pens[(pen = page.pen[mark]!)]!, thinnest);
    const kind = page.kind[mark];
    if (kind === TEXT) {
      paintText(canvas, page.texts[nextText++]!, families);
      continue;
    }
    canvas.beginPath();
    tracePath(canvas, page, mark);
    if (kind === FILL) canvas.fill('evenodd');
    else if (kind === STROKE) canvas.stroke();
  }
  if (clip) canvas.restore();
}

export function cssColour(colour: number): string {
  return `#${colour.toString(16).padStart(6, '0')}`;
}

function clipTo(canvas: Canvas2D, [xmin, ymin, xmax, ymax]: readonly number[]): void {
  canvas.save();
  canvas.beginPath();
  canvas.rect(xmin!, ymin!, xmax! - xmin!, ymax! - ymin!);
  canvas.clip();
}

function usePen(canvas: Canvas2D, pen: Pen, thinnest: number): void {
  canvas.strokeStyle = canvas.fillStyle = cssColour(pen.colour);
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
      const [x1, y1, x2, y2, x, y] = coords.subarray(at, at + 6) as unknown as [
        number,
        number,
        number,
        number,
        number,
        number,
      ];
      canvas.bezierCurveTo(x1, y1, x2, y2, x, y);
    } else canvas.closePath();
    at += verb === CURVE ? 6 : verb === MOVE || verb === LINE ? 2 : 0;
  }
}

function paintText(canvas: Canvas2D, text: PageText, families: Readonly<Record<FontId, string>>): void {
  canvas.save();
  canvas.transform(text.a, text.b, text.c, text.d, text.x, text.y);
  canvas.font = `${SET_AT}px "${families[text.font]}"`;
  const measured = canvas.measureText(text.text).width;
  // The page knows the width; the browser's own shaping must not change it.
  const stretch = measured > 0 ? text.advance / measured : text.size / SET_AT;
  canvas.transform(stretch, 0, 0, -text.size / SET_AT, 0, 0);
  canvas.fillText(text.text, 0, 0);
  canvas.restore();
}
