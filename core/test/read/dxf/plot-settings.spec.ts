import { GroupReader } from '../../../src/read/dxf/groups';
import { plotSettingsOf } from '../../../src/read/dxf/layouts';
import { Record } from '../../../src/read/dxf/record';
import { bytesOf, dxf, groups, laidOut, line, read } from '../../support/dxf';
import { composedLayout } from '../../support/sheets';

describe('plot settings', () => {
  const stated = (...more: [number, number | string][]) => {
    const text = groups([0, 'LAYOUT'], [44, 297], [45, 420], [40, 1], [41, 2], [42, 3], [43, 4], [72, 1], ...more);
    const reader = new GroupReader(bytesOf(text), new TextDecoder());
    reader.next();
    const views = new Map([['east', { xmin: 10, ymin: 20, xmax: 30, ymax: 60 }]]);
    return plotSettingsOf(new Record(reader).read(), (name) => views.get(name));
  };
  const settings = (...more: [number, number | string][]) => stated(...more).plot;

  it('turn the sheet and its margins', () => {
    expect(settings()).toEqual({ paper: { width: 297, height: 420 }, originX: 1, originY: 2, mmPerUnit: 1 });
    expect(settings([73, 1])).toMatchObject({ paper: { width: 420, height: 297 }, originX: 2, originY: 3 });
    expect(settings([73, 2])).toMatchObject({ paper: { width: 297, height: 420 }, originX: 3, originY: 4 });
    expect(settings([73, 3])).toMatchObject({ paper: { width: 420, height: 297 }, originX: 4, originY: 1 });
  });

  it('move the origin and scale the plot', () => {
    expect(settings([46, 10], [47, 20], [142, 1], [143, 2])).toMatchObject({
      originX: 11,
      originY: 22,
      mmPerUnit: 0.5,
    });
  });

  // DXF reference, PLOTSETTINGS: code 74 says what is plotted, 48 to 141 hold the corners of a window.
  const window: [number, number][] = [
    [74, 4],
    [48, 100],
    [49, 50],
    [140, 200],
    [141, 250],
  ];

  it('have the corner of a window lie at the margin plus the offset, and nothing outside of it shows', () => {
    const clip = { xmin: 100, ymin: 50, xmax: 200, ymax: 250 };
    expect(settings(...window)).toMatchObject({ originX: 1 - 100, originY: 2 - 50, mmPerUnit: 1, clip });
    const halved = settings(...window, [46, 10], [47, 20], [142, 1], [143, 2]);
    expect(halved).toMatchObject({ originX: 11 - 50, originY: 22 - 25, mmPerUnit: 0.5, clip });
  });

  it('centre what is plotted in the printable area, whatever the offset', () => {
    // 297 x 420 less the margins 1, 2, 3 and 4 leaves 293 x 414.
    const centred = settings(...window, [70, 4], [46, 99], [47, 99]);
    expect(centred).toMatchObject({ originX: 1 + (293 - 100) / 2 - 100, originY: 2 + (414 - 200) / 2 - 50 });
  });

  it('fit what is plotted to the printable area', () => {
    const fitted = settings(...window, [70, 16], [75, 0]);
    expect(fitted!.mmPerUnit).toBeCloseTo(Math.min(293 / 100, 414 / 200), 12);
    expect(fitted!.originX).toBeCloseTo(1 - 100 * 2.07, 9);
    // Any other standard scale is the one that is stated.
    expect(settings(...window, [70, 16], [75, 16], [142, 1], [143, 4])!.mmPerUnit).toBe(0.25);
  });

  it('plot extents, limits and named views like windows', () => {
    const corners = { xmin: 5, ymin: 6, xmax: 25, ymax: 46 };
    expect(settings([74, 1], [14, 5], [24, 6], [15, 25], [25, 46])!.clip).toEqual(corners);
    expect(settings([74, 2], [10, 5], [20, 6], [11, 25], [21, 46])!.clip).toEqual(corners);
    expect(settings([6, 'east'], [74, 3])).toMatchObject({ originX: 1 - 10, originY: 2 - 20 });
  });

  it('show the whole layout where what is plotted is not in the file, and say so', () => {
    expect(stated([74, 0])).toMatchObject({ plot: { originX: 1 }, unfound: 'what was on the screen last' });
    expect(stated([74, 1], [14, 1e20], [24, 1e20], [15, -1e20], [25, -1e20]).unfound).toContain('extents');
    expect(stated([6, 'west'], [74, 3]).unfound).toContain('named view');
    expect(stated([74, 5]).unfound).toBeUndefined();
  });

  it('scale line weights where they say so', () => {
    expect(settings([70, 64], [142, 1], [143, 2])).toMatchObject({ weightFactor: 0.5 });
    expect(settings([142, 1], [143, 2])).not.toHaveProperty('weightFactor');
  });
});

describe('a layout of which a window is plotted at half size', () => {
  const plotted = laidOut(
    'Half',
    ...([
      [44, 100],
      [45, 100],
      [70, 64],
      [72, 1],
      [74, 4],
    ] as const),
    ...([
      [48, 20],
      [49, 20],
      [140, 60],
      [141, 60],
      [142, 1],
      [143, 2],
    ] as const),
  );
  const text = dxf({ ...plotted, entities: line(0, 40, 100, 40, [67, 1], [370, 50]) });

  it('shows that window at the corner of its paper, with lines half as heavy', () => {
    const { drawing, warnings } = read(text);
    expect(warnings).toEqual([]);
    const { page } = composedLayout(drawing, 'Half');
    expect([...page.coords].map((v) => v / 100)).toEqual([-10, 10, 40, 10]);
    expect(page.clips[0]).toEqual([[[0, 0, 2000, 2000]]]);
    expect(page.pens.map(({ width }) => width)).toContain(25);
  });
});

describe('a layout with something transparent on it', () => {
  // 50 % (code 440: 0x02 in the highest byte, alpha in the lowest).
  const glass = line(0, 40, 100, 40, [67, 1], [440, 0x0200007f]);
  const opacities = (...switched: [number, number | string][]): number[] => {
    const plotted = laidOut('Glass', [44, 100], [45, 100], [72, 1], ...switched);
    const { page } = composedLayout(read(dxf({ ...plotted, entities: glass })).drawing, 'Glass');
    return page.pens.map(({ opacity }) => opacity).filter((opacity) => opacity !== 100);
  };

  it('plots it so where the layout says so, or says nothing', () => {
    expect(opacities([1001, 'PLOTTRANSPARENCY'], [1071, 1])).toEqual([50]);
    expect(opacities()).toEqual([50]);
  });

  it('plots it solid where the layout does not plot transparency', () => {
    expect(opacities([1001, 'PLOTTRANSPARENCY'], [1071, 0])).toEqual([]);
  });
});
