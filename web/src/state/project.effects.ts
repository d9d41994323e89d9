import { HttpErrorResponse } from '@angular/common/http';
import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { Store, type Action } from '@ngrx/store';
import {
  catchError,
  concat,
  concatMap,
  defer,
  EMPTY,
  exhaustMap,
  from,
  groupBy,
  map,
  mergeMap,
  of,
  switchMap,
  tap,
  throttleTime,
  toArray,
} from 'rxjs';
import { packageDifference, type StoppedRun } from '@folvex/contract';
import type { Problem } from '@folvex/core';
import { Api, problemOf } from './api';
import { EditQueue } from './edit-queue';
import { EditActions, GatherActions, PackageActions, ProjectActions, SheetActions } from './project.actions';
import { projectFeature } from './project.reducer';
import { selectAllPackages, selectTrial, selectUploadEntities } from './project.selectors';
import { PackageSaver } from './save-package';
import { unpacked } from './unpack';

const SAVE_EVERY_MS = 250;
const UPLOADS_AT_ONCE = 3;
const NO_PROJECT: Problem = {
  code: 'project.none',
  sentence: 'The server holds no project; start it with npm start, which loads the demo into an empty database.',
  place: {},
};
/** Where the browser remembers which project was open. */
const PROJECT_KEY = 'folvex.project';
let uploads = 0;

const refused = (error: unknown) => of(ProjectActions.requestRefused({ problem: problemOf(error) }));

export const loadProject = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(ProjectActions.applicationOpened, ProjectActions.reloadAskedFor, ProjectActions.projectChosen),
      tap((action) => 'projectId' in action && localStorage.setItem(PROJECT_KEY, action.projectId)),
      switchMap(() =>
        api.projects().pipe(
          switchMap((projects) => {
            const last = localStorage.getItem(PROJECT_KEY);
            const opened = projects.find(({ id }) => id === last) ?? projects[0];
            const arrived = opened
              ? api.project(opened.id).pipe(map((info) => ProjectActions.projectArrived({ info })))
              : of(ProjectActions.projectDidNotArrive({ problem: NO_PROJECT }));
            return concat(of(ProjectActions.projectsArrived({ projects })), arrived);
          }),
          catchError((error: unknown) => of(ProjectActions.projectDidNotArrive({ problem: problemOf(error) }))),
        ),
      ),
    ),
  { functional: true },
);

/** A new project is opened once it is there. */
export const createProject = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(ProjectActions.newProjectAskedFor),
      exhaustMap(({ project }) =>
        api.createProject(project).pipe(
          map(({ id }) => ProjectActions.projectChosen({ projectId: id })),
          catchError(refused),
        ),
      ),
    ),
  { functional: true },
);

/** Dropped files go to the server a few at a time, archives opened first. */
export const sendDrawings = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(GatherActions.filesDropped),
      concatLatestFrom(() => store.select(projectFeature.selectId)),
      mergeMap(([{ files, newerOf }, project]) =>
        from(unpacked(files)).pipe(
          mergeMap(({ files: found, leftOut }) => {
            const sent = found.map((file) => ({ file, project, newerOf, uploadId: ++uploads }));
            // All of them are listed from the start, to show how many are still to come.
            const listed = sent.map(({ file, uploadId }) => GatherActions.uploadBegan({ uploadId, name: file.name }));
            const left = leftOut.length ? [GatherActions.filesLeftOut({ uploadId: ++uploads, names: leftOut })] : [];
            return concat(
              from([...listed, ...left]),
              from(sent).pipe(mergeMap((upload) => sendOne(api, upload), UPLOADS_AT_ONCE)),
            );
          }),
        ),
      ),
    ),
  { functional: true },
);

function sendOne(
  api: Api,
  { file, project, newerOf, uploadId }: { file: File; project: string; newerOf?: string; uploadId: number },
) {
  return api.upload(project, file, newerOf).pipe(
    map((event) =>
      'received' in event
        ? GatherActions.fileReceived({ uploadId, received: event.received })
        : GatherActions.uploadAdvanced({ uploadId, share: event.share }),
    ),
    catchError((error: unknown) => of(GatherActions.drawingRefused({ uploadId, problem: problemOf(error) }))),
  );
}

export const answerOffer = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(GatherActions.offerAnswered),
      concatLatestFrom(() => [store.select(projectFeature.selectId), store.select(selectUploadEntities)]),
      mergeMap(([{ uploadId, as, password }, project, entities]) => {
        const { offered, drawing } = entities[uploadId] ?? {};
        if (!offered) return EMPTY;
        const answer = { offered, as, ...(drawing && { drawing }), ...(as === 'unlock' && { password }) };
        return api.answerOffer(project, answer).pipe(
          map((received) => GatherActions.fileReceived({ uploadId, received })),
          catchError((error: unknown) => of(GatherActions.drawingRefused({ uploadId, problem: problemOf(error) }))),
        );
      }),
    ),
  { functional: true },
);

export const setDrawingFacts = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(GatherActions.drawingStated),
      concatMap(({ drawingId, change }) =>
        api.changeDrawing(drawingId, change).pipe(
          map((drawing) => GatherActions.drawingChanged({ drawing })),
          catchError(refused),
        ),
      ),
    ),
  { functional: true },
);

export const createSheet = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store), queue = inject(EditQueue)) =>
    actions.pipe(
      ofType(GatherActions.sheetAskedFor),
      concatLatestFrom(() => store.select(projectFeature.selectId)),
      exhaustMap(([{ sheet }, project]) =>
        queue.run(() =>
          api.createSheet(project, sheet).pipe(
            mergeMap(({ sheets: [made], history }) => [
              GatherActions.sheetMade({ sheet: made! }),
              EditActions.historyArrived({ history }),
            ]),
            catchError(refused),
          ),
        ),
      ),
    ),
  { functional: true },
);

export const createLayoutSheets = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store), queue = inject(EditQueue)) =>
    actions.pipe(
      ofType(GatherActions.layoutSheetsAskedFor),
      concatLatestFrom(() => store.select(projectFeature.selectId)),
      exhaustMap(([{ drawingId }, project]) =>
        queue.run(() =>
          api.createLayoutSheets(project, drawingId).pipe(
            mergeMap(({ sheets, history }) => [
              GatherActions.sheetsMade({ sheets }),
              EditActions.historyArrived({ history }),
            ]),
            catchError(refused),
          ),
        ),
      ),
    ),
  { functional: true },
);

export const createFrameSheets = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store), queue = inject(EditQueue)) =>
    actions.pipe(
      ofType(GatherActions.frameSheetsAskedFor),
      concatLatestFrom(() => store.select(projectFeature.selectId)),
      exhaustMap(([{ drawingId, wanted }, project]) =>
        queue.run(() =>
          api.createFrameSheets(project, drawingId, wanted).pipe(
            mergeMap(({ sheets, history }) => [
              GatherActions.sheetsMade({ sheets }),
              EditActions.historyArrived({ history }),
            ]),
            catchError(refused),
          ),
        ),
      ),
    ),
  { functional: true },
);

/** Sheets chosen on the wall go to the end of a package; those it holds already stay where they are. */
export const addToPackage = createEffect(
  (actions = inject(Actions), store = inject(Store)) =>
    actions.pipe(
      ofType(SheetActions.sheetsPutInPackage),
      concatLatestFrom(() => store.select(selectAllPackages)),
      mergeMap(([{ packageId, sheetIds }, packages]) => {
        const pack = packages.find(({ id }) => id === packageId);
        if (!pack) return EMPTY;
        const order = [...pack.order, ...sheetIds.filter((id) => !pack.order.includes(id))];
        return of(
          PackageActions.packageEdited({ packageId, change: { order } }),
          PackageActions.packageChosen({ packageId }),
        );
      }),
    ),
  { functional: true },
);

export const createPackage = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store), queue = inject(EditQueue)) =>
    actions.pipe(
      ofType(PackageActions.packageAskedFor),
      concatLatestFrom(() => store.select(projectFeature.selectId)),
      exhaustMap(([{ name, like }, project]) =>
        queue.run(() =>
          api.createPackage(project, name, like).pipe(
            mergeMap(({ pack, history }) => [
              PackageActions.packageMade({ pack: pack! }),
              EditActions.historyArrived({ history }),
            ]),
            catchError(refused),
          ),
        ),
      ),
    ),
  { functional: true },
);

/**
 * Edits of a package are saved at once, and while they come quickly (typing) four times a second; one after the other,
 * each time the package as it then is, so that an older state never overtakes a newer one.
 */
export const savePackage = createEffect(
  (actions = inject(Actions), saver = inject(PackageSaver)) =>
    actions.pipe(
      ofType(PackageActions.packageEdited, PackageActions.trialEnded),
      groupBy(({ packageId }) => packageId),
      mergeMap((edits) =>
        edits.pipe(
          throttleTime(SAVE_EVERY_MS, undefined, { leading: true, trailing: true }),
          concatMap(({ packageId }) => saver.save(packageId)),
        ),
      ),
    ),
  { functional: true },
);

export const repeatRun = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(PackageActions.repeatAskedFor),
      exhaustMap(({ runId }) =>
        api.repeat(runId).pipe(
          map((run) => PackageActions.runBegun({ run })),
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
      ofType(PackageActions.publishAskedFor),
      concatLatestFrom(() => [store.select(projectFeature.selectId), store.select(selectTrial)]),
      exhaustMap(([{ packageId, options = {} }, project, trial]) => {
        const tried = trial?.ours.id === packageId ? { pack: packageDifference(trial.saved, trial.ours) } : {};
        const published = defer(() => api.publish(project, packageId, { ...options, ...tried })).pipe(
          map((run): Action => PackageActions.runBegun({ run })),
          catchError((error: unknown) => {
            const findings =
              error instanceof HttpErrorResponse && (error.error as Partial<StoppedRun> | null)?.findings;
            if (!findings) return refused(error);
            return of(
              PackageActions.runStoppedByChecks({ findings }),
              ProjectActions.requestRefused({ problem: { ...findings[0]!, code: 'run.checks' } }),
            );
          }),
        );
        // What could not be saved is not published.
        return saver.save(packageId).pipe(
          toArray(),
          switchMap((done) =>
            concat(
              of(...done),
              done.some(({ type }) => type === ProjectActions.requestRefused.type) ? EMPTY : published,
            ),
          ),
        );
      }),
    ),
  { functional: true },
);

/** Follows runs that are not over: new ones, and those found open when the page was loaded. */
export const watchRuns = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(PackageActions.runBegun, ProjectActions.projectArrived),
      mergeMap((action) => from('run' in action ? [action.run] : action.info.runs)),
      mergeMap((run) =>
        run.state === 'waiting' || run.state === 'running'
          ? api.watch(run.id).pipe(map((advanced) => PackageActions.runAdvanced({ run: advanced })))
          : EMPTY,
      ),
    ),
  { functional: true },
);

export const cancelRun = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(PackageActions.cancelAskedFor),
      mergeMap(({ runId }) =>
        api.cancel(runId).pipe(
          map((run) => PackageActions.runAdvanced({ run })),
          catchError(refused),
        ),
      ),
    ),
  { functional: true },
);
