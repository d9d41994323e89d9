import { HttpErrorResponse } from '@angular/common/http';
import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { Store, type Action } from '@ngrx/store';
import { BY_SCHEDULE, isRunSettled, packageDifference, type RunInfo, type StoppedRun } from '@folvex/contract';
import {
  catchError,
  concat,
  concatMap,
  defer,
  EMPTY,
  exhaustMap,
  from,
  map,
  mergeMap,
  of,
  switchMap,
  takeUntil,
  toArray,
} from 'rxjs';
import { Api } from '../api';
import { OfficeApi } from '../office-api';
import { NoticeActions } from '../notices/notices.actions';
import { refused } from '../notices/refused';
import { removedNotice } from '../notices/removed-notice';
import { PackageSaver } from '../packages/package-saver';
import { selectTrial } from '../packages/packages.selectors';
import { PresenceActions } from '../presence/presence.actions';
import { ProjectActions } from '../project/project.actions';
import { ProjectLinks } from '../project/project-links';
import { projectFeature } from '../project/project.reducer';
import { whileOpen } from '../project/while-open';
import { RunActions } from './runs.actions';
import { nameOfRun, runsFeature } from './runs.reducer';

export const repeatRun = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(RunActions.repeatAskedFor),
      exhaustMap(({ runId }) =>
        api.repeat(runId).pipe(
          map((run) => RunActions.runBegun({ run })),
          catchError(refused),
        ),
      ),
    ),
  { functional: true },
);

/** Publishes what is on the screen: the package is saved first, whether its last edit was sent or not. */
export const publish = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store), saver = inject(PackageSaver)) =>
    actions.pipe(
      ofType(RunActions.publishAskedFor),
      concatLatestFrom(() => [store.select(projectFeature.selectId), store.select(selectTrial)]),
      exhaustMap(([{ packageId, options = {} }, project, trial]) => {
        const tried = trial?.ours.id === packageId ? { pack: packageDifference(trial.saved, trial.ours) } : {};
        const published = defer(() => api.publish(project, packageId, { ...options, ...tried })).pipe(
          map((run): Action => RunActions.runBegun({ run })),
          catchError((error: unknown) => {
            const findings =
              error instanceof HttpErrorResponse && (error.error as Partial<StoppedRun> | null)?.findings;
            if (!findings) return refused(error);
            return of(
              RunActions.runStoppedByChecks({ findings }),
              NoticeActions.requestRefused({ problem: { ...findings[0]!, code: 'run.checks' } }),
            );
          }),
        );
        // What could not be saved is not published.
        return saver.save(packageId).pipe(
          toArray(),
          switchMap((done) =>
            concat(
              of(...done),
              done.some(({ type }) => type === NoticeActions.requestRefused.type) ? EMPTY : published,
            ),
          ),
        );
      }),
    ),
  { functional: true },
);

export const send = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(RunActions.sendAskedFor, RunActions.deliveryRepeatAskedFor),
      mergeMap((action) =>
        ('destination' in action
          ? api.sendRun(action.runId, action.destination)
          : api.sendAgain(action.runId, action.deliveryId)
        ).pipe(
          map((run) => RunActions.deliveryBegun({ run })),
          catchError(refused),
        ),
      ),
    ),
  { functional: true },
);

export const cancelDelivery = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(RunActions.deliveryCancelAskedFor),
      mergeMap(({ runId, deliveryId }) =>
        api.cancelDelivery(runId, deliveryId).pipe(
          map((run) => RunActions.runAdvanced({ run })),
          catchError(refused),
        ),
      ),
    ),
  { functional: true },
);

export const closePage = createEffect(
  (actions = inject(Actions), api = inject(OfficeApi)) =>
    actions.pipe(
      ofType(RunActions.pageCloseAskedFor),
      mergeMap(({ runId, deliveryId }) =>
        api.closeRecipientPage(runId, deliveryId).pipe(
          map((run) => RunActions.runAdvanced({ run })),
          catchError(refused),
        ),
      ),
    ),
  { functional: true },
);

/** Fetches runs that schedules or other people began while the page was open. */
export const fetchRuns = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store), { to } = inject(ProjectLinks)) =>
    actions.pipe(
      ofType(PresenceActions.newsArrived),
      concatLatestFrom(() => [
        store.select(projectFeature.selectId),
        store.select(projectFeature.selectStatus),
        store.select(runsFeature.selectEntities),
      ]),
      exhaustMap(([{ news }, project, status, known]) =>
        // Those that the project comes with are not new.
        from(status === 'ready' ? news.latestRuns.filter((id) => !known[id]) : []).pipe(
          mergeMap((id) => api.run(id).pipe(catchError(() => EMPTY))),
          mergeMap((run): Action[] => [RunActions.runFound({ run }), ...noticeOf(run, to('runs', run.id))]),
          whileOpen(store, project),
        ),
      ),
    ),
  { functional: true },
);

/** A notice where a schedule started the run: nobody in the office did. `link`: to the run. */
function noticeOf(run: RunInfo, link: string[]): Action[] {
  if (run.startedBy !== BY_SCHEDULE) return [];
  const sentence = `${nameOfRun(run)} is being published by its schedule.`;
  const action = { words: 'Show', link };
  return [NoticeActions.noticeShown({ notice: { sentence, failed: false, action } })];
}

/** Follows runs that are not settled: new ones, those that are sent, and those found so when the page was loaded. */
export const watchRuns = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(RunActions.runBegun, RunActions.runFound, RunActions.deliveryBegun, ProjectActions.projectArrived),
      mergeMap((action) => from('run' in action ? [action.run] : action.info.runs)),
      mergeMap((run) =>
        !isRunSettled(run, Date.now())
          ? api.watch(run.id).pipe(
              map((advanced) => RunActions.runAdvanced({ run: advanced })),
              // Another project has other runs; this one is followed again once its project is.
              takeUntil(actions.pipe(ofType(ProjectActions.projectOpened))),
            )
          : EMPTY,
      ),
    ),
  { functional: true },
);

export const cancelRun = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(RunActions.cancelAskedFor),
      mergeMap(({ runId }) =>
        api.cancel(runId).pipe(
          map((run) => RunActions.runAdvanced({ run })),
          catchError(refused),
        ),
      ),
    ),
  { functional: true },
);

export const renameRun = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(RunActions.runRenamed),
      concatMap(({ runId, name, was }) =>
        api.renameRun(runId, name).pipe(
          mergeMap((run): Action[] => [
            RunActions.runAdvanced({ run }),
            NoticeActions.noticeShown({
              notice: {
                sentence: `The run is now called ${nameOfRun(run)}.`,
                failed: false,
                action: { words: 'Undo', dispatch: RunActions.runRenamed({ runId, name: was, was: name }) },
              },
            }),
          ]),
          catchError(refused),
        ),
      ),
    ),
  { functional: true },
);

export const removeRun = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(RunActions.removalAskedFor),
      concatMap(({ runId, removed }) =>
        api.removeRun(runId, removed).pipe(
          mergeMap((run): Action[] => [
            RunActions.runAdvanced({ run }),
            ...(removed
              ? [removedNotice(`The run ${nameOfRun(run)}`, RunActions.removalAskedFor({ runId, removed: false }))]
              : []),
          ]),
          catchError(refused),
        ),
      ),
    ),
  { functional: true },
);
