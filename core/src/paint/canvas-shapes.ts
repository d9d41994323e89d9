import { axisOf, type Gradient } from '../drawing/gradient';
import { apply, meanScale, multiply, type Affine } from '../geometry/affine';
import { shapeOf, type ClipShape, type PageText, type Pen, type PlacedPicture } from '../page/page';
import { brightness } from '../pens/ink';
import type { FontSet } from '../text/layout';
import type { Canvas2D, CanvasShade } from './canvas-2d';
import { traceText } from './text-outline';

/** A text set at this many pixels and scaled by the matrix, so that browsers' smallest font size does not matter. */
export const SET_AT = 100;

/** How much of a text's em its letters fill, and how dense they are, from far away. */
const [BAR_HEIGHT, BAR_OPACITY] = [0.6, 0.4];

/** "Left-to-right override", a character that is not seen. */
const LEFT_TO_RIGHT = '\u202d';

/** A colour as CSS writes it; opacity from 0 to 1. */
export function cssColour(colour: number, opacity = 1): string {
  const clear = opacity < 1 ? hex(Math.round(opacity * 255), 2) : '';
  return `#${hex(colour, 6)}${clear}`;
}

function hex(value: number, digits: number): string {
  return value.toString(16).padStart(digits, '0');
}

/** Clips to an intersection of shapes, until the canvas is restored. */
export function clipTo(canvas: Canvas2D, shapes: readonly ClipShape[]): void {
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

/** A picture, or a crossed box that stands for it; `pixel` is how large one is in page units. */
export function paintPicture(canvas: Canvas2D, placed: PlacedPicture, picture: unknown, pixel: number): void {
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
export function drawWhole(canvas: Canvas2D, image: unknown): void {
  const { width, height } = canvas.canvas;
  canvas.setTransform(1, 0, 0, 1, 0, 0);
  canvas.drawImage(image, 0, 0, width, height);
}

/** Turns the brightness of what is on a canvas into opacity: black becomes transparent. */
export function asOpacity(canvas: Canvas2D): void {
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

/** Makes a pen that of the canvas; its lines are at least `thinnest` wide, page units. */
export function usePen(canvas: Canvas2D, pen: Pen, thinnest: number): void {
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
export function shadeOf(canvas: Canvas2D, { map, from, stops }: Gradient): CanvasShade {
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
export function paintText(canvas: Canvas2D, text: PageText, map: Affine): void {
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

/** A text as the outlines of its letters. */
export function paintOutlines(canvas: Canvas2D, text: PageText, fonts: FontSet): void {
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
export function paintBar(canvas: Canvas2D, text: PageText, pen: Pen): void {
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
