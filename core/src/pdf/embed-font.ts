import type { FontFace } from '../text/sfnt';

/** Cuts a font down to some glyphs, which keep their numbers; given by the host (a library does it). */
export type Subset = (font: FontFace, glyphs: readonly number[]) => Uint8Array;

/** Everything about an embedded font that is not a stream, as PDF objects refer to it by number. */
export interface FontObjects {
  type0: string;
  cidFont: string;
  descriptor: string;
  toUnicode: string;
}

export interface FontNumbers {
  type0: number;
  cidFont: number;
  descriptor: number;
  file: number;
  toUnicode: number;
  /** Where glyphs are not their codes. */
  glyphMap?: number;
}

const FIXED_PITCH = 1;
const NONSYMBOLIC = 32;

const CODES = 0x10000;

/**
 * The code of a character in a text: its glyph or, where the font has none, a code beyond all glyphs. Each character has
 * its own, so that what is shown as an empty box can still be copied and searched.
 */
export function codeOf(font: FontFace, codePoint: number): number {
  return font.glyphOf(codePoint) || font.glyphCount + (codePoint % (CODES - font.glyphCount));
}

/** Character codes of one typeface that are in use: code → the (lowest) character it stands for. */
export type UsedCodes = Map<number, number>;

/** Notes that a code stands for a character. */
export function useCode(used: UsedCodes, code: number, codePoint: number): void {
  const known = used.get(code);
  if (known === undefined || codePoint < known) used.set(code, codePoint);
}

/** The glyph that a code shows. */
export function glyphOfCode(font: FontFace, code: number): number {
  return code < font.glyphCount ? code : 0;
}

/**
 * The glyph of every code up to the last one, two bytes each (ISO 32000-2, 9.7.4.3); undefined where they are the codes
 * themselves.
 */
export function glyphMap(font: FontFace, codes: readonly number[]): Uint8Array<ArrayBuffer> | undefined {
  const last = Math.max(0, ...codes);
  if (last < font.glyphCount) return undefined;
  const map = new DataView(new ArrayBuffer(2 * (last + 1)));
  for (const code of codes) map.setUint16(2 * code, glyphOfCode(font, code));
  return new Uint8Array(map.buffer);
}

/** The dictionaries of a Type 0 font with identity encoding (ISO 32000-2, 9.7.4 to 9.8), by codes and characters. */
export function fontObjects(font: FontFace, codes: readonly [number, number][], at: FontNumbers): FontObjects {
  const name = `${subsetTag(codes)}+${font.postScriptName}`;
  const thousandths = (units: number): number => Math.round((units * 1000) / font.unitsPerEm);
  const widths = codes.map(([code]) => `${code} [${thousandths(font.advanceOf(glyphOfCode(font, code)))}]`).join(' ');
  const flags = NONSYMBOLIC | (font.fixedPitch ? FIXED_PITCH : 0);
  return {
    type0: `<< /Type /Font /Subtype /Type0 /BaseFont /${name} /Encoding /Identity-H /DescendantFonts [${at.cidFont} 0 R] /ToUnicode ${at.toUnicode} 0 R >>`,
    cidFont: `<< /Type /Font /Subtype /CIDFontType2 /BaseFont /${name} /CIDSystemInfo << /Registry (Adobe) /Ordering (Identity) /Supplement 0 >> /FontDescriptor ${at.descriptor} 0 R /DW 0 /W [${widths}] /CIDToGIDMap ${at.glyphMap === undefined ? '/Identity' : `${at.glyphMap} 0 R`} >>`,
    descriptor: `<< /Type /FontDescriptor /FontName /${name} /Flags ${flags} /FontBBox [${font.bounds.map(thousandths).join(' ')}] /ItalicAngle 0 /Ascent ${thousandths(font.ascent)} /Descent ${thousandths(font.descent)} /CapHeight ${thousandths(font.capHeight)} /StemV 80 /FontFile2 ${at.file} 0 R >>`,
    toUnicode: toUnicode(codes),
  };
}

/** The CMap that gives readers the character that a code stands for (ISO 32000-2, 9.10.3). */
function toUnicode(codes: readonly [number, number][]): string {
  const hex = (value: number): string => value.toString(16).toUpperCase().padStart(4, '0');
  const utf16 = (codePoint: number): string =>
    [...String.fromCodePoint(codePoint)].flatMap((c) => c.split('').map((unit) => hex(unit.charCodeAt(0)))).join('');
  const lines: string[] = [];
  for (let i = 0; i < codes.length; i += 100) {
    const some = codes.slice(i, i + 100);
    lines.push(`${some.length} beginbfchar`, ...some.map(([g, c]) => `<${hex(g)}> <${utf16(c)}>`), 'endbfchar');
  }
  return [
    '/CIDInit /ProcSet findresource begin',
    '12 dict begin',
    'begincmap',
    '/CIDSystemInfo << /Registry (Adobe) /Ordering (UCS) /Supplement 0 >> def',
    '/CMapName /Adobe-Identity-UCS def',
    '/CMapType 2 def',
    '1 begincodespacerange',
    '<0000> <FFFF>',
    'endcodespacerange',
    ...lines,
    'endcmap',
    'CMapName currentdict /CMap defineresource pop',
    'end',
    'end',
  ].join('\n');
}

/** Six letters that tell subsets of one font apart (ISO 32000-2, 9.9.2), made from the codes in it. */
function subsetTag(codes: readonly [number, number][]): string {
  let hash = 0x811c9dc5;
  for (const [code] of codes) hash = Math.imul(hash ^ code, 0x01000193) >>> 0;
  let tag = '';
  for (let i = 0; i < 6; i++) {
    tag += String.fromCharCode(65 + (hash % 26));
    hash = Math.floor(hash / 26) + 7 * i;
  }
  return tag;
}
