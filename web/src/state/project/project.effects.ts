import { inject } from '@angular/core';
import { Router } from '@angular/router';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { Store, type Action } from '@ngrx/store';
import type { ProjectSummary } from '@folvex/contract';
import { catchError, concat, concatMap, exhaustMap, map, of, switchMap, takeUntil, tap } from 'rxjs';
import { Api, problemOf } from '../api';
import { NoticeActions } from '../notices/notices.actions';
import { refused } from '../notices/refused';
import { ProjectActions } from '../project/project.actions';
import { projectFeature } from '../project/project.reducer';

export const loadProjects = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(
        ProjectActions.applicationOpened,
        ProjectActions.projectCreated,
        ProjectActions.importEnded,
        ProjectActions.reloadAskedFor,
      ),
      switchMap(() =>
        api.projects().pipe(
          map((projects) => ProjectActions.projectsArrived({ projects })),
          catchError((error: unknown) => of(ProjectActions.projectsDidNotArrive({ problem: problemOf(error) }))),
        ),
      ),
    ),
  { functional: true },
);

export const loadProject = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(ProjectActions.projectOpened, ProjectActions.reloadAskedFor),
      concatLatestFrom(() => store.select(projectFeature.selectId)),
      switchMap(([, id]) =>
        id === ''
          ? []
          : api.project(id).pipe(
              map((info) => ProjectActions.projectArrived({ info })),
              catchError((error: unknown) => of(ProjectActions.projectDidNotArrive({ problem: problemOf(error) }))),
            ),
      ),
    ),
  { functional: true },
);

export const createProject = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(ProjectActions.newProjectAskedFor),
      exhaustMap(({ project }) =>
        api.createProject(project).pipe(
          map(({ id }) => ProjectActions.projectCreated({ projectId: id })),
          catchError(refused),
        ),
      ),
    ),
  { functional: true },
);

export const importProject = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(ProjectActions.importAskedFor),
      exhaustMap(({ archive }) =>
        concat(
          api.importProject(archive).pipe(
            map((sending) =>
              'answer' in sending
                ? importedNotice(sending.answer)
                : ProjectActions.importAdvanced({ share: sending.share }),
            ),
            catchError(refused),
            takeUntil(actions.pipe(ofType(ProjectActions.importCancelled))),
          ),
          of(ProjectActions.importEnded()),
        ),
      ),
    ),
  { functional: true },
);

/** The user may be somewhere else by now, so the project is offered, not opened. */
function importedNotice({ id, name }: ProjectSummary): Action {
  const action = { words: 'Open', link: ['/projects', id] };
  return NoticeActions.noticeShown({ notice: { sentence: `${name} is imported.`, failed: false, action } });
}

export const removeProject = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(ProjectActions.projectRemovalAskedFor),
      concatMap(({ projectId, removed }) =>
        api.removeProject(projectId, removed).pipe(
          map((projects) => ProjectActions.projectsArrived({ projects })),
          catchError(refused),
        ),
      ),
    ),
  { functional: true },
);

/** A new project is opened once it is there. */
export const openCreatedProject = createEffect(
  (actions = inject(Actions), router = inject(Router)) =>
    actions.pipe(
      ofType(ProjectActions.projectCreated),
      tap(({ projectId }) => void router.navigate(['/projects', projectId])),
    ),
  { functional: true, dispatch: false },
);
