import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import {
  composeSheet,
  type LengthUnit,
  describePaper,
  parseLayoutName,
  type ComposedSheet,
  type Drawing,
  type Sheet,
  viewportScales,
} from '../../../src/index';
import { Record } from '../../../src/read/dxf/record';
import { GroupReader } from '../../../src/read/dxf/groups';
import { plotSettingsOf } from '../../../src/read/dxf/layouts';
import { bytesOf, dxf, groups, line, read, section, table } from '../../support/dxf';
import { FONTS } from '../../support/fonts';

function layoutSheet(layout: string): Sheet {
  const sheet = {
    id: 's',
    number: 'S',
    title: '',
    group: '',
    paper: undefined,
    frame: 'none',
    titleBlock: undefined,
    revision: undefined,
    views: [],
  };
  return { ...sheet, from: { drawing: 'd', layout } } as Sheet;
}

function composed(drawing: Drawing, layout: string, unit?: LengthUnit): ComposedSheet {
  const project = { number: '', name: '', client: '', fields: {} };
  return composeSheet({
    project,
    sheet: layoutSheet(layout),
    fonts: FONTS,
    source: () => ({ drawing, unit }),
  });
}

/** Straight marks on a layer, as x0 y0 x1 y1 in mm. */
function lines({ page }: ComposedSheet, onto: string): number[][] {
  const index = page.layers.findIndex(({ name }) => name === onto);
  return [...page.layer.keys()]
    .filter((mark) => page.layer[mark] === index && page.coordStart[mark + 1]! - page.coordStart[mark]! === 4)
    .map((mark) => [...page.coords.subarray(page.coordStart[mark], page.coordStart[mark + 1])].map((v) => v / 100));
}

/** Layouts written by ezdxf, whose own numbers say where everything must lie. */
describe('layouts taken over as sheets', () => {
  const folder = mkdtempSync(join(tmpdir(), 'folvex-layouts-'));
  const file = join(folder, 'layouts.dxf');
  execFileSync('/usr/bin/python3', [fileURLToPath(new URL('../../support/write_layouts.py', import.meta.url)), file]);
  const { drawing, warnings } = read(new Uint8Array(readFileSync(file)));
  afterAll(() => rmSync(folder, { recursive: true, force: true }));

  it('are found with their paper', () => {
    expect(warnings).toEqual([]);
    const found = drawing.spaces
      .filter(({ kind, plot }) => kind === 'layout' && plot)
      .map(({ name, plot }) => [name, describePaper(plot!.paper)]);
    expect(found).toEqual(
      expect.arrayContaining([
        ['A-101 Ground floor', 'A1'],
        ['A-102', 'A1'],
        ['Detail', 'D (ASME)'],
      ]),
    );
  });

  it('show the model through a viewport at its scale: 12 345 mm at 1:50 are 246.9 mm', () => {
    const sheet = composed(drawing, 'A-101 Ground floor');
    expect(sheet.paper).toEqual({ width: 841, height: 594 });
    const [wall] = lines(sheet, 'A-WALL');
    expect(wall![2]! - wall![0]!).toBeCloseTo(246.9, 2);
    // The view's middle, x = 106 000, lies at the viewport's, 400 mm from the origin, which is 8 mm from the edge.
    expect(wall![0]).toBeCloseTo(8 + 400 - 6000 / 50, 2);
    expect(wall![1]).toBeCloseTo(7 + 300, 2);
  });

  it('tell at which scale each viewport shows the model, where its unit is known', () => {
    const layout = 'A-101 Ground floor';
    expect(composed(drawing, layout).viewports).toEqual([]);
    const { viewports } = composed(drawing, layout, 'mm');
    expect(viewports).toHaveLength(1);
    expect(viewports[0]!.scale).toBeCloseTo(1 / 50, 9);
    const space = drawing.spaces.find(({ name }) => name === layout)!;
    expect(viewportScales(space)).toEqual([expect.closeTo(1 / 50, 9)]);
    // A drawing in metres stands at another scale on the very same paper.
    expect(composed(drawing, layout, 'm').viewports[0]!.scale).toBeCloseTo(1 / 50_000, 12);
  });

  it('leave out what a viewport freezes, and draw its border', () => {
    const sheet = composed(drawing, 'A-101 Ground floor');
    expect(lines(sheet, 'A-FURN')).toEqual([]);
    const border = [...sheet.page.coords].map((v) => v / 100);
    expect(border.join(' ')).toContain('258 207 558 207 558 407 258 407');
    expect(sheet.page.texts.map(({ text, x, y }) => [text, x / 100, y / 100])).toContainEqual(['Sheet note', 108, 57]);
  });

  it('turn with the twist of their viewport, about its target', () => {
    const [wall] = lines(composed(drawing, 'A-102'), 'A-WALL');
    // 15 000 units on 300 mm are 1:50; turned a quarter, the wall runs up from the viewport's middle and leaves it.
    expect(wall!.map((v) => Math.round(v * 100) / 100)).toEqual([400, 300, 400, 300 + 246.9]);
  });

  it('measure in inches where they are laid out in inches', () => {
    const sheet = composed(drawing, 'Detail');
    expect([sheet.paper.width, sheet.paper.height].map((v) => Math.round(v * 10) / 10)).toEqual([863.6, 558.8]);
    expect(lines(sheet, '0')).toEqual([[25.4, 25.4, 279.4, 25.4]]);
  });

  it('that are not there are refused with those that are', () => {
    expect(() => composed(drawing, 'A-999')).toThrow(/has no layout "A-999"; it has .*A-102/);
  });
});

describe('a viewport', () => {
  it('with a number that is none is told, not dropped in silence', () => {
    const viewport = groups(
      [0, 'VIEWPORT'],
      [5, 'V1'],
      [8, '0'],
      [10, 'NaN'],
      [20, 0],
      [40, 10],
      [41, 10],
      [45, 10],
      [68, 2],
      [69, 2],
    );
    const { warnings } = read(dxf({ entities: viewport }));
    expect(warnings).toEqual([
      expect.objectContaining({ code: 'dxf.bad-number', place: expect.objectContaining({ handle: 'V1' }) }),
    ]);
  });
});

describe('a viewport cut by an outline', () => {
  const viewport = (outline: string): string =>
    groups(
      ...([
        [0, 'VIEWPORT'],
        [5, 'V1'],
        [8, '0'],
        [67, 1],
        [10, 100],
        [20, 100],
        [40, 100],
        [41, 100],
        [68, 2],
        [69, 2],
        [90, 0x10000],
        [340, outline],
        [12, 0],
        [22, 0],
        [45, 100],
      ] as const),
    );
  const circle = groups([0, 'CIRCLE'], [5, 'C1'], [8, '0'], [67, 1], [10, 100], [20, 100], [40, 40]);
  const layout = section(
    'OBJECTS',
    groups([0, 'LAYOUT'], [5, 'L1'], [44, 200], [45, 200], [72, 1], [1, 'Round'], [330, 'B1']),
  );
  const drawn = (outline: string) => {
    const records = table('BLOCK_RECORD', groups([0, 'BLOCK_RECORD'], [5, 'B1'], [2, '*Paper_Space']));
    const text = dxf({ entities: line(-500, 0, 500, 0) + circle + viewport(outline) })
      .replace('0\nSECTION\n2\nBLOCKS', `${section('TABLES', records)}0\nSECTION\n2\nBLOCKS`)
      .replace(/0\nEOF\n$/, `${layout}0\nEOF\n`);
    return composed(read(text).drawing, 'Round');
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

  it('that is not there is shown within its box, and said', () => {
    const { page, warnings } = drawn('FFF');
    expect(warnings.map(({ code }) => code)).toEqual(['sheet.viewport-outline']);
    expect(page.clips[0]).toEqual([[[5000, 5000, 15_000, 15_000]]]);
  });
});

describe('plot settings', () => {
  const laidOut = (...more: [number, number | string][]) => {
    const text = groups([0, 'LAYOUT'], [44, 297], [45, 420], [40, 1], [41, 2], [42, 3], [43, 4], [72, 1], ...more);
    const reader = new GroupReader(bytesOf(text), new TextDecoder());
    reader.next();
    const views = new Map([['east', { xmin: 10, ymin: 20, xmax: 30, ymax: 60 }]]);
    return plotSettingsOf(new Record(reader).read(), (name) => views.get(name));
  };
  const settings = (...more: [number, number | string][]) => laidOut(...more).plot;

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
    expect(laidOut([74, 0])).toMatchObject({ plot: { originX: 1 }, unfound: 'what was on the screen last' });
    expect(laidOut([74, 1], [14, 1e20], [24, 1e20], [15, -1e20], [25, -1e20]).unfound).toContain('extents');
    expect(laidOut([6, 'west'], [74, 3]).unfound).toContain('named view');
    expect(laidOut([74, 5]).unfound).toBeUndefined();
  });

  it('scale line weights where they say so', () => {
    expect(settings([70, 64], [142, 1], [143, 2])).toMatchObject({ weightFactor: 0.5 });
    expect(settings([142, 1], [143, 2])).not.toHaveProperty('weightFactor');
  });
});

describe('a layout of which a window is plotted at half size', () => {
  const objects = section(
    'OBJECTS',
    groups(
      ...([
        [0, 'LAYOUT'],
        [44, 100],
        [45, 100],
        [70, 64],
        [72, 1],
        [74, 4],
        [48, 20],
        [49, 20],
      ] as const),
      ...([
        [140, 60],
        [141, 60],
        [142, 1],
        [143, 2],
        [1, 'Half'],
        [330, 'B1'],
      ] as const),
    ),
  );
  const records = table('BLOCK_RECORD', groups([0, 'BLOCK_RECORD'], [5, 'B1'], [2, '*Paper_Space']));
  const text = dxf({ entities: line(0, 40, 100, 40, [67, 1], [370, 50]) })
    .replace('0\nSECTION\n2\nBLOCKS', `${section('TABLES', records)}0\nSECTION\n2\nBLOCKS`)
    .replace(/0\nEOF\n$/, `${objects}0\nEOF\n`);

  it('shows that window at the corner of its paper, with lines half as heavy', () => {
    const { drawing, warnings } = read(text);
    expect(warnings).toEqual([]);
    const { page } = composed(drawing, 'Half');
    expect([...page.coords].map((v) => v / 100)).toEqual([-10, 10, 40, 10]);
    expect(page.clips[0]).toEqual([[[0, 0, 2000, 2000]]]);
    expect(page.pens.map(({ width }) => width)).toContain(25);
  });
});

describe('a viewport that is not a plan view', () => {
  const viewport = (...more: [number, number][]): string =>
    groups(
      ...([
        [0, 'VIEWPORT'],
        [5, 'V1'],
        [8, '0'],
        [67, 1],
        [10, 5],
        [20, 5],
        [40, 10],
        [41, 10],
      ] as const),
      ...([[45, 10], [68, 2], [69, 2], ...more] as const),
    );

  it.each([
    ['from another side', 'looks at the model from another side', [16, 1], [26, -1], [36, 1]],
    ['from below', 'looks at the model from another side', [16, 0], [26, 0], [36, -1]],
    ['in perspective', 'shows the model in perspective', [90, 1]],
  ] as [string, string, ...[number, number][]][])('is reported: %s', (_, words, ...more) => {
    const { warnings } = read(dxf({ entities: viewport(...more) }));
    expect(warnings).toMatchObject([{ code: 'dxf.viewport', place: { handle: 'V1' } }]);
    expect(warnings[0]!.sentence).toContain(words);
  });

  it('is not reported where it is a plan, twisted or not', () => {
    expect(read(dxf({ entities: viewport([16, 0], [26, 0], [36, 1], [51, 30]) })).warnings).toEqual([]);
  });
});

describe('names of layouts', () => {
  it.each([
    ['A-101 Ground floor', 'A-101', 'Ground floor'],
    ['A-101 - Ground floor', 'A-101', 'Ground floor'],
    ['A101', 'A101', ''],
    ['Layout1', 'Layout1', ''],
    ['Site plan', 'Site plan', ''],
    ['M.02 – Plant room', 'M.02', 'Plant room'],
  ])('%s', (name, number, title) => {
    expect(parseLayoutName(name)).toEqual({ number, title });
  });
});

describe('dashes that are measured on the paper', () => {
  const dashed = (onPaper: number): string => {
    const types = table('LTYPE', groups([0, 'LTYPE'], [2, 'DASHED'], [49, 6], [49, -3]));
    const records = table('BLOCK_RECORD', groups([0, 'BLOCK_RECORD'], [5, 'B1'], [2, '*Paper_Space']));
    const viewport = groups(
      ...([
        [0, 'VIEWPORT'],
        [5, 'V1'],
        [8, '0'],
        [67, 1],
        [10, 100],
        [20, 100],
        [40, 100],
        [41, 100],
      ] as const),
      ...([
        [45, 5000],
        [68, 2],
        [69, 2],
      ] as const),
    );
    const layout = groups([0, 'LAYOUT'], [44, 200], [45, 200], [72, 1], [1, 'L'], [330, 'B1']);
    return dxf({
      header: groups([9, '$PSLTSCALE'], [70, onPaper]),
      entities: line(0, 0, 1000, 0, [6, 'DASHED']) + viewport,
    })
      .replace('0\nSECTION\n2\nBLOCKS', `${section('TABLES', types + records)}0\nSECTION\n2\nBLOCKS`)
      .replace(/0\nEOF\n$/, `${section('OBJECTS', layout)}0\nEOF\n`);
  };
  /** Dashes of the line on the page, mm: seen through the viewport at 1:50, and in a view of its own at 1:20. */
  const dashesOf = (onPaper: number): number[][][] => {
    const { drawing } = read(dashed(onPaper));
    const own: Sheet = {
      ...{ ...layoutSheet('L'), from: undefined as never, paper: { name: 'A3', orientation: 'landscape' } },
      views: [
        {
          ...{ id: 'v', drawing: 'd', space: 'model', window: 'extents', scale: '1:20', at: 'centre' },
          ...{ layersOff: [], label: '' },
        },
      ],
    };
    delete own.from;
    const project = { number: '', name: '', client: '', fields: {} };
    const source = () => ({ drawing, unit: 'mm' as const });
    const pages = [composed(drawing, 'L', 'mm'), composeSheet({ project, sheet: own, fonts: FONTS, source })];
    return pages.map(({ page }) =>
      page.pens.filter(({ dashes }) => dashes.length > 0).map(({ dashes }) => dashes.map((dash) => dash / 100)),
    );
  };

  it('are as long in a view of its own as in a layout (DXF reference, $PSLTSCALE)', () => {
    expect(dashesOf(1)).toEqual([[[6, 3]], [[6, 3]]]);
  });

  it('follow the scale of each view where they are measured in the model', () => {
    expect(dashesOf(0)).toEqual([[[0.12, 0.06]], [[0.3, 0.15]]]);
  });
});
