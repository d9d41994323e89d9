import type { View } from '../../../src/index';
import { dxf, groups, laidOut, line, read, table, viewport } from '../../support/dxf';
import { composed, composedLayout, VIEW } from '../../support/sheets';

describe('a viewport', () => {
  it('with a number that is not one is reported, not dropped in silence', () => {
    const bad = viewport({ cx: NaN, cy: 0, size: 10, shown: 10 });
    const { warnings } = read(dxf({ entities: bad }));
    expect(warnings).toEqual([
      expect.objectContaining({ code: 'dxf.bad-number', place: expect.objectContaining({ handle: 'V1' }) }),
    ]);
  });
});

describe('a viewport cut by an outline', () => {
  const circle = groups([0, 'CIRCLE'], [5, 'C1'], [8, '0'], [67, 1], [10, 100], [20, 100], [40, 40]);
  const drawn = (outline: string) => {
    const seen = viewport({ cx: 100, cy: 100, size: 100, shown: 100 }, [90, 0x10000], [340, outline], [12, 0], [22, 0]);
    const parts = laidOut('Round', [44, 200], [45, 200], [72, 1]);
    const { drawing } = read(dxf({ ...parts, entities: line(-500, 0, 500, 0) + circle + seen }));
    return composedLayout(drawing, 'Round');
  };

  it('shows the model inside the outline only', () => {
    const { page, warnings } = drawn('C1');
    expect(warnings).toEqual([]);
    const [outline, box] = page.clips[0]!;
    expect(box).toEqual([[5000, 5000, 15_000, 15_000]]);
    const [loop] = outline!;
    for (let i = 0; i < loop!.length; i += 2) {
      // A circle of 40 mm about (100, 100), to the hundredth of a millimetre.
      expect(Math.abs(Math.hypot(loop![i]! - 10_000, loop![i + 1]! - 10_000) - 4000)).toBeLessThan(1.5);
    }
    expect(loop!.length).toBeGreaterThan(40);
  });

  it('that is not there is shown within its box, and that is reported', () => {
    const { page, warnings } = drawn('FFF');
    expect(warnings.map(({ code }) => code)).toEqual(['sheet.viewport-outline']);
    expect(page.clips[0]).toEqual([[[5000, 5000, 15_000, 15_000]]]);
  });
});

describe('a viewport that is not a plan view', () => {
  const seen = (...more: [number, number][]): string => viewport({ cx: 5, cy: 5, size: 10, shown: 10 }, ...more);

  it.each([
    ['from another side', 'looks at the model from another side', [16, 1], [26, -1], [36, 1]],
    ['from below', 'looks at the model from another side', [16, 0], [26, 0], [36, -1]],
    ['in perspective', 'shows the model in perspective', [90, 1]],
  ] as [string, string, ...[number, number][]][])('is reported: %s', (_, words, ...more) => {
    const { warnings } = read(dxf({ entities: seen(...more) }));
    expect(warnings).toMatchObject([{ code: 'dxf.viewport', place: { handle: 'V1' } }]);
    expect(warnings[0]!.sentence).toContain(words);
  });

  it('is not reported where it is a plan, twisted or not', () => {
    expect(read(dxf({ entities: seen([16, 0], [26, 0], [36, 1], [51, 30]) })).warnings).toEqual([]);
  });
});

describe('dashes that are measured on the paper', () => {
  const dashed = (onPaper: number, onLayout = ''): string => {
    const { tables, objects } = laidOut('L', [44, 200], [45, 200], [72, 1]);
    return dxf({
      header: groups([9, '$PSLTSCALE'], [70, onPaper]),
      tables: tables + table('LTYPE', groups([0, 'LTYPE'], [2, 'DASHED'], [49, 6], [49, -3])),
      entities: line(0, 0, 1000, 0, [6, 'DASHED']) + onLayout + viewport({ cx: 100, cy: 100, size: 100, shown: 5000 }),
      objects,
    });
  };
  /** Dashes of the line on the page, mm: seen through the viewport at 1:50, and in a view of its own at 1:20. */
  const dashesOf = (onPaper: number): number[][][] => {
    const { drawing } = read(dashed(onPaper));
    const view: View = { ...VIEW, window: 'extents', scale: '1:20', at: 'centre' };
    const pages = [composedLayout(drawing, 'L', 'mm'), composed(drawing, { views: [view] })];
    return pages.map(({ page }) =>
      page.pens.filter(({ dashes }) => dashes.length > 0).map(({ dashes }) => dashes.map((dash) => dash / 100)),
    );
  };

  it('are as long in a view of its own as in a layout (DXF reference, $PSLTSCALE)', () => {
    expect(dashesOf(1)).toEqual([[[6, 3]], [[6, 3]]]);
  });

  it('are scaled with the paper in a view of the layout itself', () => {
    const { drawing } = read(dashed(1, line(0, 0, 100, 0, [6, 'DASHED'], [67, 1])));
    const view: View = { ...VIEW, space: 'L', window: 'extents', scale: '1:2', at: 'centre' };
    const { pens } = composed(drawing, { views: [view] }).page;
    expect(pens.flatMap(({ dashes }) => (dashes.length > 0 ? [dashes] : []))).toEqual([[300, 150]]);
  });

  it('follow the scale of each view where they are measured in the model', () => {
    expect(dashesOf(0)).toEqual([[[0.12, 0.06]], [[0.3, 0.15]]]);
  });
});
