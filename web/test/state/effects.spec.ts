import { HttpErrorResponse } from '@angular/common/http';
import type { Action } from '@ngrx/store';
import { merge, NEVER, of, Subject, throwError } from 'rxjs';
import type { PackageChange, ProjectSummary, RunInfo } from '@folvex/contract';
import { problemOf, type Api, type Sending } from '../../src/state/api';
import * as leaving from '../../src/state/edits/leaving.effects';
import { DrawingActions } from '../../src/state/drawings/drawings.actions';
import { EditActions } from '../../src/state/edits/edits.actions';
import { NoticeActions } from '../../src/state/notices/notices.actions';
import { PackageActions } from '../../src/state/packages/packages.actions';
import { ProjectActions } from '../../src/state/project/project.actions';
import { RunActions } from '../../src/state/runs/runs.actions';
import { SheetActions } from '../../src/state/sheets/sheets.actions';
import * as drawingEffects from '../../src/state/drawings/drawings.effects';
import * as packageEffects from '../../src/state/packages/packages.effects';
import * as effects from '../../src/state/project/project.effects';
import * as runEffects from '../../src/state/runs/runs.effects';
import * as sheetEffects from '../../src/state/sheets/sheets.effects';
import { answerOf } from '../support/answers';
import { sheet } from '../support/sheet';
import { endEffects, pack, projectInfo as info, runEffect } from '../support/effects';

describe('loading', () => {
  it('takes the project of the address, or tells why it did not arrive', () => {
    const asked: string[] = [];
    const found = runEffect(
      effects.loadProject,
      { project: (id: string) => (asked.push(id), of(info)) },
      ProjectActions.projectOpened({ projectId: 'other' }),
    );
    expect([asked, found]).toEqual([['other'], [ProjectActions.projectArrived({ info })]]);
    endEffects();
    const failing = { project: () => throwError(() => new HttpErrorResponse({ status: 0 })) };
    const [failed] = runEffect(effects.loadProject, failing, ProjectActions.reloadAskedFor()) as { type: string }[];
    expect(failed!.type).toBe(ProjectActions.projectDidNotArrive.type);
  });

  it('lists the projects, or tells why they did not arrive', () => {
    const listed = runEffect(effects.loadProjects, { projects: () => of([]) }, ProjectActions.applicationOpened());
    expect(listed).toEqual([ProjectActions.projectsArrived({ projects: [] })]);
    endEffects();
    const failing = { projects: () => throwError(() => new HttpErrorResponse({ status: 0 })) };
    const [failed] = runEffect(effects.loadProjects, failing, ProjectActions.applicationOpened()) as { type: string }[];
    expect(failed!.type).toBe(ProjectActions.projectsDidNotArrive.type);
  });
});

/** Lets effects start that give the page time to show a change first. */
function nextTurn(): Promise<void> {
  return new Promise((resolve) => setTimeout(resolve));
}

describe('a package', () => {
  it('is saved in what was edited of it, and in what that was before', async () => {
    const saved: PackageChange[] = [];
    const api = {
      changePackage: (_: string, __: string, change: PackageChange) => (saved.push(change), of(answerOf({ pack }))),
    };
    runEffect(
      packageEffects.savePackage,
      api,
      PackageActions.packageEdited({ packageId: 'p', change: { bundling: 'sheet' } }),
    );
    await nextTurn();
    expect(saved).toEqual([{ bundling: 'sheet', was: { bundling: 'one' } }]);
  });

  it('gets chosen sheets at its end, those it holds already left where they are', () => {
    const actions = runEffect(
      sheetEffects.addToPackage,
      {},
      SheetActions.sheetsPutInPackage({ packageId: 'p', sheetIds: ['b', 'a', 'c'] }),
    );
    expect(actions).toEqual([
      PackageActions.packageEdited({ packageId: 'p', change: { order: ['a', 'b', 'c'] } }),
      PackageActions.packageChosen({ packageId: 'p' }),
    ]);
  });

  it('is saved before it is published, and the findings that stop it are told', () => {
    const order: string[] = [];
    const findings = [{ code: 'name.blank-field', severity: 'stop' as const, sentence: 'It is blank.', place: {} }];
    const api = {
      changePackage: () => (order.push('saved'), of(answerOf({ pack }))),
      publish: () => (
        order.push('published'),
        throwError(() => new HttpErrorResponse({ status: 409, error: { findings } }))
      ),
    };
    const edited = PackageActions.packageEdited({ packageId: 'p', change: { bundling: 'sheet' } });
    const actions = runEffect(runEffects.publish, api, edited, RunActions.publishAskedFor({ packageId: 'p' }));
    expect(order).toEqual(['saved', 'published']);
    expect(actions).toEqual([
      PackageActions.packageSaved({ pack, sent: { ...pack, bundling: 'sheet' } }),
      EditActions.historyArrived({ history: answerOf({}).history }),
      RunActions.runStoppedByChecks({ findings }),
      NoticeActions.requestRefused({ problem: { ...findings[0]!, code: 'run.checks' } }),
    ]);
  });

  it('that cannot be saved is not published: what the server has is shown, and why', () => {
    const problem = { code: 'package.changed' as const, sentence: 'It was changed.', place: {} };
    const publish = jest.fn();
    const api = {
      changePackage: () => throwError(() => new HttpErrorResponse({ status: 409, error: { problem } })),
      project: () => of(info),
      publish,
    };
    const edited = PackageActions.packageEdited({ packageId: 'p', change: { bundling: 'sheet' } });
    const actions = runEffect(runEffects.publish, api, edited, RunActions.publishAskedFor({ packageId: 'p' }));
    expect(actions).toEqual([
      PackageActions.packageShownAnew({ packageId: 'p', pack }),
      EditActions.historyArrived({ history: info.history }),
      NoticeActions.requestRefused({ problem }),
    ]);
    expect(publish).not.toHaveBeenCalled();
  });

  it.each([
    ['is refused where another screen was quicker', of(answerOf({ pack })), true],
    ['is not refused for the edit before it, which may have come to the server or not', NEVER, false],
  ])('that is edited just before the page is left is sent; it %s', async (_, answer, guarded) => {
    const sent: PackageChange[] = [];
    const api = {
      changePackage: () => answer,
      changePackageOnLeaving: (_project: string, _pack: string, change: PackageChange) => void sent.push(change),
    };
    const edited = PackageActions.packageEdited({ packageId: 'p', change: { bundling: 'sheet' } });
    runEffect(() => merge(packageEffects.savePackage(), leaving.saveOnLeaving()), api, edited);
    await nextTurn();
    window.dispatchEvent(new Event('pagehide'));
    expect(sent).toEqual([{ bundling: 'sheet', ...(guarded && { was: { bundling: 'one' } }) }]);
  });

  it('that is changed for one run only is published so, and not saved', () => {
    const changePackage = jest.fn();
    const asked: unknown[] = [];
    const begun = { id: 'r', state: 'waiting' } as RunInfo;
    const api = {
      changePackage,
      publish: (_: string, __: string, options: unknown) => (asked.push(options), of(begun)),
    };
    const actions = runEffect(
      runEffects.publish,
      api,
      PackageActions.trialBegun({ packageId: 'p' }),
      PackageActions.packageEdited({ packageId: 'p', change: { bundling: 'sheet' } }),
      RunActions.publishAskedFor({ packageId: 'p' }),
    );
    expect(changePackage).not.toHaveBeenCalled();
    expect(asked).toEqual([{ pack: { bundling: 'sheet' } }]);
    expect(actions).toEqual([RunActions.runBegun({ run: begun })]);
  });

  it('that is published is followed until it is over', () => {
    const open = { id: 'r', state: 'running' } as RunInfo;
    const steps = [open, { ...open, state: 'done' } as RunInfo];
    const actions = runEffect(runEffects.watchRuns, { watch: () => of(...steps) }, RunActions.runBegun({ run: open }));
    expect(actions).toEqual(steps.map((step) => RunActions.runAdvanced({ run: step })));
  });
});

describe('uploads', () => {
  it('tell how far they are, each on its own', async () => {
    const upload = (_: string, file: File) =>
      file.name === 'bad.dxf'
        ? throwError(
            () =>
              new HttpErrorResponse({
                status: 422,
                error: { problem: { code: 'dxf.empty', sentence: 'bad.dxf is empty.', place: {} } },
              }),
          )
        : of({ share: 0.5 }, { answer: { outcome: 'added', drawing: { id: 'd' } } });
    const files = [new File([], 'good.dxf'), new File([], 'bad.dxf')];
    const actions = runEffect(
      drawingEffects.sendDrawings,
      { upload: upload as Api['upload'] },
      DrawingActions.filesDropped({ files }),
    ) as { type: string }[];
    // Archives are opened first, which takes a turn of the event loop.
    await new Promise((resolve) => setTimeout(resolve));
    expect(actions.map(({ type }) => type)).toEqual([
      DrawingActions.uploadBegan.type,
      DrawingActions.uploadBegan.type,
      DrawingActions.uploadAdvanced.type,
      DrawingActions.fileReceived.type,
      DrawingActions.drawingRefused.type,
    ]);
  });
});

describe('the import of a project', () => {
  const archive = new File([], 'quay.zip');
  const asked = ProjectActions.importAskedFor({ archive });
  const run = (...sent: Action[]) => {
    const sending = new Subject<Sending<ProjectSummary>>();
    const dispatched = runEffect(effects.importProject, { importProject: () => sending }, asked, ...sent);
    return { sending, dispatched };
  };

  it('tells how far it is, and offers the project once it is there', () => {
    const { sending, dispatched } = run();
    sending.next({ share: 0.5 });
    sending.next({ answer: { id: 'new', name: 'Tern Quay' } as ProjectSummary });
    sending.complete();
    const action = { words: 'Open', link: ['/projects', 'new'] };
    expect(dispatched).toEqual([
      ProjectActions.importAdvanced({ share: 0.5 }),
      NoticeActions.noticeShown({ notice: { sentence: 'Tern Quay is imported.', failed: false, action } }),
      ProjectActions.importEnded(),
    ]);
  });

  it('ends once it is cancelled: nothing more is sent', () => {
    const { sending, dispatched } = run(ProjectActions.importCancelled());
    expect([sending.observed, dispatched]).toEqual([false, [ProjectActions.importEnded()]]);
  });

  it('says why an archive is refused', () => {
    const { sending, dispatched } = run();
    const problem = { code: 'project.archive' as const, sentence: 'quay.zip is damaged.', place: {} };
    sending.error(new HttpErrorResponse({ status: 422, error: { problem } }));
    expect(dispatched).toEqual([NoticeActions.requestRefused({ problem }), ProjectActions.importEnded()]);
  });
});

describe('new sheets', () => {
  it('are counted in a notice that offers to undo them; a single one is named', () => {
    const made = [sheet('1:50'), { ...sheet('1:50'), id: 'b', number: 'A-102' }];
    for (const [sheets, sentence] of [
      [made, '2 sheets created.'],
      [made.slice(1), 'A-102 Plan created.'],
    ] as const) {
      const actions = runEffect(
        sheetEffects.createSheets,
        { createLayoutSheets: () => of(answerOf({ sheets: [...sheets] })) },
        DrawingActions.layoutSheetsAskedFor({ drawingId: 'd' }),
      );
      const action = { words: 'Undo', dispatch: EditActions.stepAskedFor({ way: 'undo' }) };
      expect(actions.at(-1)).toEqual(NoticeActions.noticeShown({ notice: { sentence, failed: false, action } }));
      endEffects();
    }
  });
});

describe('sheets from layouts', () => {
  it('whose numbers are taken say so', () => {
    const other = { ...sheet('1:50'), id: 'old', number: 'a-102' };
    const made = [sheet('1:50'), { ...sheet('1:50'), id: 'b', number: 'A-102' }];
    const actions = runEffect(
      sheetEffects.createSheets,
      { createLayoutSheets: () => of(answerOf({ sheets: made })) },
      SheetActions.sheetsCreated({ sheets: [other] }),
      DrawingActions.layoutSheetsAskedFor({ drawingId: 'd' }),
    );
    expect(actions.at(-1)).toMatchObject({
      notice: { sentence: '2 sheets created. Other sheets have the same numbers: A-102.' },
    });
  });
});

describe('what went wrong', () => {
  it("is the server's sentence where it has one, and ours where it cannot be reached", () => {
    const problem = { code: 'unknown' as const, sentence: 'No.', place: {} };
    expect(problemOf(new HttpErrorResponse({ status: 422, error: { problem } }))).toEqual(problem);
    expect(problemOf(new HttpErrorResponse({ status: 0 })).code).toBe('offline');
    expect(problemOf(new Error('x')).code).toBe('unknown');
  });
});

describe('leaving the page', () => {
  const edited = PackageActions.packageEdited({ packageId: 'p', change: { bundling: 'sheet' } });
  const arrived = ProjectActions.projectArrived({ info });
  const saved = ProjectActions.projectArrived({ info: { ...info, packages: [{ ...pack, bundling: 'sheet' }] } });
  const api = { changePackage: () => NEVER, changePackageOnLeaving: () => undefined };
  const leave = (...sent: Action[]): void => {
    runEffect(leaving.saveOnLeaving, api, ...sent);
    window.dispatchEvent(new Event('pagehide'));
    endEffects();
  };
  const takenUp = (arrival: Action): unknown[] => {
    const taken = runEffect(leaving.resumePendingEdits, {}, arrival);
    endEffects();
    return taken;
  };

  it('leaves its last edit to the page that is loaded next, once', () => {
    leave(edited);
    expect(takenUp(arrived)).toEqual([edited]);
    expect(takenUp(arrived)).toEqual([]);
  });

  it('leaves nothing where the edit has come to the server, and nothing for later', () => {
    leave(edited);
    expect(takenUp(saved)).toEqual([]);
    leave(edited);
    const later = jest.spyOn(Date, 'now').mockReturnValue(Date.now() + 60_000);
    expect(takenUp(arrived)).toEqual([]);
    later.mockRestore();
    leave(edited);
    leave();
    expect(takenUp(arrived)).toEqual([]);
  });

  it.each([
    ['without edits', [], false],
    [
      'with an edit of a sheet on its way',
      [SheetActions.sheetEdited({ sheetId: 'a', change: { title: 'Quay' } })],
      true,
    ],
    ['with an edit of a package, which is sent', [edited], false],
    [
      'with an edit of a package while the server is away',
      [edited, NoticeActions.requestRefused({ problem: { code: 'offline', sentence: 'It is away.', place: {} } })],
      true,
    ],
  ])('is asked about or not: %s', (_, sent: Action[], asked) => {
    runEffect(leaving.askBeforeLeaving, {}, ...sent);
    const event = new Event('beforeunload', { cancelable: true });
    window.dispatchEvent(event);
    expect(event.defaultPrevented).toBe(asked);
  });
});

describe('a run', () => {
  it('is renamed, which a notice can undo', () => {
    const run = { id: 'r', packageName: 'Permit', name: 'For the planner' } as RunInfo;
    const asked: unknown[] = [];
    const api: Partial<Api> = { renameRun: (id, name) => (asked.push([id, name]), of(run)) };
    const renamed = RunActions.runRenamed({ runId: 'r', name: 'For the planner', was: null });
    const dispatched = runEffect(runEffects.renameRun, api, renamed);
    expect(asked).toEqual([['r', 'For the planner']]);
    const undo = RunActions.runRenamed({ runId: 'r', name: null, was: 'For the planner' });
    const sentence = 'The run is now called For the planner.';
    expect(dispatched).toEqual([
      RunActions.runAdvanced({ run }),
      NoticeActions.noticeShown({ notice: { sentence, failed: false, action: { words: 'Undo', dispatch: undo } } }),
    ]);
  });
});
