import type { FontId } from './fonts';

/** What laying out and embedding text needs to know of a TrueType font. Lengths in font units. */
export interface FontFace {
  readonly id: FontId;
  readonly postScriptName: string;
  readonly unitsPerEm: number;
  readonly capHeight: number;
  readonly ascent: number;
  readonly descent: number;
  readonly bounds: readonly [number, number, number, number];
  readonly fixedPitch: boolean;
  /** The whole font file, for subsetting. */
  readonly bytes: Uint8Array;
  /** Glyph of a character; 0 when the font has none. */
  glyphOf(codePoint: number): number;
  advanceOf(glyph: number): number;
}

/** Reads the tables head, hhea, hmtx, cmap (formats 4 and 12), OS/2 and post (ISO/IEC 14496-22). Throws on other files. */
export function readFontFace(id: FontId, bytes: Uint8Array): FontFace {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const tables = tableOffsets(view);
  const table = (tag: string): number => {
    const offset = tables.get(tag);
    if (offset === undefined) throw new Error(`font ${id} has no ${tag} table`);
    return offset;
  };
  const [head, hhea, os2] = [table('head'), table('hhea'), table('OS/2')];
  const advances = readAdvances(view, table('hmtx'), view.getUint16(hhea + 34), view.getUint16(table('maxp') + 4));
  const glyphs = readCmap(view, table('cmap'));
  const ascent = view.getInt16(hhea + 4);
  const version = view.getUint16(os2);
  return {
    id,
    postScriptName: postScriptName(view, table('name')),
    unitsPerEm: view.getUint16(head + 18),
    capHeight: version >= 2 ? view.getInt16(os2 + 88) : Math.round(ascent * 0.76),
    ascent,
    descent: view.getInt16(hhea + 6),
    bounds: [view.getInt16(head + 36), view.getInt16(head + 38), view.getInt16(head + 40), view.getInt16(head + 42)],
    fixedPitch: view.getUint32(table('post') + 12) !== 0,
    bytes,
    glyphOf: (codePoint) => glyphs.get(codePoint) ?? 0,
    advanceOf: (glyph) => advances[Math.min(glyph, advances.length - 1)] ?? 0,
  };
}

function tableOffsets(view: DataView): Map<string, number> {
  const count = view.getUint16(4);
  return new Map(
    Array.from({ length: count }, (_, i) => {
      const at = 12 + 16 * i;
      const tag = String.fromCharCode(...[0, 1, 2, 3].map((k) => view.getUint8(at + k)));
      return [tag, view.getUint32(at + 8)];
    }),
  );
}

function readAdvances(view: DataView, hmtx: number, longMetrics: number, glyphs: number): Uint16Array {
  return Uint16Array.from({ length: glyphs }, (_, i) => view.getUint16(hmtx + 4 * Math.min(i, longMetrics - 1)));
}

function readCmap(view: DataView, cmap: number): Map<number, number> {
  const count = view.getUint16(cmap + 2);
  const subtables = Array.from({ length: count }, (_, i) => cmap + view.getUint32(cmap + 8 + 8 * i));
  const full = subtables.find((at) => view.getUint16(at) === 12);
  if (full !== undefined) return readFormat12(view, full);
  const basic = subtables.find((at) => view.getUint16(at) === 4);
  return basic === undefined ? new Map() : readFormat4(view, basic);
}

function readFormat12(view: DataView, at: number): Map<number, number> {
  const glyphs = new Map<number, number>();
  const groups = view.getUint32(at + 12);
  for (let i = 0; i < groups; i++) {
    const group = at + 16 + 12 * i;
    const [first, last, glyph] = [view.getUint32(group), view.getUint32(group + 4), view.getUint32(group + 8)];
    for (let code = first; code <= last; code++) glyphs.set(code, glyph + code - first);
  }
  return glyphs;
}

function readFormat4(view: DataView, at: number): Map<number, number> {
  const glyphs = new Map<number, number>();
  const segments = view.getUint16(at + 6) / 2;
  const [ends, starts] = [at + 14, at + 16 + 2 * segments];
  const [deltas, offsets] = [starts + 2 * segments, starts + 4 * segments];
  for (let i = 0; i < segments; i++) {
    const [first, last] = [view.getUint16(starts + 2 * i), view.getUint16(ends + 2 * i)];
    const delta = view.getUint16(deltas + 2 * i);
    const offset = view.getUint16(offsets + 2 * i);
    for (let code = first; code <= last && code < 0xffff; code++) {
      const raw = offset === 0 ? code : view.getUint16(offsets + 2 * i + offset + 2 * (code - first));
      const glyph = raw === 0 ? 0 : (raw + delta) & 0xffff;
      if (glyph) glyphs.set(code, glyph);
    }
  }
  return glyphs;
}

function postScriptName(view: DataView, name: number): string {
  const count = view.getUint16(name + 2);
  const strings = name + view.getUint16(name + 4);
  for (let i = 0; i < count; i++) {
    const record = name + 6 + 12 * i;
    if (view.getUint16(record + 6) !== 6) continue;
    const start = strings + view.getUint16(record + 10);
    const bytes = Array.from({ length: view.getUint16(record + 8) }, (_, k) => view.getUint8(start + k));
    return String.fromCharCode(...bytes.filter((byte) => byte > 32 && byte < 127));
  }
  return 'Unnamed';
}
