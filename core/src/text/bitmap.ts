import { cubicHandles } from '../geometry/curves';
import { drawOutline } from './glyph-outlines';
import type { FontFace } from './sfnt';

/** A text in black and white, its pixels in rows from the top, eight to a byte, rows filled up with white. */
export interface TextBitmap {
  width: number;
  height: number;
  /** Left and lower edge in ems from the start of the baseline, and the size of the whole in ems. */
  left: number;
  bottom: number;
  wide: number;
  high: number;
  /** 1 is ink. */
  rows: Uint8Array;
}

/** Pieces that a curve of a glyph is drawn with: at 1200 dpi a capital of 10 mm is true to half a pixel. */
const PIECES = 8;

/**
 * The glyphs of a text as pixels, `across` and `up` of them to the em. A pixel is ink where its centre lies inside by
 * the nonzero rule. Undefined where nothing would be seen.
 */
export function textBitmap(face: FontFace, text: string, across: number, up: number): TextBitmap | undefined {
  const edges = edgesOf(face, text);
  if (edges.length === 0) return undefined;
  let [xmin, xmax, ymin, ymax] = [Infinity, -Infinity, Infinity, -Infinity];
  for (const { x0, y0, x1, y1 } of edges) {
    xmin = Math.min(xmin, x0, x1);
    xmax = Math.max(xmax, x0, x1);
    ymin = Math.min(ymin, y0, y1);
    ymax = Math.max(ymax, y0, y1);
  }
  const [left, bottom] = [Math.floor(xmin * across), Math.floor(ymin * up)];
  const width = Math.max(1, Math.ceil(xmax * across) - left);
  const height = Math.max(1, Math.ceil(ymax * up) - bottom);
  const stride = Math.ceil(width / 8);
  const rows = new Uint8Array(stride * height);
  for (let row = 0; row < height; row++) {
    const y = (bottom + height - row - 0.5) / up;
    fillRow(rows.subarray(row * stride, (row + 1) * stride), crossings(edges, y), across, left, width);
  }
  return {
    width,
    height,
    left: left / across,
    bottom: bottom / up,
    wide: width / across,
    high: height / up,
    rows,
  };
}

interface Edge {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}

function edgesOf(face: FontFace, text: string): Edge[] {
  const edges: Edge[] = [];
  let along = 0;
  for (const character of text) {
    const glyph = face.glyphOf(character.codePointAt(0)!);
    const at = along;
    let [sx, sy, px, py] = [0, 0, 0, 0];
    const line = (x: number, y: number): void => {
      const [x0, y0] = [(px + at) / face.unitsPerEm, py / face.unitsPerEm];
      edges.push({ x0, y0, x1: (x + at) / face.unitsPerEm, y1: y / face.unitsPerEm });
      [px, py] = [x, y];
    };
    const cubic = (x1: number, y1: number, x2: number, y2: number, x: number, y: number): void => {
      const [x0, y0] = [px, py];
      for (let i = 1; i <= PIECES; i++) {
        const t = i / PIECES;
        const [u, v, w, z] = [(1 - t) ** 3, 3 * t * (1 - t) ** 2, 3 * t * t * (1 - t), t ** 3];
        line(u * x0 + v * x1 + w * x2 + z * x, u * y0 + v * y1 + w * y2 + z * y);
      }
    };
    drawOutline(face.outlineOf(glyph), {
      move: (x, y) => void ([sx, sy, px, py] = [x, y, x, y]),
      line,
      curve: (hx, hy, x, y) => cubic(...cubicHandles(px, py, hx, hy, x, y), x, y),
      cubic,
      close: () => line(sx, sy),
    });
    along += face.advanceOf(glyph);
  }
  return edges;
}

/** Where edges cross a height, from left to right, and which way each goes. */
function crossings(edges: readonly Edge[], y: number): [x: number, way: number][] {
  const found: [number, number][] = [];
  for (const { x0, y0, x1, y1 } of edges) {
    if (y0 <= y === y1 <= y) continue;
    found.push([x0 + ((y - y0) / (y1 - y0)) * (x1 - x0), y1 > y0 ? 1 : -1]);
  }
  return found.sort((a, b) => a[0] - b[0]);
}

function fillRow(row: Uint8Array, at: readonly [number, number][], across: number, left: number, width: number): void {
  let winding = 0;
  for (let i = 0; i + 1 < at.length; i++) {
    winding += at[i]![1];
    if (winding === 0) continue;
    const from = Math.max(0, Math.ceil(at[i]![0] * across - left - 0.5));
    const to = Math.min(width, Math.ceil(at[i + 1]![0] * across - left - 0.5));
    for (let x = from; x < to; x++) row[x >> 3]! |= 0x80 >> (x & 7);
  }
}
