import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import * as fontkit from 'fontkit';
import { readFontFace, type FontFace } from '../../src/index';
import { textBitmap } from '../../src/text/bitmap';
import { drawOutline, type GlyphOutline } from '../../src/text/glyph-outlines';
import { fontTable } from '../../src/text/sfnt';

const require = createRequire(import.meta.url);
const FONTS = [
  'source-sans/TTF/SourceSans3-Regular.ttf',
  '@expo-google-fonts/jura/400Regular/Jura_400Regular.ttf',
  'dejavu-fonts-ttf/ttf/DejaVuSans.ttf',
  '@expo-google-fonts/tinos/400Regular/Tinos_400Regular.ttf',
];
/** Simple and composed glyphs, with accents above and next to the letter. */
const CHARACTERS = 'AaBgQ@&8éÄçñåΆβδФЖщ½ ';

/** Commands without the line to the start that some end a loop with before they close it. */
function closed(commands: readonly string[]): string[] {
  return commands.filter((one, i) => !(one.startsWith('lineTo') && commands[i + 1]?.startsWith('closePath')));
}

function faceOf(file: string) {
  const bytes = new Uint8Array(readFileSync(require.resolve(file)));
  return readFontFace('sans', bytes);
}

describe.each(FONTS)('glyphs of %s', (file) => {
  it('have the outlines that fontkit reads', () => {
    const face = faceOf(file);
    const other = fontkit.openSync(require.resolve(file));
    for (const character of CHARACTERS) {
      const glyph = face.glyphOf(character.codePointAt(0)!);
      const drawn: string[] = [];
      const say = (name: string, ...numbers: number[]): void =>
        void drawn.push(`${name} ${numbers.map(Math.round).join(' ')}`);
      drawOutline(face.outlineOf(glyph), {
        move: (x, y) => say('moveTo', x, y),
        line: (x, y) => say('lineTo', x, y),
        curve: (hx, hy, x, y) => say('quadraticCurveTo', hx, hy, x, y),
        cubic: (...points) => say('bezierCurveTo', ...points),
        close: () => say('closePath'),
      });
      const { commands } = other.getGlyph(glyph).path;
      const wanted = commands.map(({ command, args }) => `${command} ${args.map(Math.round).join(' ')}`);
      expect([character, ...closed(drawn)]).toEqual([character, ...closed(wanted)]);
    }
  });
});

/** DejaVu's é with its accent put where point 3 of it meets point 5 of the letter, instead of at a distance. */
function matched(): { face: FontFace; glyph: number } {
  const bytes = new Uint8Array(readFileSync(require.resolve(FONTS[2]!)));
  const glyph = readFontFace('sans', bytes).glyphOf(0xe9);
  const [loca, glyf] = ['loca', 'glyf'].map((tag) => fontTable(bytes, tag)!);
  const view = (table: Uint8Array): DataView => new DataView(table.buffer, table.byteOffset);
  const outline = view(glyf!.subarray(view(loca!).getUint32(4 * glyph)));
  // Ten bytes of header, then six bytes of the letter, and the flags, glyph and two words of its accent (ISO/IEC 14496-22, 5.3.4).
  const second = 10 + 6;
  const flags = outline.getUint16(second);
  expect([outline.getInt16(0), flags & 0x3]).toEqual([-1, 0x3]);
  outline.setUint16(second, flags & ~0x2);
  outline.setUint16(second + 4, 5);
  outline.setUint16(second + 6, 3);
  return { face: readFontFace('sans', bytes), glyph };
}

/** A font with its characters up to 7E at F000 and above, as fonts of symbols have them. */
function symbols(file: string): FontFace {
  const bytes = new Uint8Array(readFileSync(require.resolve(file)));
  const cmap = fontTable(bytes, 'cmap')!;
  const table = new DataView(cmap.buffer, cmap.byteOffset, cmap.byteLength);
  const subtables = Array.from({ length: table.getUint16(2) }, (_, i) => table.getUint32(8 + 8 * i));
  for (const at of subtables) {
    if (table.getUint16(at) === 12) table.setUint16(at, 99);
    if (table.getUint16(at) !== 4) continue;
    const length = table.getUint16(at + 6);
    const [ends, starts] = [at + 14, at + 16 + length];
    for (let i = 0; i < length; i += 2) {
      if (table.getUint16(ends + i) > 0x7e) continue;
      for (const column of [ends, starts]) table.setUint16(column + i, table.getUint16(column + i) + 0xf000);
      const [delta, offset] = [starts + length + i, starts + 2 * length + i];
      if (table.getUint16(offset) === 0) table.setUint16(delta, table.getUint16(delta) - 0xf000);
    }
  }
  return readFontFace('sans', bytes);
}

describe('a font of symbols', () => {
  it('has its characters at their usual codes too', () => {
    const plain = faceOf(FONTS[0]!);
    const face = symbols(FONTS[0]!);
    for (const code of [0x23, 0x41, 0x7a]) {
      expect(plain.glyphOf(code)).toBeGreaterThan(0);
      expect([face.glyphOf(code), face.glyphOf(0xf000 + code)]).toEqual([plain.glyphOf(code), plain.glyphOf(code)]);
    }
  });
});

describe('a composed glyph', () => {
  it('has its parts where their matching points meet', () => {
    const { face, glyph } = matched();
    const letter = face.outlineOf(face.glyphOf(0x65));
    const accent = face.outlineOf(glyph).slice(letter.length);
    const points = (loops: GlyphOutline): number[][] => loops.flatMap(({ x, y }) => x.map((px, i) => [px, y[i]!]));
    expect(points(accent)[3]).toEqual(points(letter)[5]);
    // Nothing but its place differs.
    const before = faceOf(FONTS[2]!).outlineOf(glyph).slice(letter.length);
    const [dx, dy] = [0, 1].map((axis) => points(accent)[0]![axis]! - points(before)[0]![axis]!);
    expect(points(accent)).toEqual(points(before).map(([x, y]) => [x! + dx!, y! + dy!]));
    expect([dx, dy]).not.toEqual([0, 0]);
  });
});

describe('a text as pixels', () => {
  it('has the ink that its outlines enclose', () => {
    const face = faceOf(FONTS[0]!);
    const bitmap = textBitmap(face, 'H', 1000, 1000)!;
    const ink = bitmap.rows.reduce((sum, byte) => sum + byte.toString(2).replaceAll('0', '').length, 0);
    // Stems and bar of the H are rectangles: the area by Gauss's formula.
    const area = face.outlineOf(face.glyphOf(72)).reduce((sum, { x, y }) => {
      return (
        sum + x.reduce((twice, px, i) => twice + px * y[(i + 1) % y.length]! - x[(i + 1) % x.length]! * y[i]!, 0) / 2
      );
    }, 0);
    expect(ink / 1e6).toBeCloseTo(Math.abs(area) / 1e6, 3);
  });

  it('is nothing where there is no ink', () => {
    expect(textBitmap(faceOf(FONTS[0]!), '  ', 100, 100)).toBeUndefined();
  });
});
