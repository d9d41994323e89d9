import type { FontId } from './fonts';
import { trueTypeOutlines, type GlyphOutline } from './glyph-outlines';

/** How a typeface may be embedded: cut down to what is used, only as a whole, or not at all. */
export type Embedding = 'subset' | 'whole' | 'none';

/** Outlines of the kind that PostScript uses, which the host reads (a library does it). */
export interface CffOutlines {
  outlineOf(glyph: number): GlyphOutline;
  /** The identifier of a glyph; absent where glyphs are known by their numbers (ISO 32000-2, 9.7.4.2). */
  cidOf?: (glyph: number) => number;
}

/** What laying out and embedding text needs to know of a font. Lengths in font units. */
export interface FontFace {
  readonly id: FontId;
  readonly postScriptName: string;
  readonly family: string;
  readonly embedding: Embedding;
  /** Present where its outlines are of that kind; else they are those of TrueType. */
  readonly cff?: CffOutlines;
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
  outlineOf(glyph: number): GlyphOutline;
}

/** Bits of `fsType` (ISO/IEC 14496-22, 5.7.7): usage, which is 2 where embedding is forbidden, and "no subsetting". */
const [USAGE, RESTRICTED, NO_SUBSETTING, BITMAPS_ONLY] = [0xf, 2, 0x100, 0x200];
/** Height of capitals over the em where a font neither says it nor has them. */
const USUAL_CAPITALS = 0.7;
const [FAMILY, POSTSCRIPT, TYPOGRAPHIC_FAMILY] = [1, 6, 16];
const MACINTOSH = 1;
const CAPITAL = 0x48;
const SYMBOLS = 0xf000;

/**
 * Reads the tables head, hhea, hmtx, cmap (formats 4 and 12), name, OS/2 and post (ISO/IEC 14496-22); `cff` has the
 * outlines of fonts of that kind. Throws on other files.
 */
export function readFontFace(id: FontId, bytes: Uint8Array, cff?: CffOutlines): FontFace {
  const data = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const tables = new Map(recordsOf(data).map(({ tag, offset }) => [tag, offset]));
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
  const unitsPerEm = data.getUint16(head + 18);
  const outlineOf = cff?.outlineOf ?? trueTypeOutlines(bytes);
  const names = namesOf(data, table('name'));
  const stated = data.getUint16(os2) >= 2 ? data.getInt16(os2 + 88) : 0;
  const measured = (): number => Math.max(0, ...outlineOf(glyphs.get(CAPITAL) ?? 0).flatMap(({ y }) => y));
  return {
    id,
    postScriptName: (names.get(POSTSCRIPT) ?? '').replace(/[^!-~]|[[\](){}<>/%#]/g, '') || 'Unnamed',
    family: names.get(TYPOGRAPHIC_FAMILY) ?? names.get(FAMILY) ?? 'Unnamed',
    embedding: embeddingOf(data.getUint16(os2 + 8)),
    ...(cff && { cff }),
    unitsPerEm,
    capHeight: stated > 0 ? stated : measured() || Math.round(USUAL_CAPITALS * unitsPerEm),
    ascent,
    descent: data.getInt16(hhea + 6),
    bounds: [data.getInt16(head + 36), data.getInt16(head + 38), data.getInt16(head + 40), data.getInt16(head + 42)],
    fixedPitch: data.getUint32(table('post') + 12) !== 0,
    glyphCount,
    bytes,
    glyphOf: (codePoint) => glyphs.get(codePoint) ?? 0,
    advanceOf: (glyph) => advances[Math.min(glyph, advances.length - 1)] ?? 0,
    outlineOf,
  };
}

function embeddingOf(fsType: number): Embedding {
  if ((fsType & USAGE) === RESTRICTED || fsType & BITMAPS_ONLY) return 'none';
  return fsType & NO_SUBSETTING ? 'whole' : 'subset';
}

/** A table of a font; undefined where it has none of that name. */
export function fontTable(bytes: Uint8Array, tag: string): Uint8Array | undefined {
  const data = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const record = recordsOf(data).find((one) => one.tag === tag);
  return record && bytes.subarray(record.offset, record.offset + record.length);
}

/** The table directory (ISO/IEC 14496-22, 4.3). */
function recordsOf(data: DataView): { tag: string; offset: number; length: number }[] {
  return Array.from({ length: data.getUint16(4) }, (_, i) => {
    const at = 12 + 16 * i;
    const tag = String.fromCharCode(...[0, 1, 2, 3].map((k) => data.getUint8(at + k)));
    return { tag, offset: data.getUint32(at + 8), length: data.getUint32(at + 12) };
  });
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
  return basic === undefined ? new Map() : withSymbols(readFormat4(data, basic));
}

/** Fonts of symbols put their characters 0 to FF at F000 to F0FF (ISO/IEC 14496-22, 5.2.1, encoding 3/0). */
function withSymbols(glyphs: Map<number, number>): Map<number, number> {
  for (let code = 0x20; code <= 0xff; code++) {
    const symbol = glyphs.get(SYMBOLS + code);
    if (symbol !== undefined && !glyphs.has(code)) glyphs.set(code, symbol);
  }
  return glyphs;
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

/** The first text of each kind in the table of names, Unicode ones first. */
function namesOf(data: DataView, name: number): Map<number, string> {
  const count = data.getUint16(name + 2);
  const strings = name + data.getUint16(name + 4);
  const names = new Map<number, string>();
  const records = Array.from({ length: count }, (_, i) => name + 6 + 12 * i);
  for (const unicode of [true, false]) {
    for (const record of records) {
      const [platform, kind] = [data.getUint16(record), data.getUint16(record + 6)];
      if ((platform !== MACINTOSH) !== unicode || names.has(kind)) continue;
      const start = strings + data.getUint16(record + 10);
      const step = unicode ? 2 : 1;
      const units = Array.from({ length: Math.floor(data.getUint16(record + 8) / step) }, (_, k) =>
        unicode ? data.getUint16(start + 2 * k) : data.getUint8(start + k),
      );
      names.set(kind, String.fromCharCode(...units));
    }
  }
  return names;
}
