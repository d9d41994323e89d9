import {
  contextOf,
  matchesPattern,
  pagePlaces,
  tableRows,
  type ComposedSheet,
  type Drawing,
  type Note,
  type Sheet,
  type View,
} from '../../src/index';
import { block, dxf, groups, layer, line, read } from '../support/dxf';
import { composed, PROJECT, SHEET, VIEW } from '../support/sheets';

const drawn = (parts: Parameters<typeof dxf>[0]): Drawing => read(dxf(parts)).drawing;
const texts = ({ page }: ComposedSheet): string[] => page.texts.map(({ text }) => text);

/** Points of a path mark, mm. */
function points({ page }: ComposedSheet, mark: number): number[] {
  return [...page.coords.subarray(page.coordStart[mark], page.coordStart[mark + 1])].map((v) => v / 100);
}

describe('a view cut by an outline', () => {
  const drawing = drawn({ entities: line(0, 0, 10_000, 0) + line(0, 2000, 10_000, 2000) });
  const outline: View['outline'] = [
    [1000, -100],
    [3000, -100],
    [2000, 900],
  ];

  it('shows nothing beyond it, at the place and scale of its window', () => {
    const made = composed(drawing, { views: [{ ...VIEW, outline }] });
    // The line at 2000 lies wholly above the outline.
    expect(made.page.markCount).toBe(1);
    const clip = made.page.clips[made.page.clip[0]! - 1]!;
    // 1:50 from (100, 100): 1000 mm are 20 mm on the paper.
    expect(clip.map(([loop]) => loop)).toContainEqual([12_000, 9800, 16_000, 9800, 14_000, 11_800]);
  });

  it('takes the box of the outline as its window where it shows all', () => {
    const made = composed(drawing, { views: [{ ...VIEW, window: 'extents', outline }] });
    expect(made.views[0]!.box).toEqual({ xmin: 100, ymin: 100, xmax: 140, ymax: 120 });
  });

  it('has a line round it where that is asked for, and none otherwise', () => {
    const layers = (view: Partial<View>): string[] =>
      composed(drawing, { views: [{ ...VIEW, ...view }] }).page.layers.map(({ name }) => name);
    expect(layers({ outline, border: true })).toContain('View borders');
    expect(layers({ outline })).not.toContain('View borders');
  });
});

describe('lettering that is sized for the paper', () => {
  const text = (...more: readonly (readonly [number, string | number])[]): string =>
    groups([0, 'TEXT'], [8, 'A-ANNO'], [10, 1000], [20, 500], [40, 125], [1, 'Hall'], ...more);
  // Closed arrowhead of a dimension, its tip at (4000, 0); DXF: the block of a dimension begins with *D.
  const arrow = groups([0, 'SOLID'], [8, '0'], [10, 4000], [20, 0], [11, 3750], [21, 40], [12, 3750], [22, -40]);
  const dimension = groups([0, 'DIMENSION'], [8, 'A-DIMS'], [2, '*D1'], [70, 0], [10, 0], [20, 0]);
  const drawing = drawn({
    layers: layer('A-ANNO') + layer('A-DIMS'),
    blocks: block('*D1', arrow),
    entities: text() + dimension,
  });
  const made = (lettering?: View['lettering'], scale = '1:100'): ComposedSheet =>
    composed(drawing, { views: [{ ...VIEW, scale, ...(lettering && { lettering }) }] });

  it('has the height that the scale it was drawn for gives it, and stays at its anchor', () => {
    // 125 mm at 1:50 are 2.5 mm; at 1:100 they would be 1.25.
    const [grown, kept] = [made(), made({ scale: '1:50' })].map(({ page }) => page.texts[0]!);
    expect(Math.abs(kept!.size - 2 * grown!.size)).toBeLessThanOrEqual(1);
    expect([kept!.x, kept!.y]).toEqual([grown!.x, grown!.y]);
    expect([kept!.x, kept!.y]).toEqual([11_000, 10_500]);
    expect(made({ scale: '1:50' }, '1:50').page.texts[0]!.size).toBe(kept!.size);
  });

  it('counts arrowheads in, which keep pointing at the very place', () => {
    const [grown, kept] = [points(made(), 1), points(made({ scale: '1:50' }), 1)];
    expect(grown).toEqual([140, 100, 137.5, 100.4, 137.5, 99.6, 137.5, 99.6]);
    expect(kept).toEqual([140, 100, 135, 100.8, 135, 99.2, 135, 99.2]);
  });

  it('may be meant for some layers only, by patterns', () => {
    const some = made({ scale: '1:50', layers: ['a-dim*'] });
    expect(some.page.texts[0]!.size).toBe(made().page.texts[0]!.size);
    expect(points(some, 1)).toEqual([140, 100, 135, 100.8, 135, 99.2, 135, 99.2]);
  });

  it('says what is not a scale', () => {
    expect(() => made({ scale: 'large' })).toThrow('is not a scale');
  });
});

describe('patterns of names', () => {
  it.each([
    ['A-*', 'a-wall', true],
    ['*WALL', 'A-WALL', true],
    ['A-?ALL', 'A-WALL', true],
    ['A-WALL', 'A-WALL-FIRE', false],
    ['*a*b*', 'xxaxxbxx', true],
    ['*a*b', 'xxaxxbxx', false],
    ['', '', true],
    ['?', '', false],
  ])('%s and %s: %s', (pattern, name, expected) => expect(matchesPattern(pattern, name)).toBe(expected));
});

describe('reference marks', () => {
  const target: Sheet = {
    ...SHEET,
    id: 't',
    number: 'A-501',
    views: [{ ...VIEW, id: 'eaves', number: '2', label: 'Eaves' }],
  };
  const mark: Note = { id: 'n', kind: 'mark', at: [300, 300], refers: { sheet: 't', view: 'eaves' } };
  const shown = (others: Sheet[], note = mark): ComposedSheet => {
    const sheet = { ...SHEET, notes: [note] };
    return composed(drawn({}), sheet, { context: contextOf(PROJECT, sheet, others) });
  };

  it('show the number of the view above that of its sheet, and follow both', () => {
    expect(texts(shown([target]))).toEqual(['2', 'A-501']);
    const renumbered = { ...target, number: 'A-510', views: [{ ...target.views[0]!, number: '7' }] };
    expect(texts(shown([renumbered]))).toEqual(['7', 'A-510']);
    expect(texts(shown([target], { ...mark, refers: { sheet: 't' } }))).toEqual(['A-501']);
  });

  it('show a question mark and a warning where what they refer to is gone', () => {
    for (const made of [shown([]), shown([{ ...target, views: [] }])]) {
      expect(texts(made)).toEqual(['?']);
      expect(made.warnings).toMatchObject([{ code: 'mark.dangling' }]);
    }
  });

  it('have the view say its number in a ring before its title', () => {
    const made = composed(drawn({ entities: line(0, 0, 9000, 0) }), {
      views: [{ ...VIEW, label: 'Eaves', number: '2' }],
    });
    expect(texts(made)).toEqual(['2', 'Eaves', '1:50']);
  });
});

describe('page n of m', () => {
  const sheet: Sheet = { ...SHEET, titleBlock: { fields: {} } };
  const shown = (order: string[]): string[] =>
    texts(
      composed(drawn({}), sheet, {
        context: contextOf(PROJECT, sheet, [sheet], pagePlaces([{ order }]).get(sheet.id)),
      }),
    );

  it('stands in the title block of a sheet that a package holds, and is blank in none', () => {
    expect(shown(['x', 's', 'y'])).toContain('2 of 3');
    expect(shown([]).join()).not.toMatch(/\d of \d/);
  });

  it('is looked up only where a title block tells it, so that moving a page makes no other anew', () => {
    expect(contextOf(PROJECT, SHEET, [], { page: 1, pages: 1 })).toEqual({});
    const places = pagePlaces([{ order: ['x'] }, { order: ['y', 's'] }, { order: ['s'] }]);
    expect(places.get('s')).toEqual({ page: 2, pages: 2 });
  });
});

describe('tables', () => {
  it('take values apart at commas, semicolons or tabs, quoted ones whole', () => {
    const rows = [
      ['Door', 'Size'],
      ['D1', '900, single'],
    ];
    expect(tableRows('Door,Size\nD1,"900, single"\n')).toEqual(rows);
    expect(tableRows('Door;Size\r\nD1;"900, single"')).toEqual(rows);
    expect(tableRows('Door\tSize\nD1\t900, single')).toEqual(rows);
    expect(tableRows('a,b\nc')).toEqual([
      ['a', 'b'],
      ['c', ''],
    ]);
    expect(tableRows('')).toEqual([]);
  });

  it('hang from their upper left corner, two capital heights a row, as wide as is asked for', () => {
    const note: Note = { id: 'n', kind: 'table', at: [50, 200], text: 'Door,Width\nD1,900\nD2,1000', width: 80 };
    const made = composed(drawn({}), { notes: [note] });
    expect(texts(made)).toEqual(['Door', 'Width', 'D1', '900', 'D2', '1000']);
    const { box } = made.notes[0]!;
    expect([box.xmin, box.ymax, box.ymax - box.ymin]).toEqual([50, 200, 15]);
    expect(box.xmax).toBeCloseTo(130, 6);
    // Numbers are set to the right: both end at the same place.
    const ends = made.page.texts.filter(({ text }) => /^\d+$/.test(text)).map(({ x, advance }) => x + advance);
    expect(ends[0]).toBeCloseTo(ends[1]!, -1);
  });
});

describe('text styles and pictures among notes', () => {
  it('letter a note by its style, own ones before the shipped, a height of its own before both', () => {
    const note: Note = { id: 'n', kind: 'text', at: [50, 200], text: 'HALL', style: 'heading' };
    const size = (more: Partial<Note>, project = PROJECT): number =>
      composed(drawn({}), { notes: [{ ...note, ...more }] }, { project }).page.texts[0]!.size;
    expect(size({}) / size({ size: 2.5 })).toBeCloseTo(2, 1);
    const textStyles = [{ id: 'heading', name: 'Heading', size: 10, font: 'condensed' as const, colour: 0xaa0000 }];
    const own = composed(drawn({}), { notes: [note] }, { project: { ...PROJECT, textStyles } });
    expect(own.page.texts[0]!.size / size({})).toBeCloseTo(2, 1);
    expect(own.page.pens[own.page.pen[0]!]!.colour).toBe(0xaa0000);
  });

  it('fit a drawing into their rectangle, and warn of one that is gone', () => {
    const picture: Note = { id: 'n', kind: 'picture', at: [100, 100], to: [200, 150], drawing: 'd' };
    const made = composed(drawn({ entities: line(0, 0, 1000, 0) + line(0, 1000, 1000, 1000) }), { notes: [picture] });
    expect(points(made, 0)).toEqual([125, 100, 175, 100]);
    const gone = composed(drawn({}), { notes: [{ ...picture, drawing: 'x' }] });
    expect(gone.warnings).toMatchObject([{ code: 'note.drawing' }]);
  });
});
