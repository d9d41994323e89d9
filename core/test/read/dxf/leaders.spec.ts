import { extentsOf, PageBuilder, placeView, type Entity, type PathEntity, type TextEntity } from '../../../src/index';
import { scaling } from '../../../src/geometry/affine';
import { dxf, groups, line, read } from '../../support/dxf';
import { drawnBy } from '../../support/ezdxf';
import { FONTS } from '../../support/fonts';

interface Oracle {
  text: string;
  insert: [number, number];
  height: number;
  vertices: [number, number][];
  last: [number, number];
  arrow: number;
}

describe('a drawing written by ezdxf', () => {
  const { bytes, facts: oracle } = drawnBy<Oracle>('write_leaders.py');
  const { drawing, warnings } = read(bytes);
  const { entities } = drawing.spaces[0]!;
  const layerOf = ({ style }: Entity): string => drawing.layers[style.layer]!.name;

  it('shows a MULTILEADER with its line, arrowhead and text where ezdxf says', () => {
    expect(warnings).toEqual([]);
    const text = entities.find(({ kind }) => kind === 'text') as TextEntity;
    expect(text.lines).toEqual(oracle.text.split('\\P'));
    expect([text.x, text.y, text.height]).toEqual([...oracle.insert, oracle.height].map((v) => expect.closeTo(v, 9)));
    const path = entities.find(({ kind }) => kind === 'path') as PathEntity;
    const [x, y] = oracle.vertices[0]!;
    expect([...path.coords.slice(0, 4)]).toEqual([x, y, ...oracle.last].map((v) => expect.closeTo(v, 9)));
    const arrow = entities.find(({ kind }) => kind === 'fill');
    const corners = arrow?.kind === 'fill' ? arrow.loops[0]! : new Float64Array(0);
    expect([corners[0], corners[1]]).toEqual([expect.closeTo(x, 9), expect.closeTo(y, 9)]);
    const middle = [(corners[3]! + corners[6]!) / 2, (corners[4]! + corners[7]!) / 2];
    expect(Math.hypot(middle[0]! - x, middle[1]! - y)).toBeCloseTo(oracle.arrow, 9);
  });

  it('follows its draw order: what was sent to the back comes first', () => {
    const lines = entities.filter(({ kind }) => kind === 'line').map(layerOf);
    expect(lines).toEqual(['B', 'A', 'C']);
    expect(layerOf(entities[0]!)).toBe('B');
  });

  it('shows how far an entity is see-through', () => {
    const seeThrough = entities.find((entity) => layerOf(entity) === 'C')!;
    expect(seeThrough.style.opacity).toBe(50);
  });
});

describe('text of several looks', () => {
  const placed = (raw: string, ...more: [number, number][]) => {
    const text = groups([0, 'MTEXT'], [8, '0'], [10, 0], [20, 0], [40, 10], [71, 1], ...more, [1, raw]);
    const { drawing } = read(dxf({ entities: text }));
    const builder = new PageBuilder(1000, 1000);
    placeView(builder, FONTS, drawing, drawing.spaces[0]!.entities, scaling(1), undefined, new Set());
    return builder.build();
  };

  it('stands in the heights, colours and fonts of its spans, one behind the other', () => {
    const page = placed('Deck {\\H2x;\\C1;{\\fCourier New;C35}}');
    const [first, second] = page.texts;
    expect([first!.text, second!.text]).toEqual(['Deck ', 'C35']);
    expect(second!.font).toBe('mono');
    const cap = (font: 'sans' | 'mono'): number => FONTS.face(font).capHeight / FONTS.face(font).unitsPerEm;
    expect(first!.size * cap('sans')).toBeCloseTo(1000, -1);
    expect(second!.size * cap('mono')).toBeCloseTo(2000, -1);
    expect(Math.abs(second!.x - first!.x - first!.advance)).toBeLessThanOrEqual(1);
    expect(page.pens[page.pen[1]!]!.colour).toBe(0xff0000);
  });

  it('is underlined by a thin rectangle as wide as the text', () => {
    const page = placed('\\LDatum\\l');
    expect(page.markCount).toBe(2);
    const xs = [...page.coords].filter((_, i) => i % 2 === 0);
    const width = Math.max(...xs) - Math.min(...xs);
    expect(Math.abs(width - page.texts[0]!.advance)).toBeLessThanOrEqual(1);
  });

  it('wraps at its width, whole words at a time', () => {
    const page = placed('{\\C1;alpha} beta gamma delta', [41, 60]);
    const lines = new Set(page.texts.map(({ y }) => y));
    expect(lines.size).toBeGreaterThan(1);
    for (const { x, advance } of page.texts) expect(x + advance).toBeLessThanOrEqual(6000 + 350);
  });

  it('puts the halves of a stack over each other', () => {
    const { texts } = placed('3\\S1/2; in');
    const [, over, under] = texts;
    expect([over!.text, under!.text]).toEqual(['1', '2']);
    expect(over!.x).toBe(under!.x);
    expect(over!.y).toBeGreaterThan(under!.y);
  });
});

describe('extents', () => {
  const street = Array.from({ length: 40 }, (_, i) => line(i * 100, 0, i * 100, 3000)).join('');

  it('leave out one stray point a thousand kilometres away, and name it', () => {
    const stray = groups([0, 'POINT'], [5, 'BAD'], [8, '0'], [10, 1e9], [20, -1e9]);
    const { drawing } = read(dxf({ entities: street + stray }));
    const { box, strays } = extentsOf(drawing, drawing.spaces[0]!.entities, FONTS);
    expect(box).toEqual({ xmin: 0, ymin: 0, xmax: 3900, ymax: 3000 });
    expect(strays).toEqual([{ handle: 'BAD', x: 1e9, y: -1e9 }]);
  });

  it('hold what merely lies apart', () => {
    const { drawing } = read(dxf({ entities: street + line(30_000, 0, 30_100, 0) }));
    const { box, strays } = extentsOf(drawing, drawing.spaces[0]!.entities, FONTS);
    expect([box!.xmax, strays]).toEqual([30_100, []]);
  });
});
