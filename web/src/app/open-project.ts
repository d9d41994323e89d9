import { inject } from '@angular/core';
import type { CanActivateFn } from '@angular/router';
import { Store } from '@ngrx/store';
import type { Problem } from '@folvex/core';
import { concat, defer, ignoreElements, of, tap } from 'rxjs';
import { EditQueue } from '../state/edits/edit-queue';
import { NoticeActions } from '../state/notices/notices.actions';
import { PackageSaver } from '../state/packages/package-saver';
import { selectUnsavedPackages } from '../state/packages/packages.selectors';
import { ProjectActions } from '../state/project/project.actions';
import { projectFeature } from '../state/project/project.reducer';
import { selectSettingsUnsent } from '../state/project/project.selectors';
import { selectUnsent } from '../state/sheets/sheets.selectors';

const UNSAVED: Problem = {
  code: 'project.unsaved',
  sentence:
    'This project has unsaved changes. Save them before you open another project, or reload the page to discard them.',
  place: {},
};

/** Opens the project of an address, once all edits of the one before are saved. */
export const openProject: CanActivateFn = (route) => {
  const store = inject(Store);
  const [queue, saver] = [inject(EditQueue), inject(PackageSaver)];
  const wanted = route.paramMap.get('project') ?? '';
  const open = store.selectSignal(projectFeature.selectId);
  const unsent = store.selectSignal(selectUnsent);
  const unsentSettings = store.selectSignal(selectSettingsUnsent);
  const unsavedPackages = store.selectSignal(selectUnsavedPackages);
  if (open() === wanted) return true;
  return concat(
    queue
      .run(() => saver.sendAll())
      .pipe(
        tap((action) => store.dispatch(action)),
        ignoreElements(),
      ),
    defer(() => {
      if (unsent().length > 0 || unsentSettings() || unsavedPackages().length > 0) {
        store.dispatch(NoticeActions.requestRefused({ problem: UNSAVED }));
        return of(false);
      }
      store.dispatch(ProjectActions.projectOpened({ projectId: wanted }));
      return of(true);
    }),
  );
};
