import type { Action } from '@ngrx/store';
import { packageChange, type DrawingInfo, type ProjectInfo, type ProjectSummary, type RunInfo } from '@folvex/contract';
import { checkRun, prepareRun, type PreparedRun, type Sheet, type SheetPackage } from '@folvex/core';
import { DrawingActions } from '../../src/state/drawings/drawings.actions';
import { selectUses } from '../../src/state/drawings/drawings.selectors';
import { EditActions } from '../../src/state/edits/edits.actions';
import { selectHistory } from '../../src/state/edits/edits.selectors';
import { NoticeActions, type Notice } from '../../src/state/notices/notices.actions';
import { PackageActions } from '../../src/state/packages/packages.actions';
import {
  selectPackageSheets,
  selectPublishingFacts,
  selectSheetsOutside,
  selectStripPages,
  selectUnsavedPackages,
} from '../../src/state/packages/packages.selectors';
import { selectPageSources } from '../../src/state/pages/page-sources';
import { ProjectActions, SettingsActions } from '../../src/state/project/project.actions';
import { projectFeature } from '../../src/state/project/project.reducer';
import { RunActions } from '../../src/state/runs/runs.actions';
import { runsFeature } from '../../src/state/runs/runs.reducer';
import { selectLatestRun, selectOpenRun } from '../../src/state/runs/runs.selectors';
import { SheetActions } from '../../src/state/sheets/sheets.actions';
import { selectLaidOutScales, selectOutOfDate, selectSheetsByGroup } from '../../src/state/sheets/sheets.selectors';
import { after, whole, type State } from '../support/state';

export const sheet = (id: string, number: string, group = 'g'): Sheet => ({
  id,
  number,
  title: `Title ${number}`,
  group,
  paper: { name: 'A1', orientation: 'landscape' },
  frame: 'iso5457',
  titleBlock: undefined,
  revision: undefined,
  views: [
    { id: 'v', drawing: 'd', space: 'model', window: 'extents', scale: '1:50', at: 'centre', layersOff: [], label: '' },
  ],
});
const pack: SheetPackage = {
  id: 'p',
  name: 'Permit',
  recipe: '',
  order: ['b', 'a'],
  bundling: 'sheet',
  names: { file: '[sheet.number]', folder: '', bundle: '[package.name]' },
};
const prepared = (state: State): PreparedRun => prepareRun(selectPublishingFacts('2026-11-25')(state)!);
const paths = (state: State): string[] => prepared(state).plan.files.map(({ path }) => path);
const info: ProjectInfo = {
  id: 'project',
  project: { number: '1', name: 'P', client: '', fields: {} },
  groups: [
    { id: 'g', name: 'Plans' },
    { id: 'empty', name: 'Empty' },
  ],
  drawings: [{ id: 'd', name: 'd.dxf', unit: null, at: '2026-11-20T10:00:00.000Z' } as DrawingInfo],
  sheets: [sheet('a', 'A-10'), sheet('b', 'A-2'), sheet('c', 'X-1', 'gone')],
  packages: [pack],
  recipes: [],
  history: { undo: null, redo: null },
  runs: [],
};
const run = (id: string, state: RunInfo['state'], createdAt: string): RunInfo =>
  ({ id, packageId: 'p', packageName: 'Permit', state, createdAt, sheets: [], files: [] }) as unknown as RunInfo;

const summary = (id: string, name: string): ProjectSummary => ({
  ...{ id, number: '1', name, client: '', sheets: 0, drawings: 0, packages: 0 },
  ...{ cover: null, lastRun: null, removedAt: null },
});
const arrived = ProjectActions.projectArrived({ info });

describe('what the project is', () => {
  it('is loading, then ready, or tells why it did not arrive', () => {
    expect(whole(after()).status).toBe('loading');
    expect(whole(after(arrived))).toMatchObject({ status: 'ready', id: 'project', chosenPackage: 'p' });
    const problem = { code: 'offline' as const, sentence: 'The server cannot be reached.', place: {} };
    const failed = after(ProjectActions.projectDidNotArrive({ problem }));
    expect(whole(failed)).toMatchObject({ status: 'error', loadProblem: problem });
    const again = projectFeature.reducer(failed.project, ProjectActions.reloadAskedFor());
    expect(again).toMatchObject({ status: 'loading', loadProblem: null });
  });

  it('shows sheets by group in the order of their numbers, those of no known group last', () => {
    const groups = selectSheetsByGroup(after(arrived));
    expect(groups.map(({ name, sheets }) => [name, sheets.map(({ number }) => number)])).toEqual([
      ['Plans', ['A-2', 'A-10']],
      ['No group', ['X-1']],
    ]);
  });

  it('shows a package in its reading order, and what it does not hold', () => {
    const state = after(arrived);
    expect(selectPackageSheets(state).map(({ id }) => id)).toEqual(['b', 'a']);
    expect(selectSheetsOutside(state).map(({ id }) => id)).toEqual(['c']);
    expect(selectUses(state)).toEqual({ d: 3 });
  });

  it('counts a drawing that another one refers to as shown with it', () => {
    const referring = { ...info.drawings[0]!, references: ['Survey.dxf', 'gone.dxf'] };
    const survey = { ...referring, id: 'survey', name: 'survey.dxf', references: ['contours.dxf'] };
    // One that refers back is counted once.
    const contours = { ...referring, id: 'contours', name: 'contours.dxf', references: ['d.dxf'] };
    const drawings = [referring, survey, contours];
    const state = after(ProjectActions.projectArrived({ info: { ...info, drawings } }));
    expect(selectUses(state)).toEqual({ d: 3, survey: 3, contours: 3 });
  });

  it('gives what the files to be written follow from, at once as the package is edited', () => {
    expect(paths(after(arrived))).toEqual(['A-2.pdf', 'A-10.pdf']);
    const edited = PackageActions.packageEdited({ packageId: 'p', change: { bundling: 'one' } });
    expect(paths(after(arrived, edited))).toEqual(['Permit.pdf']);
    const blank = PackageActions.packageEdited({
      packageId: 'p',
      change: { names: { ...pack.names, file: '[sheet.revision]' } },
    });
    expect(checkRun(prepared(after(arrived, blank)), {})[0]).toMatchObject({ severity: 'stop' });
  });

  it('takes away of a package what an edit takes away, to be sent as such', () => {
    const parts = {
      destinations: [{ kind: 'folder' as const, folder: 'out', onConflict: 'stop' as const }],
      extraFormats: { formats: ['svg' as const] },
      tiles: { paper: { name: 'A3', orientation: 'portrait' as const }, overlap: 10 },
    };
    const full = { ...pack, ...parts };
    const state = after(
      ProjectActions.projectArrived({ info: { ...info, packages: [full] } }),
      PackageActions.packageEdited({
        packageId: 'p',
        change: { destinations: null, extraFormats: null, tiles: null },
      }),
    );
    const [edited] = selectUnsavedPackages(state);
    expect(edited!.ours).toEqual(pack);
    const none = { destinations: null, extraFormats: null, tiles: null };
    expect(packageChange(edited!.saved, edited!.ours)).toEqual({ ...none, was: parts });
  });

  it('shows what a package takes in by itself, what it adds and what it skips, and writes the rest', () => {
    const change = {
      order: ['x', 'b'],
      members: { groups: ['g'] },
      extras: [{ id: 'x', kind: 'divider' as const, number: 'D1', title: 'Plans' }],
      pages: { b: { skip: true as const } },
    };
    const state = after(arrived, PackageActions.packageEdited({ packageId: 'p', change }));
    const shown = selectStripPages(state).map(({ id, byRule, options }) => [id, byRule, options.skip ?? false]);
    expect(shown).toEqual([
      ['x', false, false],
      ['b', false, true],
      ['a', true, false],
    ]);
    expect(paths(state)).toEqual(['D1.pdf', 'A-10.pdf']);
  });

  it('knows the scales of sheets from layouts, in the unit that their drawing is taken to be in', () => {
    const layouts = [{ name: 'L', paper: null, viewports: [20, 0.5] }];
    const scales = (drawing: Partial<DrawingInfo>, held?: number) => {
      const from = { drawing: 'd', layout: 'L', ...(held && { held }) };
      const laid = SheetActions.sheetSaved({ sheet: { ...sheet('a', 'A-10'), views: [], from } });
      const changed = DrawingActions.drawingChanged({ drawing: { ...info.drawings[0]!, layouts, ...drawing } });
      return selectLaidOutScales(after(arrived, laid, changed));
    };
    expect(scales({ unit: 'm' })).toEqual({ a: [{ scale: 1 / 50 }, { scale: 1 / 2000 }] });
    expect(scales({ unit: null, ownUnit: null })).toEqual({});
    expect(scales({ unit: 'm' }, 1)).toEqual({});
    expect(scales({ unit: 'm', layouts: [{ name: 'L', paper: null }] })).toEqual({});
  });

  it('paints a sheet anew when it, or the unit of a drawing, changed', () => {
    const version = (...actions: Action[]) => selectPageSources(after(arrived, ...actions))['a']!.version;
    const titled = SheetActions.sheetSaved({ sheet: { ...sheet('a', 'A-10'), title: 'New' } });
    const unit = DrawingActions.drawingChanged({ drawing: { ...info.drawings[0]!, unit: 'mm' } });
    expect(new Set([version(), version(titled), version(unit)]).size).toBe(3);
    expect(version(SheetActions.sheetSaved({ sheet: sheet('b', 'B') }))).toBe(version());
  });

  it('does not paint sheets anew when pens or naming rules change, which they are not made from', () => {
    const { project, groups, recipes } = info;
    const saved = (more: Partial<typeof project>) => {
      const settings = { project: { ...project, ...more }, groups, recipes };
      const action = SettingsActions.settingsSaved({ settings, sent: settings });
      return selectPageSources(after(arrived, action))['a']!.version;
    };
    expect(saved({ penSchedules: [{ id: 'ours', name: 'Ours', rules: [] }], namings: [] })).toBe(saved({}));
    expect(saved({ client: 'Another' })).not.toBe(saved({}));
  });
});

describe('edits of a package', () => {
  const edited = (file: string) =>
    PackageActions.packageEdited({ packageId: 'p', change: { names: { ...pack.names, file } } });

  it('are unsaved until the server has the last of them', () => {
    const saved = (file: string) => {
      const sent = { ...pack, names: { ...pack.names, file } };
      return PackageActions.packageSaved({ pack: sent, sent });
    };
    expect(whole(after(arrived)).unsaved).toEqual([]);
    expect(whole(after(arrived, edited('a'), edited('ab'))).unsaved).toEqual(['p']);
    expect(whole(after(arrived, edited('a'), edited('ab'), saved('a'))).unsaved).toEqual(['p']);
    expect(whole(after(arrived, edited('a'), edited('ab'), saved('a'), saved('ab'))).unsaved).toEqual([]);
  });
});

describe('a package on two screens', () => {
  const packIn = (...actions: Action[]): SheetPackage => whole(after(arrived, ...actions)).packages.entities['p']!;

  it('takes what another screen changed, and keeps what is edited here', () => {
    const notes = PackageActions.packageEdited({ packageId: 'p', change: { notes: 'ours' } });
    const later = PackageActions.packageEdited({ packageId: 'p', change: { purpose: 'later' } });
    const answer = { ...pack, notes: 'ours', date: '2026-12-01' };
    const saved = PackageActions.packageSaved({ pack: answer, sent: { ...pack, notes: 'ours' } });
    expect(packIn(notes, later, saved)).toEqual({ ...answer, purpose: 'later' });
    expect(whole(after(arrived, notes, later, saved)).unsaved).toEqual(['p']);
    expect(whole(after(arrived, notes, saved)).unsaved).toEqual([]);
  });

  it('is changed for one run only, until that is kept or dropped', () => {
    const begun = PackageActions.trialBegun({ packageId: 'p' });
    const edited = PackageActions.packageEdited({ packageId: 'p', change: { bundling: 'group' } });
    expect(packIn(begun, edited).bundling).toBe('group');
    expect(whole(after(arrived, begun, edited)).unsaved).toEqual([]);
    const dropped = PackageActions.trialEnded({ packageId: 'p', keep: false });
    expect(packIn(begun, edited, dropped)).toEqual(pack);
    const kept = PackageActions.trialEnded({ packageId: 'p', keep: true });
    expect(packIn(begun, edited, kept).bundling).toBe('group');
    expect(whole(after(arrived, begun, edited, kept)).unsaved).toEqual(['p']);
  });

  it('shows what the server has once an edit is refused; edits of other packages stay', () => {
    const other = { ...pack, id: 'q' };
    const bothArrived = ProjectActions.projectArrived({ info: { ...info, packages: [pack, other] } });
    const edited = (packageId: string) => PackageActions.packageEdited({ packageId, change: { bundling: 'group' } });
    const theirs = { ...pack, bundling: 'one' as const };
    const anew = PackageActions.packageShownAnew({ packageId: 'p', pack: theirs });
    const state = whole(after(bothArrived, edited('q'), edited('p'), anew));
    expect(state.packages.entities['p']).toEqual(theirs);
    expect(state.packages.entities['q']!.bundling).toBe('group');
    expect(state.unsaved).toEqual(['q']);
    const gone = PackageActions.packageShownAnew({ packageId: 'p', pack: null });
    expect(whole(after(bothArrived, edited('p'), gone))).toMatchObject({ unsaved: [], packages: { ids: ['q'] } });
  });

  it('has nothing changed for one run only while an edit that is to be kept is on its way', () => {
    const kept = PackageActions.packageEdited({ packageId: 'p', change: { bundling: 'group' } });
    const begun = PackageActions.trialBegun({ packageId: 'p' });
    expect(whole(after(arrived, kept, begun)).trial).toBeNull();
    const sent = { ...pack, bundling: 'group' as const };
    const saved = PackageActions.packageSaved({ pack: sent, sent });
    expect(whole(after(arrived, kept, saved, begun)).trial).toBe('p');
  });

  it('can have its edit undone at once, before the server names it; not what is for one run only', () => {
    const edited = PackageActions.packageEdited({ packageId: 'p', change: { bundling: 'group' } });
    expect(selectHistory(after(arrived, edited))).toEqual({ undo: 'the last edit', redo: null });
    const begun = PackageActions.trialBegun({ packageId: 'p' });
    expect(selectHistory(after(arrived, begun, edited))).toEqual({ undo: null, redo: null });
  });

  it('comes back and goes with steps back', () => {
    const history = { undo: null, redo: null };
    const step = { words: 'package Permit', sheets: [], removed: [], facts: {}, history };
    const gone = EditActions.stepped({ way: 'undo', step: { ...step, packGone: 'p' } });
    const back = EditActions.stepped({ way: 'redo', step: { ...step, pack } });
    expect(whole(after(arrived, gone)).packages.ids).toEqual([]);
    expect(packIn(gone, back)).toEqual(pack);
  });
});

describe('the notice of an edit', () => {
  const history = { undo: 'sheet B-1', redo: null };
  const shown = (action: NonNullable<Notice['action']>): Action[] => [
    SheetActions.sheetsCreated({ sheets: [sheet('n', 'B-1')] }),
    EditActions.historyArrived({ history }),
    NoticeActions.noticeShown({ notice: { sentence: 'B-1 created.', failed: false, action } }),
  ];
  const undo = { words: 'Undo', dispatch: EditActions.stepAskedFor({ way: 'undo' }) };

  it('offers to undo that edit, until another one is the last', () => {
    expect(whole(after(arrived, ...shown(undo))).notice?.action).toEqual(undo);
    const edits = [
      SheetActions.sheetEdited({ sheetId: 'a', change: { title: 'Other' } }),
      SheetActions.severalEdited({ change: { ids: ['a'], set: { template: null } } }),
      SettingsActions.settingsEdited({ change: {} }),
      PackageActions.packageEdited({ packageId: 'p', change: { bundling: 'sheet' } }),
      EditActions.stepAskedFor({ way: 'undo' }),
      EditActions.historyArrived({ history }),
    ];
    for (const edit of edits) expect(whole(after(arrived, ...shown(undo), edit)).notice).toBeNull();
  });

  it('goes on offering what restores a thing by its id', () => {
    const restore = { words: 'Undo', dispatch: DrawingActions.removalAskedFor({ drawingId: 'd', removed: false }) };
    const edited = SheetActions.sheetEdited({ sheetId: 'a', change: { title: 'Other' } });
    expect(whole(after(arrived, ...shown(restore), edited)).notice?.action).toEqual(restore);
  });
});

describe('another project', () => {
  it('begins with nothing of the one before but the list of projects', () => {
    const projects = [summary('project', 'P'), summary('other', 'Q')];
    const edited = PackageActions.packageEdited({ packageId: 'p', change: { bundling: 'group' } });
    const opened = ProjectActions.projectOpened({ projectId: 'other' });
    const state = after(ProjectActions.projectsArrived({ projects }), arrived, edited, opened);
    const fresh = after(ProjectActions.projectsArrived({ projects }), opened);
    expect(state).toEqual(fresh);
    expect(state.project).toMatchObject({ id: 'other', status: 'loading', projects });
  });
});

describe('runs and uploads', () => {
  it('shows the latest run of the package, and the one that is open', () => {
    const state = after(
      arrived,
      RunActions.runBegun({ run: run('1', 'done', '2026-11-25T10:00:00Z') }),
      RunActions.runBegun({ run: run('2', 'running', '2026-11-25T11:00:00Z') }),
    );
    expect(selectLatestRun(state)!.id).toBe('2');
    expect(selectOpenRun(state)!.id).toBe('2');
    const over = RunActions.runAdvanced({ run: run('2', 'done', '2026-11-25T11:00:00Z') });
    expect(selectOpenRun({ runs: runsFeature.reducer(state.runs, over) })).toBeNull();
  });

  it('follows an upload to its drawing or its refusal', () => {
    const began = DrawingActions.uploadBegan({ uploadId: 1, name: 'x.dxf' });
    expect(whole(after(arrived, began)).uploads.ids).toEqual([1]);
    const drawing = { ...info.drawings[0]!, id: 'new' };
    const came = after(
      arrived,
      began,
      DrawingActions.fileReceived({ uploadId: 1, received: { outcome: 'added', drawing } }),
    );
    expect([whole(came).uploads.ids, whole(came).drawings.ids]).toEqual([[], ['d', 'new']]);
    const problem = { code: 'unknown' as const, sentence: 'No.', place: {} };
    const refused = after(arrived, began, DrawingActions.drawingRefused({ uploadId: 1, problem }));
    expect(whole(refused).uploads.entities[1]).toMatchObject({ problem, state: 'refused' });
  });

  it('keeps a file that is to be decided about, with the drawing it may be a newer version of', () => {
    const began = DrawingActions.uploadBegan({ uploadId: 1, name: 'd.dxf' });
    const offered = { name: 'd.dxf', hash: 'ab', bytes: 9 };
    const received = { outcome: 'newer' as const, drawing: { ...info.drawings[0]!, version: 3 }, offered };
    const offer = after(arrived, began, DrawingActions.fileReceived({ uploadId: 1, received }));
    expect(whole(offer).uploads.entities[1]).toMatchObject({ state: 'newer', drawing: 'd', offered });
    expect(whole(offer).drawings.entities['d']!.version).toBe(3);
    const files = [
      { name: 'a.txt', why: 'not a drawing' as const },
      { name: 'b.log', why: 'not a drawing' as const },
      { name: 'c.dxf', why: 'too large' as const },
    ];
    const left = after(arrived, DrawingActions.filesLeftOut({ uploadId: 2, files }));
    expect(whole(left).uploads.entities[2]!.name).toBe(
      'Left out, not drawings: a.txt, b.log. Left out, too large: c.dxf.',
    );
  });

  it('tells that layouts are being made into sheets, until they are or are refused', () => {
    const asked = DrawingActions.layoutSheetsAskedFor({ drawingId: 'd' });
    expect(whole(after(arrived, asked)).takingLayouts).toBe('d');
    expect(whole(after(arrived, asked, SheetActions.sheetsCreated({ sheets: [] }))).takingLayouts).toBeNull();
    const problem = { code: 'unknown' as const, sentence: 'No.', place: {} };
    expect(whole(after(arrived, asked, NoticeActions.requestRefused({ problem }))).takingLayouts).toBeNull();
  });

  it('tells that comments are being merged, until the drawing has them or it is refused', () => {
    const asked = DrawingActions.commentsMergeAskedFor({ drawingId: 'd' });
    expect(whole(after(arrived, asked)).mergingComments).toBe('d');
    const drawing = info.drawings[0]!;
    expect(whole(after(arrived, asked, DrawingActions.drawingChanged({ drawing }))).mergingComments).toBeNull();
    const other = { ...drawing, id: 'other' };
    expect(whole(after(arrived, asked, DrawingActions.drawingChanged({ drawing: other }))).mergingComments).toBe('d');
    const problem = { code: 'unknown' as const, sentence: 'No.', place: {} };
    expect(whole(after(arrived, asked, NoticeActions.requestRefused({ problem }))).mergingComments).toBeNull();
  });

  it('knows which sheets hold a version behind their drawing', () => {
    const held = { ...info.sheets[0]!, id: 'old', views: [{ ...info.sheets[0]!.views[0]!, held: 1 }] };
    const newer = { ...info.drawings[0]!, version: 2 };
    const state = after(
      arrived,
      DrawingActions.drawingChanged({ drawing: newer }),
      SheetActions.sheetsCreated({ sheets: [held] }),
    );
    expect([...selectOutOfDate(state)]).toEqual(['old']);
    const same = after(arrived, SheetActions.sheetsCreated({ sheets: [held] }));
    expect([...selectOutOfDate(same)]).toEqual([]);
  });
});
