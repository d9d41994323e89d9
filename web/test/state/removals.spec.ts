import { HttpErrorResponse } from '@angular/common/http';
import type { Action } from '@ngrx/store';
import { defer, of, throwError } from 'rxjs';
import type { DrawingInfo, RunInfo } from '@folvex/contract';
import { DrawingActions } from '../../src/state/drawings/drawings.actions';
import { removeDrawing } from '../../src/state/drawings/drawings.effects';
import { selectAllDrawings, selectRemovedDrawings } from '../../src/state/drawings/drawings.selectors';
import { EditActions } from '../../src/state/edits/edits.actions';
import { NoticeActions } from '../../src/state/notices/notices.actions';
import { removedNotice } from '../../src/state/notices/removed-notice';
import { PackageActions } from '../../src/state/packages/packages.actions';
import { removePackage } from '../../src/state/packages/packages.effects';
import { RunActions } from '../../src/state/runs/runs.actions';
import { removeRun } from '../../src/state/runs/runs.effects';
import { selectAllRuns, selectRemovedRuns } from '../../src/state/runs/runs.selectors';
import { answerOf } from '../support/answers';
import { endEffects, runEffect } from '../support/effects';
import { after } from '../support/state';

const removedAt = '2026-11-29T09:00:00.000Z';
const drawing = { id: 'd', name: 'plan.dxf', removedAt: null } as DrawingInfo;
const run = { id: 'r', packageName: 'Permit', createdAt: '2026-11-28', removedAt: null } as RunInfo;
const problem = { code: 'run.issued' as const, sentence: 'This run was issued, so it stays.', place: {} };
const refusal = () => throwError(() => new HttpErrorResponse({ status: 409, error: { problem } }));

describe('a drawing', () => {
  const remove = DrawingActions.removalAskedFor({ drawingId: 'd', removed: true });
  const restore = DrawingActions.removalAskedFor({ drawingId: 'd', removed: false });

  it('is removed, with an undo that restores it', () => {
    const gone = { ...drawing, removedAt };
    expect(runEffect(removeDrawing, { removeDrawing: () => of(gone) }, remove)).toEqual([
      DrawingActions.drawingChanged({ drawing: gone }),
      removedNotice('plan.dxf', restore),
    ]);
    endEffects();
    expect(runEffect(removeDrawing, { removeDrawing: () => of(drawing) }, restore)).toEqual([
      DrawingActions.drawingChanged({ drawing }),
    ]);
  });

  it('that was removed is listed apart', () => {
    const state = after(
      DrawingActions.drawingChanged({ drawing }),
      DrawingActions.drawingChanged({ drawing: { ...drawing, id: 'e', removedAt } }),
    );
    expect(selectAllDrawings(state).map(({ id }) => id)).toEqual(['d']);
    expect(selectRemovedDrawings(state).map(({ id }) => id)).toEqual(['e']);
  });
});

describe('a run', () => {
  const remove = RunActions.removalAskedFor({ runId: 'r', removed: true });

  it('is removed, with an undo that restores it', () => {
    const gone = { ...run, removedAt };
    expect(runEffect(removeRun, { removeRun: () => of(gone) }, remove)).toEqual([
      RunActions.runAdvanced({ run: gone }),
      removedNotice('The run Permit', RunActions.removalAskedFor({ runId: 'r', removed: false })),
    ]);
  });

  it('that cannot be removed stays, and the reason is told', () => {
    expect(runEffect(removeRun, { removeRun: refusal }, remove)).toEqual([NoticeActions.requestRefused({ problem })]);
  });

  it('that was removed is listed apart', () => {
    const state = after(RunActions.runBegun({ run }), RunActions.runAdvanced({ run: { ...run, id: 's', removedAt } }));
    expect(selectAllRuns(state).map(({ id }) => id)).toEqual(['r']);
    expect(selectRemovedRuns(state).map(({ id }) => id)).toEqual(['s']);
  });
});

describe('a package', () => {
  it('is removed once its last edit is saved, with an undo', () => {
    const calls: string[] = [];
    const { history } = answerOf({});
    const api = {
      changePackage: () => defer(() => (calls.push('saved'), of(answerOf({})))),
      removePackage: () => defer(() => (calls.push('removed'), of(answerOf({})))),
    };
    const sent: Action[] = [
      PackageActions.packageEdited({ packageId: 'p', change: { bundling: 'sheet' } }),
      PackageActions.removalAskedFor({ packageId: 'p' }),
    ];
    const dispatched = runEffect(removePackage, api, ...sent);
    expect(calls).toEqual(['saved', 'removed']);
    expect(dispatched.slice(-3)).toEqual([
      PackageActions.packageRemoved({ packageId: 'p' }),
      EditActions.historyArrived({ history }),
      removedNotice('Permit', EditActions.stepAskedFor({ way: 'undo' })),
    ]);
  });
});
