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
  readonly glyphCount: number;
  /** The whole font file, for subsetting. */
  readonly bytes: Uint8Array;
  /** Glyph of a character; 0 when the font has none. */
  glyphOf(codePoint: number): number;
  advanceOf(glyph: number): number;
}

/** Reads the tables head, hhea, hmtx, cmap (formats 4 and 12), OS/2 and post (ISO/IEC 14496-22). Throws on other files. */
export function readFontFace(id: FontId, bytes: Uint8Array): FontFace {
  const data = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const tables = tableOffsets(data);
  const table = (tag: string): number => {
    const offset = tables.get(tag);
    if (offset === undefined) throw new Error(`font ${id} has no ${tag} table`);
    return offset;
  };
  const [head, hhea, os2] = [table('head'), table('hhea'), table('OS/2')];
  const glyphCount = data.getUint16(table('maxp') + 4);
  const advances = readAdvances(data, table('hmtx'), data.getUint16(hhea + 34), glyphCount);
  const glyphs = readCmap(data, table('cmap'));
  const ascent = data.getInt16(hhea + 4);
  const version = data.getUint16(os2);
  return {
    id,
    postScriptName: postScriptName(data, table('name')),
    unitsPerEm: data.getUint16(head + 18),
    capHeight: version >= 2 ? data.getInt16(os2 + 88) : Math.round(ascent * 0.76),
    ascent,
    descent: data.getInt16(hhea + 6),
    bounds: [data.getInt16(head + 36), data.getInt16(head + 38), data.getInt16(head + 40), data.getInt16(head + 42)],
    fixedPitch: data.getUint32(table('post') + 12) !== 0,
    glyphCount,
    bytes,
    glyphOf: (codePoint) => glyphs.get(codePoint) ?? 0,
    advanceOf: (glyph) => advances[Math.min(glyph, advances.length - 1)] ?? 0,
  };
}

/** Where each table of a font begins, by its tag. */
type TableOffsets = ReadonlyMap<string, number>;

function tableOffsets(data: DataView): TableOffsets {
  const count = data.getUint16(4);
  return new Map(
    Array.from({ length: count }, (_, i) => {
      const at = 12 + 16 * i;
      const tag = String.fromCharCode(...[0, 1, 2, 3].map((k) => data.getUint8(at + k)));
      return [tag, data.getUint32(at + 8)];
    }),
  );
}

function readAdvances(data: DataView, hmtx: number, longMetrics: number, glyphs: number): Uint16Array {
  return Uint16Array.from({ length: glyphs }, (_, i) => data.getUint16(hmtx + 4 * Math.min(i, longMetrics - 1)));
}

function readCmap(data: DataView, cmap: number): Map<number, number> {
  const count = data.getUint16(cmap + 2);
  const subtables = Array.from({ length: count }, (_, i) => cmap + data.getUint32(cmap + 8 + 8 * i));
  const full = subtables.find((at) => data.getUint16(at) === 12);
  if (full !== undefined) return readFormat12(data, full);
  const basic = subtables.find((at) => data.getUint16(at) === 4);
  return basic === undefined ? new Map() : readFormat4(data, basic);
}

function readFormat12(data: DataView, at: number): Map<number, number> {
  const glyphs = new Map<number, number>();
  const groups = data.getUint32(at + 12);
  for (let i = 0; i < groups; i++) {
    const group = at + 16 + 12 * i;
    const [first, last, glyph] = [data.getUint32(group), data.getUint32(group + 4), data.getUint32(group + 8)];
    for (let code = first; code <= last; code++) glyphs.set(code, glyph + code - first);
  }
  return glyphs;
}

function readFormat4(data: DataView, at: number): Map<number, number> {
  const glyphs = new Map<number, number>();
  const segments = data.getUint16(at + 6) / 2;
  const [ends, starts] = [at + 14, at + 16 + 2 * segments];
  const [deltas, offsets] = [starts + 2 * segments, starts + 4 * segments];
  for (let i = 0; i < segments; i++) {
    const [first, last] = [data.getUint16(starts + 2 * i), data.getUint16(ends + 2 * i)];
    const delta = data.getUint16(deltas + 2 * i);
    const offset = data.getUint16(offsets + 2 * i);
    for (let code = first; code <= last && code < 0xffff; code++) {
      const raw = offset === 0 ? code : data.getUint16(offsets + 2 * i + offset + 2 * (code - first));
      const glyph = raw === 0 ? 0 : (raw + delta) & 0xffff;
      if (glyph) glyphs.set(code, glyph);
    }
  }
  return glyphs;
}

function postScriptName(data: DataView, name: number): string {
  const count = data.getUint16(name + 2);
  const strings = name + data.getUint16(name + 4);
  for (let i = 0; i < count; i++) {
    const record = name + 6 + 12 * i;
    if (data.getUint16(record + 6) !== 6) continue;
    const start = strings + data.getUint16(record + 10);
    const bytes = Array.from({ length: data.getUint16(record + 8) }, (_, k) => data.getUint8(start + k));
    return String.fromCharCode(...bytes.filter((byte) => byte > 32 && byte < 127));
  }
  return 'Unnamed';
}
