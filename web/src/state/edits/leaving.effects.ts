import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { Store } from '@ngrx/store';
import { filter, from, fromEvent, map, mergeMap, tap } from 'rxjs';
import { packageDifference, packageWith } from '@folvex/contract';
import { sameValue } from '@folvex/core';
import { noticesFeature } from '../notices/notices.reducer';
import { PackageSaver } from '../packages/package-saver';
import { PackageActions } from '../packages/packages.actions';
import { selectUnsavedPackages } from '../packages/packages.selectors';
import { savePendingEdits, takePendingEdits } from '../packages/pending-edits';
import { ProjectActions } from '../project/project.actions';
import { projectFeature } from '../project/project.reducer';
import { selectSettingsUnsent } from '../project/project.selectors';
import { selectUnsent } from '../sheets/sheets.selectors';
import { editsFeature } from './edits.reducer';

/**
 * When the page goes away before its last edit of a package was sent, that edit is sent with its last breath. The page
 * that is loaded next may be quicker than that: it is passed the edit too.
 */
export const saveOnLeaving = createEffect(
  (saver = inject(PackageSaver), store = inject(Store)) =>
    fromEvent(window, 'pagehide').pipe(
      concatLatestFrom(() => [store.select(projectFeature.selectId), store.select(selectUnsavedPackages)]),
      tap(([, project, unsaved]) => {
        for (const edited of unsaved) saver.saveOnLeaving(project, edited);
        savePendingEdits(
          unsaved.map(({ ours, saved }) => ({ project, packageId: ours.id, change: packageDifference(saved, ours) })),
        );
      }),
    ),
  { functional: true, dispatch: false },
);

/** What was edited just before this page was loaded is edited again where it has not come to the server yet. */
export const resumePendingEdits = createEffect(
  (actions = inject(Actions)) =>
    actions.pipe(
      ofType(ProjectActions.projectArrived),
      mergeMap(({ info }) =>
        from(takePendingEdits()).pipe(
          filter(({ project, packageId, change }) => {
            const pack = project === info.id && info.packages.find(({ id }) => id === packageId);
            return pack ? !sameValue(packageWith(pack, change), pack) : false;
          }),
          map(({ packageId, change }) => PackageActions.packageEdited({ packageId, change })),
        ),
      ),
    ),
  { functional: true },
);

/** What would be lost, the browser asks about first: edits of sheets that are not saved yet, and any while the server is away. */
export const askBeforeLeaving = createEffect(
  (store = inject(Store)) =>
    fromEvent(window, 'beforeunload').pipe(
      concatLatestFrom(() => [
        store.select(selectUnsent),
        store.select(selectSettingsUnsent),
        store.select(editsFeature.selectEditing),
        store.select(selectUnsavedPackages),
        store.select(noticesFeature.selectRefusal),
      ]),
      tap(([event, unsent, settings, editing, packages, refusal]) => {
        const away = packages.length > 0 && refusal?.code === 'offline';
        if (unsent.length > 0 || settings || editing > 0 || away) event.preventDefault();
      }),
    ),
  { functional: true, dispatch: false },
);
