import {
  estimateBytes,
  outputPlan,
  RESOLUTIONS,
  runChecks,
  STANDARD_NAMES,
  type Note,
  type ProjectFacts,
  type Sheet,
  type SheetPackage,
} from '../../src/index';
import { SHEET } from '../support/sheets';

function findings(
  sheets: Sheet[],
  more: Partial<ProjectFacts> = {},
  tiles?: SheetPackage['tiles'],
): [code: string, sentence: string][] {
  const input = {
    project: { number: '1', name: 'P', client: '', fields: {}, ...more },
    groups: [],
    sheets,
    package: {
      id: 'p',
      name: 'Permit',
      recipe: '',
      order: ['s'],
      bundling: 'one' as const,
      names: STANDARD_NAMES,
      ...(tiles && { tiles }),
    },
    runDate: '2026-11-25',
  };
  return runChecks(input, outputPlan(input)).map(({ code, sentence }) => [code, sentence]);
}

describe('pages that sheets go on', () => {
  const papers = [{ name: 'Roll', short: 297, long: 900 }];

  it('must be there, and leave room for something new on each', () => {
    const told = (name: string, overlap: number) =>
      findings([SHEET], { papers }, { paper: { name, orientation: 'portrait' }, overlap });
    expect(told('roll', 60)).toEqual([]);
    expect(told('Rill', 15)).toEqual([
      ['package.tiles', 'Sheets are tiled on "Rill", a paper that does not exist; choose another.'],
    ]);
    expect(findings([SHEET], {}, { paper: { size: [100, 200] }, overlap: 40 })[0]![0]).toBe('package.tiles');
  });
});

it('calls a sheet by its number, or by its title where it has none', () => {
  const field = { sheetFields: [{ name: 'phase', caption: 'Phase', kind: 'text' as const, required: true as const }] };
  const said = (sheet: Partial<Sheet>) => findings([{ ...SHEET, ...sheet }], field).map(([, sentence]) => sentence);
  expect(said({ number: 'A-7', title: 'Roof' })).toContain('A-7 has no Phase; fill it in on the sheet.');
  expect(said({ number: '', title: 'Roof' })).toContain('Roof has no Phase; fill it in on the sheet.');
});

it('says which field of a sheet is to be filled in', () => {
  const field = { sheetFields: [{ name: 'phase', caption: 'Phase', kind: 'text' as const, required: true as const }] };
  const template = {
    ...{ id: 'own', name: 'Own', width: 100, height: 20, place: 'corner' as const },
    cells: [
      { left: 0, width: 40, bottom: 0, height: 10, caption: 'Drawn', text: '[drawn-by]', required: true as const },
    ],
  };
  const sheet: Sheet = { ...SHEET, number: '', title: 'Roof', titleBlock: { template: 'own', fields: {} } };
  const input = {
    project: { number: '1', name: 'P', client: '', fields: {}, ...field, titleBlocks: [template] } as ProjectFacts,
    ...{ groups: [], sheets: [sheet], runDate: '2026-11-25' },
    package: {
      ...{ id: 'p', name: 'Permit', recipe: '', order: ['s'], bundling: 'sheet' as const },
      names: { ...STANDARD_NAMES, file: '[sheet.revision] [sheet.title]' },
    },
  };
  const fields = runChecks(input, outputPlan(input)).flatMap(({ code, field: named }) =>
    named ? [[code, named]] : [],
  );
  expect(Object.fromEntries(fields)).toEqual({
    'name.blank-field': 'sheet.revision',
    'sheet.field-blank': 'sheet.phase',
    'sheet.unnumbered': 'sheet.number',
    'title.blank': 'title.drawn-by',
  });
});

describe('sheet fields of the project', () => {
  const sheetFields = [
    { name: 'phase', caption: 'Phase', kind: 'text' as const, required: true as const },
    { name: 'zone', caption: 'Zone', kind: 'text' as const },
  ];

  it('are pointed out where one that must have a value has none', () => {
    expect(findings([SHEET], { sheetFields })).toEqual([
      ['sheet.field-blank', 'A-101 has no Phase; fill it in on the sheet.'],
    ]);
    expect(findings([{ ...SHEET, fields: { phase: '  ' } }], { sheetFields })).toHaveLength(1);
    expect(findings([{ ...SHEET, fields: { phase: '2' } }], { sheetFields })).toEqual([]);
  });

  it('are fields of naming rules, blank where they are blank', () => {
    const names = { ...STANDARD_NAMES, file: '[sheet.number]-[sheet.phase]' };
    const plan = (fields: Record<string, string>, known = sheetFields) =>
      outputPlan({
        project: { number: '1', name: 'P', client: '', fields: {}, sheetFields: known },
        groups: [],
        sheets: [{ ...SHEET, fields }],
        package: { id: 'p', name: 'Permit', recipe: '', order: ['s'], bundling: 'sheet', names },
        runDate: '2026-11-25',
      }).files[0]!;
    expect(plan({ phase: '2' }).path).toBe('A-101-2.pdf');
    expect(plan({}).blank).toEqual(['sheet.phase']);
    expect(plan({}, []).unknown).toEqual(['sheet.phase']);
  });
});

describe('reference marks', () => {
  const mark = (refers?: Note['refers']): Sheet => ({
    ...SHEET,
    notes: [{ id: 'n', kind: 'mark', at: [0, 0], ...(refers && { refers }) }],
  });
  const view = { id: 'v', drawing: 'd', space: 'model', window: 'extents', scale: '1:1', at: 'centre' } as const;
  const other: Sheet = { ...SHEET, id: 't', number: 'A-501', views: [{ ...view, layersOff: [], label: '' }] };

  it.each([
    ['a sheet that is there', { sheet: 't' }, []],
    ['a view that is there', { sheet: 't', view: 'v' }, []],
    ['a view that is gone', { sheet: 't', view: 'w' }, ['a view of A-501 that does not exist']],
    ['a sheet that is gone', { sheet: 'x' }, ['a sheet that does not exist']],
    ['nothing', undefined, ['nothing yet']],
  ])('that refer to %s', (_, refers, said) => {
    const found = findings([mark(refers), other]);
    expect(found.map(([code]) => code)).toEqual(said.map(() => 'mark.dangling'));
    said.forEach((words, i) => expect(found[i]![1]).toContain(`A-101 refers to ${words};`));
  });
});

describe('what pictures take at a resolution', () => {
  const picture = { key: 'a', bytes: 9_000_000, dpi: 300 };

  it('grows with the square of dots per inch, up to what they have', () => {
    expect(estimateBytes([picture], 100)).toBeCloseTo(1_000_000, 6);
    expect(estimateBytes([picture], 600)).toBe(9_000_000);
    const sizes = RESOLUTIONS.map((dpi) => estimateBytes([picture], dpi));
    expect([...sizes].sort((a, b) => a - b)).toEqual(sizes);
  });

  it('stays as it is where the view says a resolution', () => {
    expect(estimateBytes([{ ...picture, limit: 150 }], 72)).toBe(2_250_000);
    expect(estimateBytes([{ ...picture, limit: 600 }], 72)).toBe(9_000_000);
  });

  it('counts a picture of several sheets once, where it is largest', () => {
    const larger = { ...picture, dpi: 150 };
    expect(estimateBytes([picture, larger, picture], 150)).toBe(9_000_000);
    expect(estimateBytes([picture, { ...picture, key: 'b' }], 300)).toBe(18_000_000);
  });
});
