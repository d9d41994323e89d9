import { placementOfPage, resizingOnto, type PageOptions } from '../../src/index';

const A1 = { width: 841, height: 594 };
const PLOTTER = {
  plotters: [{ id: 'ours', name: 'Ours', margins: [17, 5, 5, 10] as [number, number, number, number] }],
};

function onto(options: PageOptions, plotter = 'ours') {
  const placement = placementOfPage({ pages: { s: options } }, 's', { ...PLOTTER, plotter });
  return placement && resizingOnto(A1, placement);
}

describe('A page within what its plotter can print on', () => {
  it('is fitted into the printable area of a paper and lies in its middle', () => {
    const { factor, dx, dy } = onto({ paper: { name: 'A3', orientation: 'landscape' }, within: 'printable' })!;
    // 420 × 297 mm without 17 and 5, 5 and 10 mm.
    expect(factor).toBeCloseTo(Math.min(398 / 841, 282 / 594), 9);
    expect(dx).toBeCloseTo(17 + (398 - 841 * factor) / 2, 9);
    expect(dy).toBeCloseTo(5 + (282 - 594 * factor) / 2, 9);
    expect([dx + 841 * factor <= 415.000001, dy + 594 * factor <= 287.000001]).toEqual([true, true]);
  });

  it('lies in the corner of that area at a stated size', () => {
    const lower = onto({ percent: 50, corner: 'lower-left', within: 'printable' })!;
    expect([lower.factor, lower.dx, lower.dy]).toEqual([0.5, 17, 5]);
    const upper = onto({ percent: 50, corner: 'upper-right', within: 'printable' })!;
    expect([upper.dx, upper.dy]).toEqual([841 - 5 - 420.5, 594 - 10 - 297]);
  });

  it('is put on the whole paper where margins would leave nothing of it', () => {
    const narrow = { name: 'A4', orientation: 'portrait' as const };
    const plotters = [{ id: 'wide', name: 'Wide', margins: [150, 0, 150, 0] as [number, number, number, number] }];
    const options = { pages: { s: { paper: narrow, within: 'printable' as const } } };
    const placement = placementOfPage(options, 's', { plotters, plotter: 'wide' })!;
    expect(resizingOnto({ width: 594, height: 841 }, placement)!.factor).toBeCloseTo(297 / 841, 9);
  });

  it('is reduced on its own paper too, and left alone where nothing is out of reach', () => {
    expect(onto({ within: 'printable' })!.factor).toBeCloseTo(Math.min(819 / 841, 579 / 594), 9);
    expect(onto({ within: 'printable' }, 'edge')).toBeUndefined();
    expect(onto({})).toBeUndefined();
  });
});
