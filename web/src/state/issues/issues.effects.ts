import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { Store } from '@ngrx/store';
import { catchError, exhaustMap, map, of, switchMap } from 'rxjs';
import { Api, problemOf } from '../api';
import { refused } from '../notices/refused';
import { projectFeature } from '../project/project.reducer';
import { whileOpen } from '../project/while-open';
import { IssueActions } from './issues.actions';

export const loadRegister = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(IssueActions.registerAskedFor, IssueActions.issueCreated),
      concatLatestFrom(() => store.select(projectFeature.selectId)),
      switchMap(([, project]) =>
        api.issues(project).pipe(
          map((issues) => IssueActions.registerArrived({ issues })),
          catchError((error: unknown) => of(IssueActions.registerDidNotArrive({ problem: problemOf(error) }))),
          whileOpen(store, project),
        ),
      ),
    ),
  { functional: true },
);

export const loadIssuedSheets = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(IssueActions.issuedSheetsAskedFor, IssueActions.issueCreated),
      concatLatestFrom(() => store.select(projectFeature.selectId)),
      switchMap(([, project]) =>
        api.issuedSheets(project).pipe(
          map((issued) => IssueActions.issuedSheetsArrived({ issued })),
          catchError(refused),
          whileOpen(store, project),
        ),
      ),
    ),
  { functional: true },
);

export const createIssue = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(IssueActions.issueAskedFor),
      concatLatestFrom(() => store.select(projectFeature.selectId)),
      exhaustMap(([{ issue }, project]) =>
        api.makeIssue(project, issue).pipe(
          map((created) => IssueActions.issueCreated({ issue: created })),
          catchError((error: unknown) => of(IssueActions.issueRefused({ problem: problemOf(error) }))),
          whileOpen(store, project),
        ),
      ),
    ),
  { functional: true },
);
