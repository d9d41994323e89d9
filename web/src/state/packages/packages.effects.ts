import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { Store, type Action } from '@ngrx/store';
import {
  asyncScheduler,
  catchError,
  concat,
  concatMap,
  exhaustMap,
  groupBy,
  mergeMap,
  observeOn,
  throttleTime,
} from 'rxjs';
import { Api } from '../api';
import { EditQueue } from '../edits/edit-queue';
import { projectFeature } from '../project/project.reducer';
import { EditActions } from '../edits/edits.actions';
import { refused } from '../notices/refused';
import { removedNotice } from '../notices/removed-notice';
import { PackageSaver } from './package-saver';
import { PackageActions } from './packages.actions';
import { selectAllPackages } from './packages.selectors';

const SAVE_EVERY_MS = 250;

export const createPackage = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store), queue = inject(EditQueue)) =>
    actions.pipe(
      ofType(PackageActions.packageAskedFor),
      concatLatestFrom(() => store.select(projectFeature.selectId)),
      exhaustMap(([{ name, like }, project]) =>
        queue.run(() =>
          api.createPackage(project, name, like).pipe(
            mergeMap(({ pack, history }) => [
              PackageActions.packageCreated({ pack: pack! }),
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
          // The edit shows first; comparing and sending the order of thousands of pages takes a task of its own.
          observeOn(asyncScheduler),
          concatMap(({ packageId }) => saver.save(packageId)),
        ),
      ),
    ),
  { functional: true },
);

/** A package is removed with all its edits sent, so that undo brings it back as it was. */
export const removePackage = createEffect(
  (
    actions = inject(Actions),
    api = inject(Api),
    store = inject(Store),
    queue = inject(EditQueue),
    saver = inject(PackageSaver),
  ) =>
    actions.pipe(
      ofType(PackageActions.removalAskedFor),
      concatLatestFrom(() => [store.select(projectFeature.selectId), store.select(selectAllPackages)]),
      mergeMap(([{ packageId }, project, packages]) =>
        queue.run(() =>
          concat(
            saver.sendAll(),
            api.removePackage(project, packageId).pipe(
              mergeMap(({ history }): Action[] => [
                PackageActions.packageRemoved({ packageId }),
                EditActions.historyArrived({ history }),
                removedNotice(
                  packages.find(({ id }) => id === packageId)?.name ?? 'The package',
                  EditActions.stepAskedFor({ way: 'undo' }),
                ),
              ]),
              catchError(refused),
            ),
          ),
        ),
      ),
    ),
  { functional: true },
);
