import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import * as fontkit from 'fontkit';
import { readFontFace } from '../../src/index';
import { textBitmap } from '../../src/text/bitmap';
import { drawOutline } from '../../src/text/glyph-outlines';

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
