import type { FontId } from '../text/fonts';
import { fontTable, type FontFace } from '../text/sfnt';

/** Cuts a font down to some glyphs, which keep their numbers; given by the host (a library does it). */
export type Subset = (font: FontFace, glyphs: readonly number[]) => Uint8Array;

/** The name of a typeface among the resources of pages. */
export function fontName(id: FontId): string {
  return `F${id}`;
}

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
  /** The glyphs of TrueType, or the identifiers of others, where they are not the codes themselves. */
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

/** The entries of the stream of a CMap (ISO 32000-2, table 118). */
export const CMAP_ENTRIES =
  '/Type /CMap /CMapName /Folvex-Glyphs /CIDSystemInfo << /Registry (Adobe) /Ordering (Identity) /Supplement 0 >>';

/** What stands behind the codes of a font where they are not glyphs, or the identifiers of glyphs, themselves. */
export function glyphMap(font: FontFace, codes: readonly number[]): Uint8Array<ArrayBuffer> | undefined {
  const { cff } = font;
  if (cff) return cff.cidOf && encodingMap(codes.map((code) => [code, cff.cidOf!(glyphOfCode(font, code))]));
  return glyphsOfCodes(font, codes);
}

/** The glyph of every code up to the last one, two bytes each (ISO 32000-2, 9.7.4.3). */
function glyphsOfCodes(font: FontFace, codes: readonly number[]): Uint8Array<ArrayBuffer> | undefined {
  const last = Math.max(0, ...codes);
  if (last < font.glyphCount) return undefined;
  const map = new DataView(new ArrayBuffer(2 * (last + 1)));
  for (const code of codes) map.setUint16(2 * code, glyphOfCode(font, code));
  return new Uint8Array(map.buffer);
}

/** The font program as PDF takes it: an OpenType file, or the bare table of outlines that are not TrueType's. */
export function fontProgram({ cff }: FontFace, file: Uint8Array): Uint8Array {
  return (cff && fontTable(file, 'CFF ')) || file;
}

/** The entries of the stream that holds a font program (ISO 32000-2, table 124). */
export function programEntries({ cff }: FontFace, program: Uint8Array): string {
  return cff ? '/Subtype /CIDFontType0C' : `/Length1 ${program.length}`;
}

/** The dictionaries of a Type 0 font (ISO 32000-2, 9.7.4 to 9.8), by codes and characters. */
export function fontObjects(font: FontFace, codes: readonly [number, number][], at: FontNumbers): FontObjects {
  const { cff } = font;
  const name = font.embedding === 'whole' ? font.postScriptName : `${subsetTag(codes)}+${font.postScriptName}`;
  const thousandths = (units: number): number => Math.round((units * 1000) / font.unitsPerEm);
  // Widths go by what the codes select.
  const selected = (code: number): number => cff?.cidOf?.(glyphOfCode(font, code)) ?? code;
  const widths = codes
    .map(([code]) => `${selected(code)} [${thousandths(font.advanceOf(glyphOfCode(font, code)))}]`)
    .join(' ');
  const flags = NONSYMBOLIC | (font.fixedPitch ? FIXED_PITCH : 0);
  const map = at.glyphMap === undefined ? undefined : `${at.glyphMap} 0 R`;
  return {
    type0: `<< /Type /Font /Subtype /Type0 /BaseFont /${name} /Encoding ${cff && map ? map : '/Identity-H'} /DescendantFonts [${at.cidFont} 0 R] /ToUnicode ${at.toUnicode} 0 R >>`,
    cidFont:
      `<< /Type /Font /Subtype /${cff ? 'CIDFontType0' : 'CIDFontType2'} /BaseFont /${name} /CIDSystemInfo << /Registry (Adobe) /Ordering (Identity) /Supplement 0 >> /FontDescriptor ${at.descriptor} 0 R /DW 0 /W [${widths}]` +
      (cff ? ' >>' : ` /CIDToGIDMap ${map ?? '/Identity'} >>`),
    descriptor: `<< /Type /FontDescriptor /FontName /${name} /Flags ${flags} /FontBBox [${font.bounds.map(thousandths).join(' ')}] /ItalicAngle 0 /Ascent ${thousandths(font.ascent)} /Descent ${thousandths(font.descent)} /CapHeight ${thousandths(font.capHeight)} /StemV 80 /${cff ? 'FontFile3' : 'FontFile2'} ${at.file} 0 R >>`,
    toUnicode: toUnicode(codes),
  };
}

/** The CMap that leads from codes to the identifiers of glyphs (ISO 32000-2, 9.7.5.4). */
function encodingMap(codes: readonly [code: number, cid: number][]): Uint8Array<ArrayBuffer> {
  const lines = codes.map(([code, cid]) => `<${hex(code)}> ${cid}`);
  return new TextEncoder().encode(cMap('Folvex-Glyphs', 1, 'cidchar', lines));
}

/** The CMap that gives readers the character that a code stands for (ISO 32000-2, 9.10.3). */
function toUnicode(codes: readonly [number, number][]): string {
  const utf16 = (codePoint: number): string =>
    [...String.fromCodePoint(codePoint)].flatMap((c) => c.split('').map((unit) => hex(unit.charCodeAt(0)))).join('');
  const lines = codes.map(([g, c]) => `<${hex(g)}> <${utf16(c)}>`);
  return cMap('Adobe-Identity-UCS', 2, 'bfchar', lines);
}

function hex(value: number): string {
  return value.toString(16).toUpperCase().padStart(4, '0');
}

/** A CMap of single codes, a hundred of them in a section at most. */
function cMap(name: string, type: 1 | 2, section: 'bfchar' | 'cidchar', lines: readonly string[]): string {
  const sections: string[] = [];
  for (let i = 0; i < lines.length; i += 100) {
    const some = lines.slice(i, i + 100);
    sections.push(`${some.length} begin${section}`, ...some, `end${section}`);
  }
  const ordering = type === 2 ? 'UCS' : 'Identity';
  return [
    '/CIDInit /ProcSet findresource begin',
    '12 dict begin',
    'begincmap',
    `/CIDSystemInfo << /Registry (Adobe) /Ordering (${ordering}) /Supplement 0 >> def`,
    `/CMapName /${name} def`,
    `/CMapType ${type} def`,
    '1 begincodespacerange',
    '<0000> <FFFF>',
    'endcodespacerange',
    ...sections,
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
