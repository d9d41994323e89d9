import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { Store } from '@ngrx/store';
import { catchError, concatMap, exhaustMap, groupBy, mergeMap, throttleTime } from 'rxjs';
import { Api } from '../api';
import { EditQueue } from '../edits/edit-queue';
import { projectFeature } from '../project/project.reducer';
import { EditActions } from '../edits/edits.actions';
import { refused } from '../notices/refused';
import { PackageSaver } from './package-saver';
import { PackageActions } from './packages.actions';

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
          concatMap(({ packageId }) => saver.save(packageId)),
        ),
      ),
    ),
  { functional: true },
);
