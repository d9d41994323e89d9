import type { PageText } from '../page/page';
import { drawOutline, type OutlineSink } from '../text/glyph-outlines';
import type { FontSet } from '../text/layout';

/** Traces the letters of a text in page units, to be filled by the nonzero rule. */
export function traceText({ text, font, size, a, b, c, d, x, y }: PageText, fonts: FontSet, sink: OutlineSink): void {
  const face = fonts.face(font);
  const scale = size / face.unitsPerEm;
  let along = 0;
  const right = (px: number, py: number): number => (a * (px + along) + c * py) * scale + x;
  const up = (px: number, py: number): number => (b * (px + along) + d * py) * scale + y;
  const tracer: OutlineSink = {
    move: (px, py) => sink.move(right(px, py), up(px, py)),
    line: (px, py) => sink.line(right(px, py), up(px, py)),
    curve: (hx, hy, px, py) => sink.curve(right(hx, hy), up(hx, hy), right(px, py), up(px, py)),
    cubic: (x1, y1, x2, y2, px, py) =>
      sink.cubic(right(x1, y1), up(x1, y1), right(x2, y2), up(x2, y2), right(px, py), up(px, py)),
    close: () => sink.close(),
  };
  for (const character of text) {
    const glyph = face.glyphOf(character.codePointAt(0)!);
    drawOutline(face.outlineOf(glyph), tracer);
    along += face.advanceOf(glyph);
  }
}
