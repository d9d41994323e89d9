import {
  composeSheet,
  marksOutside,
  ProblemError,
  STROKE,
  TEXT,
  type ComposedSheet,
  type LengthUnit,
  type Page,
  type Sheet,
  type View,
} from '../../src/index';
import { MOVE } from '../../src/geometry/path';
import { block, dxf, groups, layer, line, read } from '../support/dxf';
import { FONTS } from '../support/fonts';
import { composed, PROJECT, SHEET, VIEW as PLAN } from '../support/sheets';

const VIEW: View = { ...PLAN, window: [0, 0, 20_000, 10_000], at: [30, 100] };

function compose(
  text: string,
  view: Partial<View> = {},
  sheet: Partial<Sheet> = {},
  unit: LengthUnit = 'mm',
): ComposedSheet {
  const { drawing } = read(text);
  return composeSheet({
    project: PROJECT,
    sheet: { ...SHEET, views: [{ ...VIEW, ...view }], ...sheet },
    fonts: FONTS,
    source: (id) => (id === 'd' ? { drawing, unit } : undefined),
  });
}

/** Points of a path mark in mm. */
function points(page: Page, mark: number): number[] {
  return [...page.coords.subarray(page.coordStart[mark], page.coordStart[mark + 1])].map((v) => v / 100);
}

function texts(page: Page): string[] {
  return page.texts.map(({ text }) => text);
}

describe('a view at a scale', () => {
  // 12 345 mm at 1:50 is 246.9 mm, at 1:100 123.45 mm; 40 ft at 1/4" = 1'-0" are 10 in.
  it.each([
    ['mm', 12_345, '1:50', 246.9],
    ['m', 12.345, '1:100', 123.45],
    ['ft', 40, `1/4" = 1'-0"`, 254],
    ['in', 10, '2:1', 508],
  ] as const)('draws %s to the hundredth of a millimetre', (unit, length, scale, onPaper) => {
    const { page } = compose(
      dxf({ entities: line(0, 0, length, 0) }),
      { scale, window: [0, 0, length, length / 2] },
      {},
      unit,
    );
    const [x0, y0, x1, y1] = points(page, 0);
    expect(x1! - x0!).toBeCloseTo(onPaper, 2);
    expect([x0, y0, y1]).toEqual([30, 100, 100]);
  });

  it('loses nothing of real-world coordinates', () => {
    const [x, y] = [512_345.678, 5_412_345.678];
    const { page } = compose(
      dxf({ entities: line(x + 1, y, x + 3.5, y) }),
      { window: [x, y, x + 4, y + 2], scale: '1:10' },
      {},
      'm',
    );
    const [x0, , x1] = points(page, 0);
    expect(x0).toBeCloseTo(130, 2);
    expect(x1).toBeCloseTo(380, 2);
  });

  it.each([90, 30, -7])(
    'turns what it shows by %d° about the middle of its window, to the hundredth of a millimetre',
    (rotation) => {
      // A line of 10 m at 1:50, its middle in that of the window: 200 mm on paper, turned.
      const { page } = compose(dxf({ entities: line(5000, 5000, 15_000, 5000) }), {
        window: [0, 0, 20_000, 10_000],
        rotation,
      });
      const [x0, y0, x1, y1] = points(page, 0) as [number, number, number, number];
      expect(Math.hypot(x1 - x0, y1 - y0)).toBeCloseTo(200, 1);
      expect((Math.atan2(y1 - y0, x1 - x0) * 180) / Math.PI).toBeCloseTo(rotation, 2);
      // The window's lower left corner lies at 30, 100: its middle 200 mm to the right of that and 100 above.
      expect([(x0 + x1) / 2, (y0 + y1) / 2]).toEqual([expect.closeTo(230, 1), expect.closeTo(200, 1)]);
    },
  );

  it('cuts what crosses its window and leaves out what lies outside', () => {
    const { page } = compose(dxf({ entities: line(-5000, 5000, 25_000, 5000) + line(0, 30_000, 10, 30_000) }));
    expect(page.markCount).toBe(1);
    expect(page.clip[0]).toBe(1);
    expect(page.clips[0]).toEqual([[[3000, 10_000, 43_000, 30_000]]]);
  });

  it('leaves out layers that are off in it', () => {
    const text = dxf({ layers: layer('A-FURN'), entities: line(0, 0, 1, 1).replace('8\n0\n', '8\nA-FURN\n') });
    expect(compose(text).page.markCount).toBe(1);
    expect(compose(text, { layersOff: ['a-furn'] }).page.markCount).toBe(0);
  });

  it('keeps line weights, dashes and hairlines in millimetres of paper', () => {
    const lineType = groups([0, 'LTYPE'], [2, 'DASHED'], [49, 500], [49, -250]);
    const text = dxf({
      layers: lineType,
      entities:
        line(0, 0, 9000, 0, [370, 70]) + line(0, 1, 9000, 1, [370, 0]) + line(0, 2, 9000, 2, [6, 'DASHED'], [48, 2]),
    });
    const { page } = compose(text);
    const pens = [...page.pen].map((pen) => page.pens[pen]!);
    expect(pens.map(({ width }) => width)).toEqual([70, 5, 25]);
    // 500 units × scale 2 at 1:50 are 20 mm.
    expect(pens[2]!.dashes).toEqual([2000, 1000]);
  });

  it.each([
    [0, 3],
    [128, 1],
    // Closed: a fourth side back to the start.
    [1, 4],
    [129, 1],
  ])('begins dashes anew at the corners of a polyline unless it is flagged %d', (flags, pieces) => {
    const corner = (x: number, y: number): string => groups([10, x], [20, y]);
    const bent = groups([0, 'LWPOLYLINE'], [8, '0'], [6, 'DASHED'], [70, flags]) + corner(0, 0);
    const entities = bent + corner(5000, 0) + corner(5000, 5000) + corner(9000, 5000);
    const { page } = compose(dxf({ layers: groups([0, 'LTYPE'], [2, 'DASHED'], [49, 500], [49, -250]), entities }));
    expect([...page.verbs].filter((verb) => verb === MOVE)).toHaveLength(pieces);
  });

  it('centres a view, and fits it at the largest standard scale', () => {
    const { views, paper } = compose(
      dxf({ entities: line(0, 0, 30_000, 15_000) }),
      { window: 'extents', scale: 'fit', at: 'centre' },
      { frame: 'iso5457' },
    );
    // 811 × 574 mm inside the frame, 10 mm of room around: 30 m need 1:50 (600 mm), not 1:25.
    expect(views[0]!.scale).toBeCloseTo(1 / 50);
    expect((views[0]!.box.xmin + views[0]!.box.xmax) / 2).toBeCloseTo((20 + 831) / 2);
    expect(paper).toEqual({ width: 841, height: 594 });
  });

  it('takes the smallest A size that holds it when no paper is said', () => {
    const text = dxf({ entities: line(0, 0, 1, 1) });
    expect(compose(text, { at: [20, 20] }, { paper: undefined }).paper).toEqual({ width: 420, height: 297 });
    expect(compose(text, { at: [21, 20] }, { paper: undefined }).paper).toEqual({ width: 594, height: 420 });
    expect(compose(text, { at: [20, 20], scale: '1:100' }, { paper: undefined }).paper).toEqual({
      width: 297,
      height: 210,
    });
  });

  it('sets text by the height of its capitals', () => {
    const { page } = compose(
      dxf({ entities: groups([0, 'TEXT'], [8, '0'], [10, 100], [20, 100], [40, 125], [1, 'Hall']) }),
    );
    const [text] = page.texts;
    expect(page.kind[0]).toBe(TEXT);
    // 125 mm at 1:50 are 2.5 mm; the em is larger by the typeface's ratio of em to capitals.
    expect((text!.size / 100) * (FONTS.face('sans').capHeight / FONTS.face('sans').unitsPerEm)).toBeCloseTo(2.5, 1);
    expect([text!.x, text!.y]).toEqual([3200, 10_200]);
  });

  it('tells glyphs that no typeface has, and takes rarer ones from another', () => {
    const text = (content: string) =>
      compose(dxf({ entities: groups([0, 'TEXT'], [8, '0'], [10, 9], [20, 9], [40, 125], [1, content]) }));
    expect(text('a\\U+2602').page.texts.map(({ font }) => font)).toEqual(['sans', 'symbols']);
    expect(text('a\\U+E123').warnings).toEqual([expect.objectContaining({ code: 'sheet.glyphs' })]);
  });

  it('warns of blocks that are missing or go round in a circle', () => {
    const insert = groups([0, 'INSERT'], [8, '0'], [2, 'A'], [10, 0], [20, 0]);
    const { warnings } = compose(
      dxf({ blocks: block('A', insert), entities: insert + insert.replace('2\nA', '2\nGONE') }),
    );
    expect(warnings.map(({ code }) => code).sort()).toEqual(['sheet.cycle', 'sheet.missing-block']);
    const table = compose(dxf({ entities: groups([0, 'ACAD_TABLE'], [8, '0'], [2, '*T9'], [10, 0], [20, 0]) }));
    expect(table.warnings).toMatchObject([{ code: 'sheet.missing-block' }]);
  });
});

describe('frame and title block', () => {
  const { page } = compose(
    dxf({ entities: line(0, 0, 1, 1) }),
    { label: 'Ground floor' },
    {
      frame: 'iso5457',
      titleBlock: { fields: { owner: 'Office', creator: 'I. B.' } },
      revision: { index: 'P03', date: '2026-11-18', text: '' },
    },
  );

  it('draws centring, grid and trimming marks where ISO 5457 has them', () => {
    const { page } = compose(
      dxf({ entities: line(0, 0, 1000, 0) }),
      {},
      { frame: 'iso5457', marks: ['centring', 'grid', 'trimming'], paper: { size: [841, 594] } },
    );
    const strokes = [...page.kind.keys()].map((mark) => [
      page.pens[page.pen[mark]!]!.width,
      ...points(page, mark).map((value) => Math.round(value * 100) / 100),
    ]);
    // 0.7 mm from the trimmed edge to 5 mm inside the frame, in the middle of the paper (ISO 5457; from memory).
    expect(strokes).toContainEqual([70, 420.5, 0, 420.5, 15]);
    expect(strokes).toContainEqual([70, 0, 297, 25, 297]);
    // Lines of the grid reference of 0.35 mm, outwards from the frame.
    expect(strokes).toContainEqual([35, 470.5, 584, 470.5, 589]);
    expect(page.texts.map(({ text }) => text)).toEqual(expect.arrayContaining(['16', 'M']));
    // Trimming marks in the four corners: two rectangles of 10 × 5 mm over each other.
    expect(strokes).toContainEqual([0, 841, 594, 831, 594, 831, 589, 836, 589, 836, 584, 841, 584]);
  });

  it('draws the frame line of ISO 5457', () => {
    const frame = page.layers.findIndex(({ name }) => name === 'Frame');
    const mark = [...page.layer].lastIndexOf(frame);
    expect(page.kind[mark]).toBe(STROKE);
    expect(points(page, mark)).toEqual([20, 10, 831, 10, 831, 584, 20, 584]);
    expect(page.pens[page.pen[mark]!]!.width).toBe(70);
  });

  it('fills what is derived, never typed', () => {
    expect(texts(page)).toEqual(
      expect.arrayContaining([
        'A-101',
        'Ground floor plan',
        '1:50',
        'A1',
        'P03',
        '2026-11-18',
        'Ferry terminal',
        '2617',
        'Office',
      ]),
    );
  });

  // ISO 7200:2004: mandatory data fields of a title block (from memory).
  it('has the mandatory fields of ISO 7200', () => {
    expect(texts(page)).toEqual(
      expect.arrayContaining([
        'Legal owner',
        'Date of issue',
        'Sheet',
        'Title',
        'Approval person',
        'Creator',
        'Document type',
      ]),
    );
  });

  it('stays within 180 mm in the lower right corner', () => {
    const block = page.layers.findIndex(({ name }) => name === 'Title block');
    const marks = [...page.layer.keys()].filter((mark) => page.layer[mark] === block && page.kind[mark] !== TEXT);
    const xs = marks.flatMap((mark) => points(page, mark).filter((_, i) => i % 2 === 0));
    expect([Math.min(...xs), Math.max(...xs)]).toEqual([831 - 180, 831]);
  });

  it('labels the view with its title and scale', () => {
    expect(texts(page)).toContain('Ground floor');
    expect(texts(page).filter((text) => text === '1:50')).toHaveLength(2);
  });
});

describe('stamps of a package', () => {
  const { drawing } = read(dxf({ entities: line(0, 0, 1000, 0) }));
  const stamp = { text: 'PRELIMINARY', at: 'middle' as const, size: 20, colour: 0 };
  const kinds = (under: boolean): number[] => {
    const stamps = [{ ...stamp, ...(under && { under: true as const }) }];
    return [...composed(drawing, { views: [VIEW] }, { context: { stamps } }).page.kind];
  };

  it('lie over the drawing, or under it', () => {
    expect(kinds(false)).toEqual([STROKE, TEXT]);
    expect(kinds(true)).toEqual([TEXT, STROKE]);
  });
});

describe('where the frame runs', () => {
  const at = (xmin: number) => {
    const view: Partial<View> = { at: [xmin, 100], window: [0, 0, 1000, 1000] };
    const { page, frame } = compose(dxf({ entities: line(0, 0, 1000, 0) }), view, { frame: 'iso5457' });
    return marksOutside(page, frame!, ['Frame', 'Stamps']).count;
  };

  it('is told, so that what reaches over it is found', () => {
    // ISO 5457: 20 mm for filing at the left.
    expect([at(21), at(19)]).toEqual([0, 1]);
    expect(compose(dxf({ entities: line(0, 0, 1000, 0) })).frame).toBeUndefined();
  });
});

describe('what cannot be composed', () => {
  const text = dxf({ entities: line(0, 0, 1, 1) });
  it.each([
    ['sheet.drawing', { drawing: 'none' }, {}],
    ['sheet.space', { space: 'A-999' }, {}],
    ['sheet.scale', { scale: 'about 1:50' }, {}],
    ['sheet.window', { window: [5, 5, 5, 5] as [number, number, number, number] }, {}],
    ['sheet.paper', {}, { paper: { name: 'A9', orientation: 'landscape' as const } }],
    ['sheet.paper', { scale: '10:1' }, { paper: undefined }],
    ['sheet.fit', { scale: 'fit', window: [0, 0, 1e9, 1e9] as [number, number, number, number] }, {}],
  ])('is refused as %s', (code, view, sheet) => {
    try {
      compose(text, view, sheet);
      throw new Error('was composed');
    } catch (error) {
      expect(error).toBeInstanceOf(ProblemError);
      expect((error as ProblemError).problem).toMatchObject({ code, place: { sheet: 'A-101' } });
    }
  });
});

describe('the inks of a view', () => {
  const red = dxf({ entities: line(0, 0, 1000, 0).replace('8\n0\n', '8\n0\n62\n1\n') });
  const colourOf = (view: Partial<View>): number => compose(red, view).page.pens[0]!.colour;

  it('are its own: colours, greys or black, and so many per cent of them', () => {
    expect(colourOf({})).toBe(0xff0000);
    expect(colourOf({ colour: 'black' })).toBe(0x000000);
    // ITU-R BT.709: red weighs 0.2126 in linear light, 127 of 255 once encoded (IEC 61966-2-1).
    expect(colourOf({ colour: 'greys' })).toBe(0x7f7f7f);
    expect(colourOf({ colour: 'black', screen: 40 })).toBe(0x999999);
    expect(colourOf({ screen: 50 })).toBe(0xff8080);
  });
});
