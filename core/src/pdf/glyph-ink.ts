import { cubicHandles } from '../geometry/curves';
import { UNITS_PER_MM, type PageText } from '../page/page';
import { drawOutline } from '../text/glyph-outlines';
import { textBitmap } from '../text/bitmap';
import type { FontId } from '../text/fonts';
import { textAdvance, type FontSet } from '../text/layout';
import type { FontFace } from '../text/sfnt';
import type { ByteWriter } from './bytes';

/** Data of an inline picture stay below this (ISO 32000-2, 8.9.7): longer texts are cut into several. */
const MAX_INLINE_BYTES = 4000;
const MM_PER_INCH = 25.4;

/** The typeface of hidden text whose own may not be embedded. */
const HIDDEN_FONT: FontId = 'sans';

const [M, L] = [109, 108];

/** Writes the outlines of a text's glyphs, filled in the colour that is set; whole page units as everything else. */
export function writeOutlines(out: ByteWriter, text: PageText, face: FontFace): void {
  const scale = text.size / face.unitsPerEm;
  let along = 0;
  let any = false;
  for (const character of text.text) {
    const glyph = face.glyphOf(character.codePointAt(0)!);
    const at = along;
    const xOf = (x: number, y: number): number => text.a * (x + at) * scale + text.c * y * scale + text.x;
    const yOf = (x: number, y: number): number => text.b * (x + at) * scale + text.d * y * scale + text.y;
    let [px, py] = [0, 0];
    const curve = (...points: number[]): void => {
      for (const value of points) out.integer(Math.round(value));
      out.raw('c\n');
      [px, py] = points.slice(-2) as [number, number];
    };
    drawOutline(face.outlineOf(glyph), {
      move: (x, y) => {
        [px, py] = [xOf(x, y), yOf(x, y)];
        out.pair(Math.round(px), Math.round(py), M);
      },
      line: (x, y) => {
        [px, py] = [xOf(x, y), yOf(x, y)];
        out.pair(Math.round(px), Math.round(py), L);
      },
      curve: (hx, hy, x, y) => {
        const [ex, ey] = [xOf(x, y), yOf(x, y)];
        curve(...cubicHandles(px, py, xOf(hx, hy), yOf(hx, hy), ex, ey), ex, ey);
      },
      cubic: (x1, y1, x2, y2, x, y) => curve(xOf(x1, y1), yOf(x1, y1), xOf(x2, y2), yOf(x2, y2), xOf(x, y), yOf(x, y)),
      close: () => out.raw('h\n'),
    });
    any ||= face.outlineOf(glyph).length > 0;
    along += face.advanceOf(glyph);
  }
  if (any) out.raw('f\n');
}

/** Writes a text as inline stencil pictures of a resolution, in the colour that is set (ISO 32000-2, 8.9.6.2). */
export function writeBitmap(out: ByteWriter, text: PageText, face: FontFace, dpi: number): void {
  const perUnit = dpi / MM_PER_INCH / UNITS_PER_MM;
  const across = text.size * Math.hypot(text.a, text.b) * perUnit;
  const up = text.size * Math.hypot(text.c, text.d) * perUnit;
  write(text.text, 0);

  function write(piece: string, from: number): void {
    const bitmap = textBitmap(face, piece, across, up);
    if (!bitmap) return;
    const characters = [...piece];
    if (bitmap.rows.length > MAX_INLINE_BYTES && characters.length > 1) {
      const half = characters.length >> 1;
      const first = characters.slice(0, half).join('');
      write(first, from);
      write(characters.slice(half).join(''), from + advanceOf(face, first));
      return;
    }
    const { left, bottom, wide, high, width, height, rows } = bitmap;
    const [x, y] = [(from + left) * text.size, bottom * text.size];
    out.raw('q ');
    for (const part of [text.a * wide, text.b * wide, text.c * high, text.d * high]) out.decimal(part * text.size, 3);
    out.decimal(text.a * x + text.c * y + text.x, 3).decimal(text.b * x + text.d * y + text.y, 3);
    // Hexadecimal: no reader can take a byte of it for the end of the picture.
    out.raw(`cm\nBI /IM true /W ${width} /H ${height} /BPC 1 /D [1 0] /F /AHx ID `);
    for (let i = 0; i < rows.length; i += 2) {
      if (i + 1 < rows.length) out.hex16((rows[i]! << 8) | rows[i + 1]!);
      else out.raw(rows[i]!.toString(16).padStart(2, '0').toUpperCase());
    }
    out.raw('>\nEI Q\n');
  }
}

/** Width of a text in ems. */
function advanceOf(face: FontFace, text: string): number {
  let sum = 0;
  for (const character of text) sum += face.advanceOf(face.glyphOf(character.codePointAt(0)!));
  return sum / face.unitsPerEm;
}

/** A text whose typeface may not be embedded in one that may, stretched to the same width: for searching, under its outlines. */
export function hiddenText(text: PageText, fonts: FontSet): PageText {
  const advance = textAdvance(fonts, HIDDEN_FONT, text.text) * text.size;
  const stretch = advance > 0 && text.advance > 0 ? text.advance / advance : 1;
  return { ...text, font: HIDDEN_FONT, a: text.a * stretch, b: text.b * stretch };
}
