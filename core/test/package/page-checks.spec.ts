import { readFileSync } from 'node:fs';
import {
  FINDINGS,
  findingKey,
  outputPlan,
  ownFontId,
  resolvePackage,
  runChecks,
  STANDARD_NAMES,
  STANDARD_RECIPE,
  type Finding,
  type Note,
  type OwnTypeface,
  type ProjectFacts,
  type ComposedFacts,
  type PageOptions,
  type PlanInput,
  type Sheet,
  type SheetPackage,
} from '../../src/index';
import { PROJECT, SHEET, VIEW } from '../support/sheets';

const PAGE: ComposedFacts = {
  paper: { width: 841, height: 594 },
  views: [],
  viewports: [],
  outside: { count: 0, boxes: [] },
  overFrame: 0,
  pictures: [],
  lettering: { papers: [], scales: [], own: [], drawn: 10 },
  names: [],
  warnings: [],
};
const PACKAGE: SheetPackage = {
  id: 'p',
  name: 'Permit',
  recipe: '',
  order: [],
  bundling: 'one',
  names: STANDARD_NAMES,
};
const REVISION = { index: 'P01', date: '2026-11-20', text: '' };

/** What is found for sheets of which the pages are known. */
function found(
  sheets: Partial<Sheet>[],
  pages: Partial<ComposedFacts>[] = [],
  more: Partial<PlanInput> = {},
): Pick<Finding, 'code' | 'sentence' | 'severity'>[] {
  const all = sheets.map((one, i) => ({ ...SHEET, id: `s${i}`, number: `A-${101 + i}`, ...one }));
  const input: PlanInput = {
    project: PROJECT,
    groups: [],
    sheets: all,
    package: { ...PACKAGE, order: all.map(({ id }) => id) },
    runDate: '2026-11-26',
    recipe: STANDARD_RECIPE,
    pages: new Map(pages.map((page, i) => [`s${i}`, { ...PAGE, ...page }])),
    ...more,
  };
  return runChecks(input, outputPlan(input));
}

const box = (xmin: number, ymin: number, xmax: number, ymax: number) => ({ xmin, ymin, xmax, ymax });
const lettering = (more: Partial<ComposedFacts['lettering']>) => ({ lettering: { ...PAGE.lettering, ...more } });

describe('a sheet printed on a smaller paper', () => {
  const onA3 = (page: Partial<ComposedFacts>, name = 'A3') =>
    found([{}], [page], {
      package: {
        ...{ id: 'p', name: 'Permit', recipe: '', order: ['s0'], bundling: 'one', names: STANDARD_NAMES },
        pages: { s0: { paper: { name, orientation: 'landscape' } } },
      },
    }).map(({ code, sentence }) => `${code} ${sentence}`);

  it('has its lettering and lines looked at as they are printed', () => {
    const told = onA3({
      ...lettering({ least: { height: 2.5, text: 'Door 12' }, thinnest: { width: 0.18, layer: 'A-FURN' } }),
    });
    expect(told).toContainEqual(expect.stringMatching(/^text\.small “Door 12” on A-101 is 1\.25 mm high/));
    expect(told).toContainEqual(expect.stringMatching(/^line\.thin Lines on A-FURN of A-101 print only 0\.09 mm wide/));
    expect(told).toContainEqual(expect.stringMatching(/^page\.resized .*Half scale: A1.* printed on A3/));
  });

  it('is to scale at 100 %, and what lies off the paper is told', () => {
    const told = (options: PageOptions) =>
      found([{ paper: { name: 'A1', orientation: 'landscape' } }], [{}], {
        package: { ...PACKAGE, order: ['s0'], pages: { s0: options } },
      })
        .filter(({ code }) => code.startsWith('page.'))
        .map(({ code, sentence }) => `${code} ${sentence}`);
    expect(told({ percent: 100 })).toEqual([]);
    expect(told({ percent: 90 })).toEqual([expect.stringMatching(/^page\.resized .*At 90 % of its scale: A1/)]);
    // Moved by 12 mm, as far of it lies off its own paper; A1 is 841 mm long, A3 420, and half the rest on either side.
    expect(told({ offsetX: 12 })).toEqual([expect.stringMatching(/^page\.cut A-101 reaches 12\.0 mm beyond the A1/)]);
    const onA3 = { paper: { name: 'A3', orientation: 'landscape' as const }, percent: 100 };
    expect(told(onA3)).toEqual([expect.stringMatching(/^page\.cut A-101 reaches 210\.5 mm beyond the A3/)]);
  });

  it('is stopped where the paper is not there', () => {
    expect(onA3({}, 'A33')[0]).toMatch(/^page\.paper A-101 is to be printed on A33, a paper that does not exist/);
  });
});

describe('a typeface that may not be embedded', () => {
  it('is told for the sheets that use it', () => {
    const bound = {
      id: 'bound',
      name: 'Bound',
      file: 'b.ttf',
      hash: 'b'.repeat(64),
      asked: [],
      embedding: 'none' as const,
    };
    const free = { id: 'free', name: 'Free', file: 'f.ttf', hash: 'f'.repeat(64), asked: [] };
    const project = { ...PROJECT, typefaces: [bound, free] };
    const own = [bound, free].map(({ hash }) => ownFontId(hash));
    const told = found([{}, {}], [lettering({ own }), lettering({ own: own.slice(1) })], { project });
    expect(told.filter(({ code }) => code === 'text.outlined').map(({ sentence }) => sentence)).toEqual([
      'A-101 has texts in Bound, which may not be embedded; its PDF has them as outlines over text that can be searched.',
    ]);
  });
});

describe('texts in a typeface that the project does not have', () => {
  const style = { id: 'code', name: 'Code', size: 2.5, font: 'office' };
  const project = {
    ...PROJECT,
    textStyles: [style],
    titleBlocks: [
      {
        id: 'own',
        name: 'Own',
        width: 100,
        height: 40,
        place: 'corner',
        cells: [{ x: 0, y: 0, width: 50, height: 9, font: 'lost' }],
      },
    ],
  };
  const note = { id: 'n', kind: 'text' as const, at: [10, 10] as [number, number], text: 'Fire door', style: 'code' };
  const told = (sheets: Partial<Sheet>[], typefaces: OwnTypeface[] = []) =>
    found(sheets, [], { project: { ...project, typefaces } as ProjectFacts })
      .filter(({ code }) => code === 'text.typeface')
      .map(({ sentence }) => sentence.replace(/;.*/, ''));

  it('are found, each typeface once for a sheet', () => {
    const block = { titleBlock: { template: 'own', values: {} } } as unknown as Partial<Sheet>;
    expect(told([{ notes: [note, { ...note, id: 'm' }] as Note[] }, block, {}])).toEqual([
      'A-101 has texts in the typeface "office", which this project does not have',
      'A-102 has texts in the typeface "lost", which this project does not have',
    ]);
    expect(told([{ notes: [note] as Note[] }], [{ id: 'office', name: 'Office', file: 'o.ttf', asked: [] }])).toEqual(
      [],
    );
  });
});

describe('DXF at true size', () => {
  const views = (...scales: number[]) => ({
    views: scales.map((scale, i) => ({ id: `v${i}`, scale, box: box(0, 0, 400 - 100 * i, 200) })),
  });
  const told = (dxfSize: 'sheet' | 'model', page: Partial<ComposedFacts>) =>
    found([{}], [page], { package: { ...PACKAGE, order: ['s0'], extraFormats: { formats: ['dxf'], dxfSize } } })
      .filter(({ code }) => code.startsWith('dxf.'))
      .map(({ code, sentence }) => `${code} ${sentence}`);

  it('says which views do not have it, and which sheets cannot', () => {
    expect(told('sheet', views(0.01, 0.01))).toEqual([]);
    expect(told('sheet', views(0.01, 0.05))).toEqual([
      expect.stringMatching(/^dxf\.other-scales In the DXF file of A-101, only views at 1:100 .* a view at 1:20;/),
    ]);
    expect(told('model', views(0.01, 0.05))).toEqual([]);
    expect(told('model', {})).toEqual([expect.stringMatching(/^dxf\.no-scale A-101 shows nothing at a scale/)]);
  });
});

describe('what DXF has nothing for', () => {
  const told = (page: Partial<ComposedFacts>, formats: 'dxf'[] = ['dxf']) =>
    found([{}], [page], { package: { ...PACKAGE, order: ['s0'], extraFormats: { formats } } })
      .filter(({ code }) => code.startsWith('dxf.'))
      .map(({ sentence }) => sentence);

  it('is said of sheets that are written as DXF: gradients, masks, groups that are transparent as a whole', () => {
    expect(told({})).toEqual([]);
    expect(told({ gradients: true, transparencyGroups: true }, [])).toEqual([]);
    expect(told({ gradients: true })).toEqual([expect.stringContaining('A-101 shows gradients')]);
    expect(told({ transparencyGroups: true })).toEqual([expect.stringContaining('A-101 shows masks or groups')]);
  });
});

describe('checks of composed sheets', () => {
  it.each<[string, Partial<Sheet>, Partial<ComposedFacts>, string]>([
    ['sheet.empty', {}, lettering({ drawn: 0 }), 'Nothing is drawn on A-101'],
    ['sheet.over-frame', {}, { overFrame: 2 }, '2 lines or texts reach over the frame of A-101'],
    ['sheet.outside', {}, { outside: { count: 3, boxes: [] } }, '3 marks lie outside the printable area of A-101'],
    ['text.small', {}, lettering({ least: { height: 1.5, text: 'Door 12' } }), '“Door 12” on A-101 is 1.5 mm high'],
    [
      'line.thin',
      {},
      lettering({ thinnest: { width: 0.05, layer: 'A-FURN' } }),
      'Lines on A-FURN of A-101 print only 0.05 mm',
    ],
    ['text.glyphs', {}, { warnings: [{ code: 'sheet.glyphs', sentence: 'No ⚓.', place: {} }] }, 'A-101: No ⚓.'],
    [
      'sheet.paper-said',
      { from: { drawing: 'd', layout: 'l' } },
      lettering({ papers: ['A0'] }),
      'A-101 says A0 but measures A1',
    ],
    [
      'sheet.scale-said',
      { from: { drawing: 'd', layout: 'l' } },
      { ...lettering({ scales: ['1:50'] }), viewports: [{ scale: 1 / 100, box: box(0, 0, 9, 9) }] },
      'A-101 says 1:50',
    ],
    ['view.odd-scale', { views: [VIEW] }, { views: [{ id: VIEW.id, scale: 1 / 73, box: box(0, 0, 9, 9) }] }, '1:73'],
    [
      'view.cut',
      {},
      { outside: { count: 1, boxes: [] }, views: [{ id: 'v', scale: 1, box: box(800, 10, 861, 90) }] },
      'reaches 20 mm beyond the paper',
    ],
    [
      'view.overlap',
      {},
      { views: [1, 2].map((i) => ({ id: `v${i}`, scale: 1, box: box(10 * i, 0, 10 * i + 30, 40) })) },
      'The view v1 and the view v2 on A-101 overlap by 20 × 40 mm',
    ],
    ['text.dangling', {}, { names: ['A-999', 'B-2', '24X36'] }, 'A-101 refers to A-999, but no such sheet exists'],
  ])('%s', (code, sheet, page, words) => {
    const [finding] = found([sheet], [page]).filter((one) => one.code === code);
    expect(finding?.sentence).toContain(words);
    // The same sheet as it should be has nothing of the kind.
    expect(found([{}], [PAGE]).map((one) => one.code)).not.toContain(code);
  });

  it('know sheets of the project that are not in the package from those that are not at all', () => {
    const more = { package: { ...STANDARD, order: ['s0'] } };
    const codes = found([{}, {}], [{ names: ['A-102'] }], more).map(({ code }) => code);
    expect(codes).toContain('text.outside');
    expect(codes).not.toContain('text.dangling');
  });

  it('stop pages that PDF 1.4 cannot say', () => {
    const page = { paper: { width: 5200, height: 900 } };
    const codes = (version: '1.4' | '1.7') =>
      found([{}], [page], { recipe: { ...STANDARD_RECIPE, version } }).map(({ code }) => code);
    expect(codes('1.4')).toContain('sheet.giant');
    expect(codes('1.7')).not.toContain('sheet.giant');
  });

  it('take pages that the package adds for no sheets: their numbers have no form, and they need no revision', () => {
    const extras = [{ id: 'd', kind: 'divider' as const, number: 'D1', title: 'Details' }];
    const order = ['s0', 'd'];
    const resolved = resolvePackage({ ...STANDARD, order, extras }, [{ ...SHEET, id: 's0', number: 'A-101' }], PROJECT);
    const input: PlanInput = {
      ...{ project: PROJECT, groups: [], runDate: '2026-11-26', recipe: STANDARD_RECIPE, ...resolved },
      pages: new Map([['s0', { ...PAGE, names: ['D2', 'A-102'] }]]),
    };
    const sentences = runChecks(input, outputPlan(input)).map(({ sentence }) => sentence);
    expect(sentences).toContainEqual(expect.stringContaining('refers to A-102, but no such'));
    expect(sentences.join()).not.toContain('D2');
    expect(sentences.join()).not.toContain('D1 has no revision');
  });

  it('tell of several sizes in one file', () => {
    const [finding] = found([{}, {}], [{}, { paper: { width: 420, height: 297 } }]).filter(
      ({ code }) => code === 'file.mixed-papers',
    );
    expect(finding?.sentence).toContain('A1; A3');
  });
});

describe('checks of numbers and revisions', () => {
  it('find what is left out while numbers count up, but no other hundred', () => {
    const gaps = (...numbers: string[]) =>
      found(numbers.map((number) => ({ number }))).flatMap(({ code, sentence }) =>
        code === 'number.gap' ? [sentence] : [],
      );
    expect(gaps('A-101', 'A-102', 'A-104')).toEqual([expect.stringContaining('no A-103')]);
    expect(gaps('A-101', 'A-201', 'A-202')).toEqual([]);
    expect(gaps('A-101', 'S-103')).toEqual([]);
  });

  it('find sheets without a revision among others, and revisions older than a drawing', () => {
    expect(found([{}, {}]).map(({ code }) => code)).not.toContain('revision.missing');
    expect(found([{ revision: REVISION }, {}]).map(({ code }) => code)).toContain('revision.missing');
    const view = { ...VIEW, drawing: 'd' };
    const drawing = (at: string) => new Map([['d', { name: 'plan.dxf', version: 2, at, references: ['grid.dxf'] }]]);
    const codes = (at: string) =>
      found([{ revision: REVISION, views: [view] }], [], { latest: drawing(at) }).map(({ code }) => code);
    expect(codes('2026-11-21')).toContain('revision.old');
    expect(codes('2026-11-20')).not.toContain('revision.old');
    expect(codes('2026-11-20')).toContain('drawing.missing-file');
  });

  it('name sheets that no package holds', () => {
    const packages = [{ order: ['s0'] }];
    const codes = found([{}, {}], [], { packages, package: { ...STANDARD, order: ['s0'] } }).map(({ code }) => code);
    expect(codes).toContain('project.unused-sheets');
  });
});

const STANDARD = { id: 'p', name: 'P', recipe: '', order: [], bundling: 'one' as const, names: STANDARD_NAMES };

describe('what people say of findings', () => {
  const small = lettering({ least: { height: 1.5, text: 'x' } });

  it('weighs them otherwise, but never a stop', () => {
    const weighed = (checks: NonNullable<PlanInput['project']['checks']>) =>
      found([{}], [small], { project: { ...PROJECT, checks } }).find(({ code }) => code === 'text.small')?.severity;
    expect(weighed({ 'text.small': 'stop' })).toBe('stop');
    expect(weighed({ 'text.small': 'off' })).toBeUndefined();
    const empty = { project: { ...PROJECT, checks: { 'package.empty': 'off' as const } } };
    expect(found([], [], empty).map(({ code }) => code)).toContain('package.empty');
  });

  it('lets them be with a reason, last in the list, until they say something else', () => {
    const finding = found([{}], [small]).find(({ code }) => code === 'text.small')!;
    const accepted = [{ finding: findingKey(finding), reason: 'The client wants it.' }];
    const pack = { ...STANDARD, order: ['s0'], accepted };
    expect(found([{}], [small], { package: pack }).at(-1)).toMatchObject({ accepted: 'The client wants it.' });
    const other = found([{}], [lettering({ least: { height: 1.4, text: 'x' } })], { package: pack });
    expect(other.find(({ code }) => code === 'text.small')).not.toHaveProperty('accepted');
  });
});

describe('the list of checks', () => {
  it('has every code once, and docs/checks.md tells each with its weight', () => {
    const codes = FINDINGS.map(([code]) => code);
    expect(new Set(codes).size).toBe(codes.length);
    const page = readFileSync(new URL('../../../docs/checks.md', import.meta.url), 'utf8').replace(/ +/g, ' ');
    for (const [code, severity, finds] of FINDINGS) expect(page).toContain(`| \`${code}\` | ${severity} | ${finds} |`);
  });
});
