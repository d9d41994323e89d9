import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { catchError, map, of, switchMap } from 'rxjs';
import { problemOf } from '../api';
import { OfficeApi } from '../office-api';
import { RecipientFilesActions } from './recipient-files.actions';

export const openPage = createEffect(
  (actions = inject(Actions), api = inject(OfficeApi)) =>
    actions.pipe(
      ofType(RecipientFilesActions.pageAskedFor),
      switchMap(({ link, password }) =>
        api.openRecipientPage(link, password).pipe(
          map((content) => RecipientFilesActions.pageArrived({ content })),
          catchError((error: unknown) => of(RecipientFilesActions.pageRefused({ problem: problemOf(error) }))),
        ),
      ),
    ),
  { functional: true },
);
