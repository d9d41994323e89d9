import {
  compareNumbers,
  hasStop,
  movePages,
  resolveDestinations,
  markedPath,
  outputPlan,
  resolvePackage,
  runChecks,
  takenPaths,
  type ConflictPolicy,
  type PlanInput,
} from '../../src/index';
import { input, sheet } from '../support/plan-input';

const paths = (given: PlanInput): string[] => outputPlan(given).files.map(({ path }) => path);
const codes = (given: PlanInput): string[] =>
  runChecks(given, outputPlan(given)).map(({ code, severity }) => `${severity} ${code}`);

describe('reading order', () => {
  it('sorts numbers as people do', () => {
    const numbers = ['A-10', 'a-2', 'A-2b', 'B-1', 'Ä-1', 'A-2'];
    expect([...numbers].sort(compareNumbers)).toEqual(['Ä-1', 'a-2', 'A-2', 'A-2b', 'A-10', 'B-1']);
  });

  it('moves a page, and leaves the order alone where there is none', () => {
    expect(movePages(['a', 'b', 'c'], new Set([0]), 2)).toEqual(['b', 'c', 'a']);
    expect(movePages(['a', 'b', 'c'], new Set([2]), -5)).toEqual(['c', 'a', 'b']);
    expect(movePages(['a', 'b', 'c'], new Set([1]), 99)).toEqual(['a', 'c', 'b']);
    expect(movePages(['a', 'b', 'c'], new Set([7]), 0)).toEqual(['a', 'b', 'c']);
  });
});

describe('the output plan', () => {
  it('writes a file a sheet, one file, or a file a group', () => {
    expect(paths(input({}))).toEqual(['A-101.pdf', 'A-102.pdf', 'A-201.pdf']);
    expect(paths(input({ bundling: 'one' }))).toEqual(['Permit.pdf']);
    expect(paths(input({ bundling: 'group' }))).toEqual(['Permit Plans.pdf', 'Permit Elevations.pdf']);
  });

  it('writes sheets in other formats than PDF, by the rule for a file per sheet, whatever the bundling', () => {
    const extraFormats = { formats: ['png' as const, 'dxf' as const] };
    expect(paths(input({ bundling: 'one', extraFormats, order: ['c', 'a'] }))).toEqual([
      ...['Permit.pdf', 'A-201.dxf', 'A-101.dxf', 'A-201.png', 'A-101.png'],
    ]);
    const names = { file: '[sheet.number]', folder: '[group.name]', bundle: '[package.name]' };
    const apart = { formats: ['tiff' as const], apart: true as const };
    expect(paths(input({ names, extraFormats: apart, order: ['a', 'c'] }))).toEqual([
      ...['Plans/A-101.pdf', 'Elevations/A-201.pdf', 'Plans/TIFF/A-101.tif', 'Elevations/TIFF/A-201.tif'],
    ]);
  });

  it('writes pages in formats of their own, once whatever their copies, and none of the pages that a package adds', () => {
    const pages = { a: { extraFormats: ['svg' as const], copies: 3 }, b: { extraFormats: [] } };
    const extras = [{ id: 'x', kind: 'divider' as const, number: '0', title: 'Plans' }];
    const given = input({
      bundling: 'one',
      extraFormats: { formats: ['jpeg'] },
      pages,
      extras,
      order: ['x', 'a', 'b', 'c'],
    });
    const resolved = resolvePackage(given.package, given.sheets, given.project);
    expect(paths({ ...given, ...resolved })).toEqual(['Permit.pdf', 'A-101.svg', 'A-201.jpg']);
  });

  it("adds a drawing's layout as it is, or its model fitted on a sheet", () => {
    const extras = [
      { id: 'l', kind: 'space' as const, number: 'S-1', title: 'Layout', drawing: 'd', space: 'Layout 1' },
      { id: 'm', kind: 'space' as const, number: 'S-2', title: 'Model', drawing: 'd', space: 'model' },
    ];
    const given = input({ extras, order: ['a', 'l', 'm'], extraFormats: { formats: ['svg'] } });
    const { package: pack, sheets } = resolvePackage(given.package, given.sheets, given.project);
    expect(pack.order).toEqual(['a', 'l', 'm']);
    const byId = new Map(sheets.map((one) => [one.id, one]));
    expect(byId.get('l')).toMatchObject({ number: 'S-1', from: { drawing: 'd', layout: 'Layout 1' }, views: [] });
    expect(byId.get('m')).toMatchObject({ number: 'S-2', views: [{ drawing: 'd', space: 'model', scale: 'fit' }] });
    // They are written in other formats too.
    expect(paths({ ...given, package: pack, sheets })).toEqual([
      ...['A-101.pdf', 'S-1.pdf', 'S-2.pdf', 'A-101.svg', 'S-1.svg', 'S-2.svg'],
    ]);
  });

  it('finds names of formats that clash or have blanks, and a rule for them that cannot be read', () => {
    const names = { file: 'same', folder: '', bundle: '[package.name]' };
    expect(codes(input({ bundling: 'one', names, extraFormats: { formats: ['svg'] } }))).toContain('stop name.clash');
    const blank = { ...names, file: '[sheet.revision]' };
    expect(codes(input({ bundling: 'one', names: blank, extraFormats: { formats: ['svg'] } }))).toContain(
      'stop name.blank-field',
    );
    const wrong = { ...names, file: '[sheet.number' };
    expect(codes(input({ bundling: 'one', names: wrong }))).not.toContain('stop naming.rule');
    expect(codes(input({ bundling: 'one', names: wrong, extraFormats: { formats: ['svg'] } }))).toContain(
      'stop naming.rule',
    );
  });

  it('says which files are at the destination already, by what becomes of them, and how to keep both', () => {
    const found = (onConflict: ConflictPolicy, paths: string[], folder = '[project.number]', numbered = {}) => {
      const there = [takenPaths({ paths, numbered })];
      const given = { ...input({ destinations: [{ kind: 'folder', folder, onConflict }] }), there };
      return runChecks(given, outputPlan(given)).filter(({ code }) => code.startsWith('destination'));
    };
    expect(found('stop', ['A-900.pdf'])).toEqual([]);
    const [stopped] = found('stop', ['A-101.pdf']);
    expect(stopped).toMatchObject({ severity: 'stop', fix: { destination: { onConflict: 'both' } } });
    expect(stopped!.sentence).toMatch(/^A-101.pdf is at the destination already; /);
    const [replaced] = found('replace', ['A-101.pdf', 'A-102.pdf', 'A-201.pdf']);
    expect(replaced!.severity).toBe('warning');
    expect(replaced!.sentence).toMatch(/^3 files are .*A-101.pdf, A-102.pdf, A-201.pdf\)/);
    expect(found('both', ['A-101.pdf'])).toMatchObject([{ severity: 'note' }]);
    const numbered = { 'A-101.pdf': 'A-101 (3).pdf', 'A-102.pdf': 'A-102 (2).pdf' };
    const kept = Object.keys(numbered).map(
      (_, i, paths) => found('both', paths.slice(i), undefined, numbered)[0]!.sentence,
    );
    expect(kept).toEqual([
      '2 files are at the destination already (A-101.pdf, A-102.pdf); they stay, and new ones that differ get numbers, such as A-101 (3).pdf.',
      'A-102.pdf is at the destination already; it stays, and a new one that differs becomes A-102 (2).pdf.',
    ]);
    const [renamed] = found('rename', ['A-101.pdf']);
    expect(renamed).toMatchObject({
      severity: 'note',
      sentence: expect.stringContaining('it is renamed with its date') as string,
    });
    expect(found('stop', [], '[project.number')).toMatchObject([{ code: 'destination.rule', severity: 'stop' }]);
  });

  it('delivers to a folder made from the fields of the project, never above it', () => {
    const folderOf = (folder: string) =>
      resolveDestinations(input({ destinations: [{ kind: 'folder', folder, onConflict: 'stop' }] }))[0];
    expect(folderOf('[project.number]/[run.date > date YYMMDD]')).toMatchObject({
      ok: true,
      value: { folder: '2617/261125' },
    });
    expect(folderOf('../../[project.name]')).toMatchObject({ ok: true, value: { folder: 'Terminal' } });
    expect(resolveDestinations(input({}))).toEqual([]);
    expect(markedPath('Plans/A-1.01.pdf', 2)).toBe('Plans/A-1.01 (2).pdf');
    expect(markedPath('v1.2/plan', 3)).toBe('v1.2/plan (3)');
  });

  it('stops pictures that would be too large, and says that DXF has no pictures', () => {
    // A1 is 841 × 594 mm (ISO 216): 557 million pixels at 800 dots per inch.
    expect(codes(input({ extraFormats: { formats: ['png'], dpi: 800 } }))).toContain('stop picture.too-large');
    expect(codes(input({ extraFormats: { formats: ['png'], dpi: 400 } }))).not.toContain('stop picture.too-large');
    expect(codes(input({ extraFormats: { formats: ['svg'], dpi: 800 } }))).not.toContain('stop picture.too-large');
    const view = { id: 'v', drawing: 'scan', space: 'model', scale: '1:1', layersOff: [], label: '' };
    const scanned = sheet('a', 'A-101', { views: [{ ...view, window: 'extents', at: 'centre' }] });
    const latest = new Map([['scan', { name: 'scan.pdf', version: 1, format: 'PDF 1.7' }]]);
    const given = { ...input({ extraFormats: { formats: ['dxf'] } }, [scanned]), latest };
    expect(codes(given)).toContain('note dxf.pictures');
    expect(codes({ ...given, package: { ...given.package, extraFormats: { formats: ['svg'] } } })).not.toContain(
      'note dxf.pictures',
    );
  });

  it('follows the reading order, not the numbers', () => {
    const plan = outputPlan(input({ bundling: 'one', order: ['c', 'a', 'b'] }));
    expect(plan.files[0]!.sheets).toEqual(['c', 'a', 'b']);
  });

  it('makes folders by rule, and keeps slashes of values out of them', () => {
    const names = { file: '[sheet.title]', folder: '[run.date]/[sheet.title]', bundle: '' };
    expect(paths(input({ names }, [sheet('a', 'A', { title: 'Plan 1/2' })]))).toEqual([
      '2026-11-25/Plan 1-2/Plan 1-2.pdf',
    ]);
  });

  it('numbers pages by their place in the package', () => {
    const names = { file: '[page > pad 2] of [pages]', folder: '', bundle: '' };
    expect(paths(input({ names, order: ['b', 'a'] }))).toEqual(['01 of 2.pdf', '02 of 2.pdf']);
  });
});

describe('checks', () => {
  it('find nothing where all is well', () => {
    expect(codes(input({}))).toEqual([]);
  });

  it.each<[string, PlanInput, string[]]>([
    ['an empty package', input({ order: [] }), ['stop package.empty']],
    ['a sheet that is gone', input({ order: ['a', 'zzz'] }), ['stop package.missing-sheet']],
    ['a sheet twice', input({ bundling: 'one', order: ['a', 'a'] }), ['stop package.doubled-sheet']],
    [
      'two sheets of one number',
      input({ bundling: 'one' }, [sheet('a', 'A-1'), sheet('b', 'a-1')]),
      ['warning package.doubled-number'],
    ],
    [
      'a blank field',
      input({ names: { file: '[sheet.number] [sheet.revision]', folder: '', bundle: '' } }, [sheet('a', 'A')]),
      ['stop name.blank-field'],
    ],
    [
      'a field that does not exist',
      input({ names: { file: '[sheet.colour][sheet.number]', folder: '', bundle: '' } }),
      ['stop name.unknown-field'],
    ],
    ['a rule that cannot be read', input({ names: { file: '[', folder: '', bundle: '' } }), ['stop naming.rule']],
    [
      'names that clash but for letter case',
      input({ names: { file: '[sheet.title]', folder: '', bundle: '' } }, [
        sheet('a', 'A', { title: 'Plan' }),
        sheet('b', 'B', { title: 'PLAN' }),
      ]),
      ['stop name.clash'],
    ],
    [
      'folders that differ in letter case only',
      input({ names: { file: '[sheet.number]', folder: 'Set/[sheet.title]', bundle: '' } }, [
        sheet('a', 'A', { title: 'Plans' }),
        sheet('b', 'B', { title: 'plans' }),
      ]),
      ['warning name.folders'],
    ],
    [
      'formats that stay open next to protected files',
      { ...input({ extraFormats: { formats: ['png', 'svg'] } }), isProtected: true },
      ['warning file.open-formats'],
    ],
    [
      'a name of nothing legal',
      input({ names: { file: '?', folder: '', bundle: '' } }, [sheet('a', 'A')]),
      ['stop name.empty'],
    ],
    ['a name that was changed', input({}, [sheet('a', 'A:1')]), ['note name.changed']],
  ])('find %s', (_, given, found) => {
    expect(codes(given)).toEqual(found);
  });

  it('name the sheet and the way out', () => {
    const given = input({ names: { file: '[sheet.number] [sheet.revision]', folder: '', bundle: '' } });
    const findings = runChecks(given, outputPlan(given));
    expect(findings[0]).toMatchObject({
      sentence: '[sheet.revision] is blank for A-101; fill it in, or make it optional as (? [sheet.revision]).',
      place: { sheet: 'A-101' },
    });
    expect(findings).toHaveLength(3);
    expect(hasStop(findings)).toBe(true);
  });
});
