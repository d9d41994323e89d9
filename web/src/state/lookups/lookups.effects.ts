import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { catchError, map, mergeMap, of, type Observable } from 'rxjs';
import { Api, problemOf } from '../api';
import { OfficeApi } from '../office-api';
import { LOOKUPS, type Apis, type LookupAnswer, type LookupKind, type LookupQuery } from './lookup-table';
import { LookupActions } from './lookups.actions';

export const lookUp = createEffect(
  (actions = inject(Actions), apis = { api: inject(Api), office: inject(OfficeApi) }) =>
    actions.pipe(
      ofType(LookupActions.lookupAskedFor),
      mergeMap(({ key, kind, query }) =>
        request(apis, kind, query).pipe(
          map((answer) => LookupActions.answerArrived({ key, answer })),
          catchError((error: unknown) => of(LookupActions.lookupRefused({ key, problem: problemOf(error) }))),
        ),
      ),
    ),
  { functional: true },
);

/** The table holds a request for each kind; `Lookups.of` makes sure that the query is of that kind. */
function request(apis: Apis, kind: LookupKind, query: LookupQuery<LookupKind>): Observable<LookupAnswer<LookupKind>> {
  const ask = LOOKUPS[kind] as (apis: Apis, query: LookupQuery<LookupKind>) => Observable<LookupAnswer<LookupKind>>;
  return ask(apis, query);
}
