import {
  checkRun,
  prepareRun,
  STANDARD_NAMES,
  STANDARD_RECIPE,
  type IssuedState,
  type PlanInput,
  type Recipe,
  type SeenFacts,
  type Sheet,
} from '../../src/index';
import { PROJECT, SHEET, VIEW } from '../support/sheets';

const REVISED: Sheet = { ...SHEET, views: [VIEW], revision: { index: 'P01', date: '2026-11-20', text: '' } };
const latest: NonNullable<PlanInput['latest']> = new Map([['d', { name: 'plan.dxf', version: 1, hash: 'one' }]]);

/** Sentences of a check for one sheet. */
function found(code: string, sheet: Sheet, seen: SeenFacts, recipe: Recipe = STANDARD_RECIPE): string[] {
  const pack = {
    id: 'p',
    name: 'Permit',
    recipe: recipe.id,
    order: ['s'],
    bundling: 'one' as const,
    names: STANDARD_NAMES,
  };
  const facts = {
    project: PROJECT,
    groups: [],
    sheets: [sheet],
    recipes: [recipe],
    packages: [pack],
    runDate: '2026-11-29',
  };
  return checkRun(prepareRun({ ...facts, latest, package: pack }), seen)
    .filter((finding) => finding.code === code)
    .map(({ sentence }) => sentence);
}

describe('a sheet that was issued', () => {
  const was = (state: Partial<IssuedState> = {}): SeenFacts => ({
    issued: new Map([['s', { issue: 2, revision: 'P01', sheet: REVISED, contents: { d: 'one' }, ...state }]]),
  });
  const changed = (sheet: Sheet, seen: SeenFacts) => found('revision.unchanged', sheet, seen);

  it('and is still the same needs no new revision', () => {
    expect(changed(REVISED, was())).toEqual([]);
    // Held or not, it shows the same.
    expect(changed({ ...REVISED, views: [{ ...VIEW, held: 1 }] }, was())).toEqual([]);
    expect(changed({ ...REVISED, revisions: [{ index: 'P00', date: '2026-11-01', text: '' }] }, was())).toEqual([]);
  });

  it('and was edited, or shows a drawing that changed, needs one', () => {
    expect(changed({ ...REVISED, title: 'Ground floor' }, was())).toEqual([
      'A-101 changed since issue 2, but the sheet is still revision P01; raise the revision before it is issued again.',
    ]);
    expect(changed(REVISED, was({ contents: { d: 'another' } }))).toEqual([
      'plan.dxf on A-101 changed since issue 2, but the sheet is still revision P01; raise the revision before it is issued again.',
    ]);
    const bare = { ...REVISED, revision: undefined, title: 'Ground floor' };
    expect(changed(bare, was({ revision: '' }))[0]).toContain('but the sheet has no revision');
  });

  it('and was raised is left alone, as is one that was never issued', () => {
    expect(changed({ ...REVISED, title: 'X', revision: { ...REVISED.revision!, index: 'P02' } }, was())).toEqual([]);
    expect(changed({ ...REVISED, title: 'X' }, { issued: new Map() })).toEqual([]);
    expect(changed({ ...REVISED, title: 'X' }, {})).toEqual([]);
  });
});

describe('passwords', () => {
  const recipe = (version?: Recipe['version']): Recipe => ({
    ...STANDARD_RECIPE,
    id: 'r',
    ...(version && { version }),
  });
  const stopped = (version: Recipe['version'], seen: SeenFacts) =>
    found('file.protected', SHEET, seen, recipe(version)).length > 0;

  it.each([
    // ISO 19005-2, 6.1.3: no encryption in PDF/A-2; PDF 1.4 knows RC4 only (ISO 32000-1, 7.6.1), which is broken.
    ['1.4', true],
    ['A-2b', true],
    ['1.7', false],
    ['2.0', false],
  ] as const)('for PDF %s stop a run: %s', (version, stops) => {
    expect(stopped(version, { isProtected: true })).toBe(stops);
    expect(stopped(version, { isProtected: false })).toBe(false);
    expect(stopped(version, {})).toBe(false);
  });

  it('of the recipe of a job file count, too', () => {
    const own: Recipe = { ...recipe('1.4'), protect: { open: 'x', change: '' } as Recipe['protect'] };
    expect(found('file.protected', SHEET, {}, own)).toHaveLength(1);
  });
});
