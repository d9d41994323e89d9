import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { shippedSubstitute } from '../../src/text/fonts';
import { textAdvance } from '../../src/text/layout';
import { FONTS } from '../support/fonts';

const require = createRequire(import.meta.url);
const SAMPLE = 'Section through departure hall, level 2: door schedule see A-501. SCALE 1:50, FFL +3.450';

/** Width of the sample over the height of capitals, as a stand-in sets it. */
function ours(wanted: string): number {
  const { font, width } = shippedSubstitute(wanted);
  return (textAdvance(FONTS, font, SAMPLE) * FONTS.face(font).unitsPerEm * width) / FONTS.face(font).capHeight;
}

/** The same by the font metrics that Adobe publishes (Core 14 AFM), as pdfkit carries them. */
function published(name: string): number {
  const afm = readFileSync(join(dirname(require.resolve('pdfkit')), `data/${name}.afm`), 'utf8');
  const widths = new Map(
    [...afm.matchAll(/^C (\d+) ; WX (\d+)/gm)].map(([, code, width]) => [Number(code), Number(width)]),
  );
  const capHeight = Number(/^CapHeight (\d+)/m.exec(afm)![1]);
  return [...SAMPLE].reduce((sum, character) => sum + widths.get(character.charCodeAt(0))!, 0) / capHeight;
}

describe('typefaces that stand in for those a drawing asks for', () => {
  it.each([
    ['simplex.shx', 'technical'],
    ['txt', 'technical'],
    ['isocp.shx', 'technical'],
    ['Arial', 'sans'],
    ['arial.ttf', 'sans'],
    ['Some Unknown Face', 'sans'],
    ['MS Sans Serif', 'sans'],
    ['Arial Narrow', 'condensed'],
    ['Times New Roman', 'serif'],
    ['romanc.shx', 'serif'],
    ['Courier New', 'mono'],
    ['monotxt.shx', 'mono'],
  ])('%s: %s', (wanted, font) => {
    expect(shippedSubstitute(wanted).font).toBe(font);
  });

  it.each([
    ['Arial', 'Helvetica'],
    ['Times New Roman', 'Times-Roman'],
    ['Courier New', 'Courier'],
  ])('%s takes the room of %s or up to a tenth less', (wanted, metrics) => {
    const ratio = ours(wanted) / published(metrics);
    expect(ratio).toBeGreaterThan(0.9);
    expect(ratio).toBeLessThanOrEqual(1.005);
  });

  it('stroked lettering takes the room of Roman simplex or a little less', () => {
    // Widths over a height of capitals of 21, from A. V. Hershey's Roman simplex alphabet (NBS 1967; from memory).
    const capitals = {
      A: 18,
      B: 21,
      C: 21,
      D: 21,
      E: 19,
      F: 18,
      G: 21,
      H: 22,
      I: 8,
      L: 17,
      M: 24,
      N: 22,
      O: 22,
      R: 21,
      S: 20,
      T: 16,
      V: 18,
    };
    const text = 'DOOR SCHEDULE LEVEL CORE'.replace(/[ U]/g, '');
    const simplex = [...text].reduce((sum, c) => sum + capitals[c as keyof typeof capitals], 0) / 21;
    const { font, width } = shippedSubstitute('simplex.shx');
    const set = (textAdvance(FONTS, font, text) * FONTS.face(font).unitsPerEm * width) / FONTS.face(font).capHeight;
    expect(set / simplex).toBeGreaterThan(0.85);
    expect(set / simplex).toBeLessThanOrEqual(1);
  });
});
