import { drawOutline } from './glyph-outlines';
import type { FontFace } from './sfnt';
import { SINGLE_STROKE, SINGLE_STROKE_CAPITALS } from './single-stroke-data';

/** Points x, y in turn of each line that a character is drawn with. */
type Strokes = readonly (readonly number[])[];

let alphabet: Map<number, Strokes> | undefined;
const fitted = new WeakMap<Uint8Array, Map<number, Strokes | undefined>>();

/**
 * The lines of a character in the units of a typeface, fitted into the room that its glyph there takes, so that one can
 * stand for the other; undefined where there are none for it. A character without ink has no lines.
 */
export function singleStrokes(face: FontFace, codePoint: number): Strokes | undefined {
  let ofFace = fitted.get(face.bytes);
  if (!ofFace) fitted.set(face.bytes, (ofFace = new Map()));
  if (!ofFace.has(codePoint)) ofFace.set(codePoint, fit(face, codePoint));
  return ofFace.get(codePoint);
}

function fit(face: FontFace, codePoint: number): Strokes | undefined {
  const outline = face.outlineOf(face.glyphOf(codePoint));
  if (outline.length === 0 && face.glyphOf(codePoint)) return [];
  alphabet ??= readAlphabet();
  const strokes = alphabet.get(codePoint);
  if (!strokes) return undefined;
  const room = { left: Infinity, right: -Infinity };
  const widen = (x: number): void => {
    room.left = Math.min(room.left, x);
    room.right = Math.max(room.right, x);
  };
  // Handles lie outside the curves that they pull at: the points alone make the room.
  drawOutline(outline, {
    move: widen,
    line: widen,
    curve: (_hx, _hy, x) => widen(x),
    cubic: (_1, _2, _3, _4, x) => widen(x),
    close: () => undefined,
  });
  const xs = strokes.flatMap((line) => line.filter((_, i) => i % 2 === 0));
  const [from, to] = [Math.min(...xs), Math.max(...xs)];
  const height = face.capHeight / SINGLE_STROKE_CAPITALS;
  const width = to > from ? (room.right - room.left) / (to - from) : 0;
  const start = to > from ? room.left : (room.left + room.right) / 2;
  return strokes.map((line) => line.map((value, i) => (i % 2 === 0 ? start + (value - from) * width : value * height)));
}

function readAlphabet(): Map<number, Strokes> {
  const lines = SINGLE_STROKE.trim().split('\n');
  return new Map(
    lines.map((line) => {
      const strokes = line.slice(5).split(';');
      return [parseInt(line, 16), strokes.map((stroke) => stroke.split(' ').map(Number))];
    }),
  );
}
