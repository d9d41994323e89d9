import type { PageText } from '../page/page';
import { drawOutline, glyphOutline } from '../text/glyph-outlines';
import type { FontSet } from '../text/layout';

/** Takes the loops of an outline: straight lines, and quadratic curves by their handle and end. */
export interface OutlineTaker {
  move(x: number, y: number): void;
  line(x: number, y: number): void;
  curve(hx: number, hy: number, x: number, y: number): void;
  close(): void;
}

/** Traces the letters of a text in page units, to be filled by the nonzero rule. */
export function traceText({ text, font, size, a, b, c, d, x, y }: PageText, fonts: FontSet, taker: OutlineTaker): void {
  const face = fonts[font];
  const scale = size / face.unitsPerEm;
  let along = 0;
  const right = (px: number, py: number): number => (a * (px + along) + c * py) * scale + x;
  const up = (px: number, py: number): number => (b * (px + along) + d * py) * scale + y;
  const tracer: OutlineTaker = {
    move: (px, py) => taker.move(right(px, py), up(px, py)),
    line: (px, py) => taker.line(right(px, py), up(px, py)),
    curve: (hx, hy, px, py) => taker.curve(right(hx, hy), up(hx, hy), right(px, py), up(px, py)),
    close: () => taker.close(),
  };
  for (const character of text) {
    const glyph = face.glyphOf(character.codePointAt(0)!);
    drawOutline(glyphOutline(face, glyph), tracer);
    along += face.advanceOf(glyph);
  }
}
