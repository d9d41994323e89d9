import {
  checkRun,
  paperOfChoice,
  plainInputs,
  plannedPages,
  prepareRun,
  preparedSheets,
  sheetContexts,
  sheetInputs,
  STANDARD_NAMES,
  STANDARD_RECIPE,
  takenPaths,
  tileGrid,
  type PublishingFacts,
  type Recipe,
  type Sheet,
  type SheetPackage,
} from '../../src/index';
import { PROJECT, SHEET } from '../support/sheets';

const BLACK: Recipe = { ...STANDARD_RECIPE, id: 'black', name: 'All black', colour: 'black', pens: 'ours' };
const OURS = { id: 'ours', name: 'Ours', rules: [] };
const SHEETS: Sheet[] = [
  { ...SHEET, id: 'plan', number: 'A-101', title: 'Plan', group: 'g' },
  { ...SHEET, id: 'roof', number: 'A-102', title: 'Roof', group: 'g' },
  { ...SHEET, id: 'detail', number: 'A-501', title: 'Detail', group: 'h' },
];

function facts(pack: Partial<SheetPackage> = {}, more: Partial<PublishingFacts> = {}): PublishingFacts {
  const whole: SheetPackage = {
    id: 'p',
    name: 'Permit',
    recipe: 'black',
    order: ['roof', 'plan'],
    bundling: 'one',
    names: STANDARD_NAMES,
    ...pack,
  };
  return {
    project: { ...PROJECT, penSchedules: [OURS], namings: [] },
    groups: [
      { id: 'g', name: 'Plans' },
      { id: 'h', name: 'Details' },
    ],
    sheets: SHEETS,
    recipes: [BLACK],
    package: whole,
    packages: [whole],
    latest: undefined,
    runDate: '2026-11-25',
    ...more,
  };
}

describe('a prepared run', () => {
  it('has its rules worked out: sheets by group, pages that stay behind others, pages left out', () => {
    const pack: Partial<SheetPackage> = {
      members: { groups: ['h'] },
      after: { roof: 'detail' },
      pages: { plan: { skip: true } },
    };
    const { input } = prepareRun(facts(pack));
    expect(input.package.order).toEqual(['detail', 'roof']);
    expect(preparedSheets(input).map(({ number }) => number)).toEqual(['A-501', 'A-102']);
  });

  it('has the recipe that its package names, or the standard one where it does not exist', () => {
    expect(prepareRun(facts()).input.recipe).toBe(BLACK);
    expect(prepareRun(facts({ recipe: 'gone' })).input.recipe).toEqual(STANDARD_RECIPE);
  });

  it('tells the pages of its PDFs: copies and tiles are pages of their own, other formats are not', () => {
    const pages = (pack: Partial<SheetPackage>) => plannedPages(prepareRun(facts(pack)));
    expect(pages({})).toBe(2);
    expect(pages({ pages: { plan: { copies: 3 } } })).toBe(4);
    expect(pages({ extraFormats: { formats: ['svg'] } })).toBe(2);
    const tiles = { paper: { name: 'A4', orientation: 'landscape' as const }, overlap: 10 };
    const grid = tileGrid(paperOfChoice(SHEET.paper!)!, { ...tiles, paper: paperOfChoice(tiles.paper)! })!;
    expect(grid.tiles.length).toBeGreaterThan(1);
    expect(pages({ tiles })).toBe(2 * grid.tiles.length);
  });

  it('has the destination with its rules resolved, where it is delivered', () => {
    expect(prepareRun(facts()).destinations).toEqual([]);
    const to = (folder: string) =>
      prepareRun(facts({ destinations: [{ kind: 'folder', folder, onConflict: 'stop' }] })).destinations[0];
    expect(to('Sent/[project.number]')).toEqual({
      ok: true,
      value: { kind: 'folder', folder: 'Sent/2617', onConflict: 'stop' },
    });
    expect(to('Sent/[project.number')).toMatchObject({ ok: false });
  });

  it('makes each sheet once, however often a package shows it', () => {
    const { input, plan } = prepareRun(facts({ order: ['plan', 'roof', 'plan'] }));
    expect(preparedSheets(input).map(({ id }) => id)).toEqual(['plan', 'roof']);
    expect(Object.keys(sheetContexts(input)).sort()).toEqual(['plan', 'roof']);
    expect(plan.files).toHaveLength(1);
  });

  it('does not change what it is made from', () => {
    const given = facts({ members: { groups: ['h'] }, after: { roof: 'detail' } });
    const before = structuredClone(given);
    prepareRun(given);
    expect(given).toEqual(before);
  });
});

describe('the checks of a prepared run', () => {
  const codes = (given: PublishingFacts, seen: Parameters<typeof checkRun>[1] = {}): string[] =>
    checkRun(prepareRun(given), seen).map(({ code }) => code);

  it('look at what is at the destination only where that is known', () => {
    const given = facts({ destinations: [{ kind: 'folder', folder: 'Sent', onConflict: 'stop' }] });
    const { path } = prepareRun(given).plan.files[0]!;
    expect(codes(given)).not.toContain('destination.there');
    expect(codes(given, { there: [takenPaths({ paths: [path] })] })).toContain('destination.there');
    expect(codes(given, { there: [takenPaths({ paths: ['another.pdf'] })] })).not.toContain('destination.there');
  });

  it('are the same for the same package, however its sheets come', () => {
    const given = facts({ recipe: 'gone', names: { ...STANDARD_NAMES, bundle: '[sheet.number' } });
    expect(codes(given)).toEqual(codes({ ...given, sheets: [...SHEETS].reverse() }));
    expect(codes(given).length).toBeGreaterThan(0);
  });
});

describe('what one sheet of a run is made from', () => {
  const made = (pack: Partial<SheetPackage> = {}) => {
    const { input } = prepareRun(facts(pack));
    return sheetInputs(input, SHEETS[0]!, sheetContexts(input)['plan']!);
  };

  it('is the recipe of the package, unless its page prints in a mode of its own', () => {
    expect(made().recipe.colour).toBe('black');
    expect(made({ pages: { plan: { colour: 'greys' } } }).recipe.colour).toBe('greys');
    expect(made({ pages: { roof: { colour: 'greys' } } }).recipe.colour).toBe('black');
  });

  it('includes the pens that its recipe names, and none where it names none', () => {
    expect(made().schedule).toEqual(OURS);
    expect(made({ recipe: 'gone' }).schedule).toBeUndefined();
  });

  it('includes the paper that its page goes on, or the pages that it is cut to', () => {
    expect(made().onto).toBeUndefined();
    expect(made().tiling).toBeUndefined();
    expect(made({ pages: { plan: { paper: { name: 'A3', orientation: 'landscape' } } } }).onto?.paper).toMatchObject({
      width: 420,
      height: 297,
    });
    const tiles = { paper: { name: 'A4', orientation: 'portrait' as const }, overlap: 10 };
    expect(made({ tiles }).tiling).toBeDefined();
  });

  it('leaves out what sheets are not made from, so that a change of it makes none again', () => {
    const { project } = plainInputs(facts().project, SHEETS[0]!, {}, BLACK);
    expect(project).not.toHaveProperty('penSchedules');
    expect(project).not.toHaveProperty('namings');
    expect(project).toMatchObject(PROJECT);
  });
});
