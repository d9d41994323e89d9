import { join } from 'node:path';
import { PageBuilder, placeView, type Drawing, type PageText } from '../../src/index';
import { scaling } from '../../src/geometry/affine';
import { textAdvance } from '../../src/text/layout';
import { dxf, groups, read } from '../support/dxf';
import { bytesAt, runScript, temporaryFolder } from '../support/ezdxf';
import { FONTS } from '../support/fonts';
import { composedLayout } from '../support/sheets';

/** The texts of a drawing at one mm to a unit, as they come to lie. */
function textsOf(drawing: Drawing): PageText[] {
  const builder = new PageBuilder(2000, 2000);
  placeView(builder, FONTS, drawing, drawing.spaces[0]!.entities, scaling(1), undefined, new Set());
  return builder.build().texts;
}

const placed = (raw: string, ...more: [number, string | number][]): PageText[] =>
  textsOf(
    read(dxf({ entities: groups([0, 'MTEXT'], [8, '0'], [10, 100], [20, 100], [40, 10], [71, 1], ...more, [1, raw]) }))
      .drawing,
  );
const xs = (texts: PageText[]): [string, number][] => texts.map(({ text, x }) => [text.trim(), Math.round(x) / 100]);
/** Width of a text over the size of its letters. */
const widthOf = (text: string): number => textAdvance(FONTS, 'sans', text);
const end = ({ x, advance, a }: PageText): number => (x + advance * a) / 100;

describe('columns and R12 viewports written by ezdxf', () => {
  const folder = temporaryFolder();
  const columns = JSON.parse(runScript('write_columns.py', folder)) as Record<string, [number, number][]>;
  const open = (name: string): Drawing => read(bytesAt(join(folder, `${name}.dxf`))).drawing;

  it.each(['R2010', 'R2018'])('%s: each column of a text begins where ezdxf says', (version) => {
    const texts = textsOf(open(version));
    expect(xs(texts)).toEqual(['one', 'two', 'three'].map((text, i) => [text, columns[version]![i]![0]]));
    for (const { y } of texts) expect(y / 100).toBeCloseTo(200 - 2.5, 2);
  });

  it('R12: the paper space is a sheet by its limits, its viewport shows what its extended data say', () => {
    const drawing = open('R12');
    const { page } = composedLayout(drawing, 'Layout1', 'mm');
    expect([page.widthMm, page.heightMm]).toEqual([420, 297]);
    const line = [...page.kind.keys()].find((mark) => page.coordStart[mark + 1]! - page.coordStart[mark]! === 4)!;
    const at = page.coordStart[line]!;
    // 2 000 units over 200 mm: a tenth; the middle 1500, 600 lies at 200, 150.
    expect([...page.coords.subarray(at, at + 4)].map((v) => v / 100)).toEqual([150, 140, 250, 140]);
    const viewport = drawing.spaces[1]!.entities.find(({ kind }) => kind === 'viewport');
    const frozen = viewport?.kind === 'viewport' ? viewport.frozen : [];
    expect(frozen.map((layer) => drawing.layers[layer]!.name)).toEqual(['A-FURN']);
  });

  it('R12: a viewport that is not a plan view is reported, one that is a plan is not', () => {
    const { warnings } = read(bytesAt(join(folder, 'R12.dxf')));
    expect(warnings.map(({ code }) => code)).toEqual(['dxf.viewport']);
    expect(warnings[0]!.sentence).toContain('from another side');
  });
});

describe('paragraphs', () => {
  it('hang behind their number, which a tab leads on from: lists', () => {
    const texts = placed('\\pi-2,l2,t2;1.^Ialpha beta', [41, 60]);
    expect(xs(texts).slice(0, 3)).toEqual([
      ['1.', 100],
      ['alpha', 120],
      ['beta', 120],
    ]);
    expect(texts[2]!.y).toBeLessThan(texts[1]!.y);
  });

  it('step from tab to tab, four heights apart where none is set', () => {
    expect(xs(placed('a^Ib^Ic'))).toEqual([
      ['a', 100],
      ['b', 140],
      ['c', 180],
    ]);
  });

  it('centre and flush right at tabs of those kinds', () => {
    const [, centred, right] = placed('\\pt,c10,r20;a^Ibollard^Irail');
    expect((centred!.x / 100 + end(centred!)) / 2).toBeCloseTo(200, 1);
    expect(end(right!)).toBeCloseTo(300, 1);
  });

  it('that are flush right stand by their letters, not by the space they break at', () => {
    // `alpha` and `beta` each on a line of its own, 60 wide.
    const texts = placed('\\pqr;{\\C1;alpha} beta', [41, 60]);
    const rights = texts.map((text) => (text.x + widthOf(text.text.trimEnd()) * text.size * text.a) / 100);
    for (const right of rights) expect(right).toBeCloseTo(160, 1);
  });

  it('are aligned within the width of the text', () => {
    const [left, centre, right] = placed('\\pql;ab\\P\\pqc;ab\\P\\pqr;ab', [41, 200]);
    expect(left!.x / 100).toBeCloseTo(100, 2);
    expect((centre!.x / 100 + end(centre!)) / 2).toBeCloseTo(200, 1);
    expect(end(right!)).toBeCloseTo(300, 1);
  });

  it('begin the next column when one is full', () => {
    const columns: [number, string | number][] = [
      [1, 'a\\Pb\\Pc\\Pd\\Pe'],
      [101, 'Embedded Object'],
      [71, 2],
      [72, 2],
      [44, 50],
      [45, 10],
      [42, 110],
      [73, 1],
      [74, 0],
      [41, 45],
    ];
    const raw = groups([0, 'MTEXT'], [8, '0'], [10, 0], [20, 0], [40, 10], [71, 1], ...columns);
    // 10 + 2 × 16.67 ≤ 45: three lines fit into the first.
    expect(xs(textsOf(read(dxf({ entities: raw })).drawing)).map(([, x]) => x)).toEqual([0, 0, 0, 60, 60]);
  });
});
