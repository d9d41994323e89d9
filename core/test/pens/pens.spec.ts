import fc from 'fast-check';
import {
  composeSheet,
  inkBySchedule,
  ISO_WEIGHTS,
  linesUsed,
  PageBuilder,
  Path,
  ruleFor,
  ruleInWords,
  rulesFromCsv,
  rulesToCsv,
  schedulesOf,
  SHIPPED_SCHEDULES,
  type RuleSubject,
  type Page,
  type PenRule,
} from '../../src/index';
import { dxf, groups, layer, line, read } from '../support/dxf';
import { FONTS } from '../support/fonts';

const WALL: RuleSubject = {
  layer: 'A-WALL',
  drawing: 'plan.dxf',
  view: 'Ground floor',
  colour: 0xff0000,
  weight: 0.35,
  lineType: '',
};
const schedule = (...rules: PenRule[]) => ({ id: 's', name: 'S', rules });

/** A page of strokes, one each: drawing, layer, weight in mm, colour. */
function pageOf(...lines: [source: string, layer: string, weight: number, colour: number][]): Page {
  const builder = new PageBuilder(100, 100);
  lines.forEach(([source, name, weight, colour], i) => {
    const path = new Path();
    path.moveTo(0, i);
    path.lineTo(10, i);
    builder.stroke(path, builder.layer(source, name), builder.pen(weight, colour));
  });
  return builder.build();
}

const widths = (page: Page): number[] => [...page.pen].map((pen) => page.pens[pen]!.width / 100);

describe('rules of a pen schedule', () => {
  it.each<[PenRule, boolean]>([
    [{}, true],
    [{ layer: 'a-w*' }, true],
    [{ layer: 'A-W' }, false],
    [{ drawing: '*.dxf', view: 'ground*' }, true],
    [{ drawing: 'roof*' }, false],
    [{ view: 'Roof' }, false],
    [{ ofColour: '#FF0000' }, true],
    [{ ofColour: '#00ff00' }, false],
    [{ ofWeight: [0.35, 0.35] }, true],
    [{ ofWeight: [0.36, 1] }, false],
    [{ ofLineType: 'continuous' }, true],
    [{ ofLineType: 'dash*' }, false],
  ])('%j matches a red wall of 0.35: %s', (rule, expected) => {
    expect(ruleFor(schedule(rule), WALL) !== undefined).toBe(expected);
  });

  it('count in their order: the first that matches', () => {
    const found = ruleFor(schedule({ layer: 'A-DOOR' }, { layer: 'A-*', weight: 0.5 }, { weight: 0.7 }), WALL);
    expect(found).toEqual({ rule: { layer: 'A-*', weight: 0.5 }, index: 1 });
  });

  it('say in words why a line is as it is', () => {
    expect(ruleInWords({ layer: 'A-WALL*', weight: 0.5 })).toBe('A-WALL* → 0.5');
    expect(ruleInWords({ ofWeight: [0.59, 100], weight: 0.7 })).toBe('drawn 0.59 or more → 0.7');
    expect(ruleInWords({ ofColour: '#ffffff', hidden: true })).toBe('#ffffff → not printed');
    expect(ruleInWords({})).toBe('everything → as drawn');
  });
});

describe('a page inked by a schedule', () => {
  it('has the weight, colour and screen of the first rule; what the sheet adds keeps its own', () => {
    const page = pageOf(
      ['p.dxf', 'A-WALL', 0.25, 0xff0000],
      ['p.dxf', 'A-FURN', 0.25, 0x000000],
      ['', 'Frame', 0.7, 0],
    );
    const inked = inkBySchedule(page, schedule({ layer: '*WALL', weight: 0.5, colour: '#0000ff' }, { screen: 50 }));
    expect(widths(inked)).toEqual([0.5, 0.25, 0.7]);
    // Half the ink on white paper: 255 - 255 / 2 of each part.
    expect([...inked.pen].map((pen) => inked.pens[pen]!.colour)).toEqual([0x0000ff, 0x808080, 0]);
    expect(widths(page)).toEqual([0.25, 0.25, 0.7]);
  });

  it('loses what does not print, with nothing else moved', () => {
    const page = pageOf(['p', 'A', 0.25, 0], ['p', 'B', 0.25, 0], ['p', 'C', 0.35, 0]);
    const inked = inkBySchedule(page, schedule({ layer: 'B', hidden: true }));
    expect(inked.markCount).toBe(2);
    expect([...inked.coords]).toEqual([0, 0, 1000, 0, 0, 200, 1000, 200]);
    expect(widths(inked)).toEqual([0.25, 0.35]);
  });

  it('makes what is in the background thin, or pale', () => {
    const line = { layer: 'A-EXST-WALL', drawing: 'plan.dxf', view: '', colour: 0, weight: 0.5, lineType: '' };
    const outcome = (id: string) =>
      ruleFor(
        SHIPPED_SCHEDULES.find((one) => one.id === id)!,
        line,
      )?.rule;
    expect(outcome('half-tone')).toMatchObject({ screen: 50 });
    expect(outcome('thin-background')).toEqual({ layer: '*EXST*', weight: 0.13 });
  });

  it('has no line thinner than the least, all made thinner before that', () => {
    const page = pageOf(['p', 'A', 0.7, 0], ['p', 'B', 0.18, 0], ['', 'Frame', 0.7, 0]);
    expect(widths(inkBySchedule(page, undefined, { factor: 0.5, least: 0.13 }))).toEqual([0.35, 0.13, 0.35]);
    expect(inkBySchedule(page, undefined)).toBe(page);
  });

  it('keeps the width of lines drawn with a width of their own, but for the least; lines of the sheet have weights', () => {
    const { drawing } = read(
      dxf({ entities: groups([0, 'LWPOLYLINE'], [8, '0'], [43, 30], [10, 0], [20, 0], [10, 900], [20, 0]) }),
    );
    const { page } = composeSheet({
      project: { number: '', name: '', client: '', fields: {} },
      sheet: {
        ...{ id: 's', number: 'S', title: '', group: '', titleBlock: undefined, revision: undefined },
        ...{ paper: { name: 'A4', orientation: 'landscape' }, frame: 'iso5457' },
        views: [
          {
            ...{ id: 'v', drawing: 'd', space: 'model', window: 'extents', scale: '1:50', at: 'centre' },
            ...{ layersOff: [], label: '' },
          },
        ],
      },
      fonts: FONTS,
      source: () => ({ drawing, unit: 'mm' }),
    });
    const halved = inkBySchedule(page, schedule({ weight: 0.13 }), { factor: 0.5 });
    // 30 mm at 1:50 are 0.6 mm; the frame of ISO 5457 is 0.7 mm wide.
    expect(widths(page)).toEqual(expect.arrayContaining([0.6, 0.7]));
    expect(widths(halved)).toEqual(expect.arrayContaining([0.6, 0.35]));
    expect(widths(halved)).not.toContain(0.3);
    expect(Math.min(...widths(inkBySchedule(page, undefined, { least: 0.65 })))).toBe(0.65);
  });

  it('takes line types by name and gives dashes and ends of its own', () => {
    const hidden = layer('A-HIDD', [6, 'HIDDEN']);
    const types = groups(
      [0, 'TABLE'],
      [2, 'LTYPE'],
      [0, 'LTYPE'],
      [2, 'HIDDEN'],
      [40, 9],
      [73, 2],
      [49, 6],
      [49, -3],
      [0, 'ENDTAB'],
    );
    const dashed = groups([0, 'LINE'], [8, 'A-HIDD'], [10, 0], [20, 0], [11, 100], [21, 0]);
    const { drawing } = read(
      dxf({ layers: hidden, entities: dashed + line(0, 5, 100, 5) }).replace(
        '0\nTABLE\n2\nLAYER',
        `${types}0\nTABLE\n2\nLAYER`,
      ),
    );
    const view = { id: 'v', drawing: 'd', space: 'model', scale: '1:1', layersOff: [], label: 'Plan' };
    const { page } = composeSheet({
      project: { number: '', name: '', client: '', fields: {} },
      sheet: {
        id: 's',
        number: '',
        title: '',
        group: '',
        paper: { size: [200, 200] },
        frame: 'none',
        titleBlock: undefined,
        revision: undefined,
        views: [{ ...view, window: [0, -10, 100, 10], at: [10, 10] }],
      },
      fonts: FONTS,
      source: () => ({ drawing, unit: 'mm' }),
    });
    const inked = inkBySchedule(page, schedule({ ofLineType: 'hid*', view: 'plan', dashes: [2, 1], ends: 'square' }));
    const pens = [...inked.pen].slice(0, 2).map((pen) => inked.pens[pen]!);
    expect(pens.map(({ dashes }) => dashes)).toEqual([[200, 100], []]);
    expect(pens.map(({ round }) => round)).toEqual([false, true]);
  });

  it('counts lines by layer, colour and weight as they are drawn', () => {
    const page = pageOf(['p', 'A', 0.25, 0], ['p', 'A', 0.25, 0], ['p', 'A', 0.5, 0], ['', 'Frame', 0.7, 0]);
    expect(linesUsed(page).map(({ layer: name, weight, count }) => [name, weight, count])).toEqual([
      ['A', 0.25, 2],
      ['A', 0.5, 1],
    ]);
  });
});

describe('the shipped schedules', () => {
  it('bring every weight of DXF to one of five of ISO 128-20, the nearest in ratio', () => {
    // DXF, 1/100 mm: all weights but 0, which stands for the thinnest there is.
    const drawn = [5, 9, 13, 15, 18, 20, 25, 30, 35, 40, 50, 53, 60, 70, 80, 90, 100, 106, 120, 140, 158, 200, 211];
    const five = ISO_WEIGHTS.slice(1, 6);
    const inked = inkBySchedule(
      pageOf(...drawn.map((weight): [string, string, number, number] => ['p', 'A', weight / 100, 0])),
      SHIPPED_SCHEDULES.find(({ id }) => id === 'iso-five'),
    );
    for (const [i, width] of widths(inked).entries()) {
      const off = (one: number): number => Math.abs(Math.log(one / (drawn[i]! / 100)));
      expect(five).toContain(width);
      expect(off(width)).toBeLessThanOrEqual(Math.min(...five.map(off)) + 0.1);
    }
  });

  it('may be replaced by own ones of their id', () => {
    const own = { id: 'all-black', name: 'Ours', rules: [] };
    const all = schedulesOf({ penSchedules: [own] });
    expect(all).toHaveLength(SHIPPED_SCHEDULES.length);
    expect(all.find(({ id }) => id === 'all-black')).toBe(own);
  });
});

describe('rules as CSV', () => {
  const hundredths = fc.integer({ min: 0, max: 500 }).map((value) => value / 100);
  const colour = fc.integer({ min: 0, max: 0xffffff }).map((value) => `#${value.toString(16).padStart(6, '0')}`);
  const words = fc.stringMatching(/^[A-Za-z0-9*?|_.,;"-]{1,12}$/);
  const rules = fc.array(
    fc.record(
      {
        layer: words,
        drawing: words,
        ofColour: colour,
        ofWeight: fc.tuple(hundredths, hundredths),
        ofLineType: words,
        weight: hundredths,
        colour,
        screen: fc.integer({ min: 0, max: 100 }),
        dashes: fc.array(hundredths, { maxLength: 4 }),
        ends: fc.constantFrom('round' as const, 'square' as const),
        hidden: fc.constant(true as const),
      },
      { requiredKeys: [] },
    ),
    { minLength: 1 },
  );

  it('come back as they were', () => {
    fc.assert(
      fc.property(rules, (all) => {
        const some = all.filter((rule) => Object.keys(rule).length > 0);
        expect(rulesFromCsv(rulesToCsv(some))).toEqual({ ok: true, rules: some });
      }),
    );
  });

  it('are no formulas to a spreadsheet, and come back without what keeps them from it', () => {
    const some = ['=1+1', '+A', '-WALL*', '@sum', "'=A", 'A-WALL'].map((layer) => ({ layer }));
    const csv = rulesToCsv(some);
    expect(csv).toContain('\n"\'=1+1",');
    expect(csv.split('\n').filter((line) => /^[=+\-@]/.test(line))).toEqual([]);
    expect(rulesFromCsv(csv)).toEqual({ ok: true, rules: some });
  });

  it.each([
    ['layer,wait\nA,1', 'No column is called wait'],
    ['layer,weight\nA,thick', 'Row 2: weight is a number, not "thick"'],
    ['layer,colour\nA,\nB,red', 'Row 3: colour is written like #1a4d8f, not "red"'],
  ])('say what of %j cannot be read', (csv, sentence) => {
    expect(rulesFromCsv(csv)).toMatchObject({ ok: false, sentence: expect.stringContaining(sentence) });
  });

  it('are read with semicolons and decimal commas too', () => {
    expect(rulesFromCsv('Layer;Weight\nA-*;0,35\n')).toEqual({ ok: true, rules: [{ layer: 'A-*', weight: 0.35 }] });
  });
});
