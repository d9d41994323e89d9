import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { Store, type Action } from '@ngrx/store';
import { catchError, concatMap, exhaustMap, map, of, switchMap, type Observable } from 'rxjs';
import { OfficeApi } from '../office-api';
import { NoticeActions } from '../notices/notices.actions';
import { refused } from '../notices/refused';
import { projectFeature } from '../project/project.reducer';
import { OfficeActions } from './office.actions';

export const changeMembers = createEffect(
  (actions = inject(Actions), api = inject(OfficeApi), store = inject(Store)) =>
    actions.pipe(
      ofType(OfficeActions.membersAskedFor, OfficeActions.roleChangeAskedFor),
      concatLatestFrom(() => store.select(projectFeature.selectId)),
      concatMap(([action, project]) => {
        const members =
          'account' in action ? api.changeRole(project, action.account, action.role) : api.members(project);
        return members.pipe(
          map((found) => OfficeActions.membersArrived({ members: found })),
          catchError(refused),
        );
      }),
    ),
  { functional: true },
);

export const invite = createEffect(
  (actions = inject(Actions), api = inject(OfficeApi), store = inject(Store)) =>
    actions.pipe(
      ofType(OfficeActions.invitationAskedFor),
      concatLatestFrom(() => store.select(projectFeature.selectId)),
      exhaustMap(([{ email, role }, project]) =>
        api.invite(project, email, role).pipe(
          map((invited) => OfficeActions.personInvited({ email, invited })),
          catchError(refused),
        ),
      ),
    ),
  { functional: true },
);

export const changeAccounts = createEffect(
  (actions = inject(Actions), api = inject(OfficeApi)) =>
    actions.pipe(
      ofType(OfficeActions.accountsAskedFor, OfficeActions.accountChangeAskedFor),
      concatMap((action) => {
        const accounts = 'account' in action ? api.changeAccount(action.account, action.change) : api.accounts();
        return accounts.pipe(
          map((found) => OfficeActions.accountsArrived({ accounts: found })),
          catchError(refused),
        );
      }),
    ),
  { functional: true },
);

export const changeTokens = createEffect(
  (actions = inject(Actions), api = inject(OfficeApi)) => {
    const listed = (): Observable<Action> =>
      api.tokens().pipe(map((tokens) => OfficeActions.tokensArrived({ tokens })));
    return actions.pipe(
      ofType(OfficeActions.tokensAskedFor, OfficeActions.tokenAskedFor, OfficeActions.tokenRevocationAskedFor),
      concatMap((action): Observable<Action> => {
        if ('token' in action)
          return api.createToken(action.token).pipe(
            map((token) => OfficeActions.tokenCreated({ token })),
            catchError(refused),
          );
        const first = 'id' in action ? api.revokeToken(action.id) : of(undefined);
        return first.pipe(switchMap(listed), catchError(refused));
      }),
    );
  },
  { functional: true },
);

export const changePassword = createEffect(
  (actions = inject(Actions), api = inject(OfficeApi)) =>
    actions.pipe(
      ofType(OfficeActions.passwordChangeAskedFor),
      exhaustMap(({ was, password }) =>
        api.changePassword({ was, password }).pipe(
          switchMap(() => {
            const sentence = 'The password is changed. Other browsers that were signed in are signed out.';
            return of(
              OfficeActions.passwordChanged(),
              NoticeActions.noticeShown({ notice: { sentence, failed: false } }),
            );
          }),
          catchError(refused),
        ),
      ),
    ),
  { functional: true },
);

export const readAudit = createEffect(
  (actions = inject(Actions), api = inject(OfficeApi)) =>
    actions.pipe(
      ofType(OfficeActions.auditAskedFor),
      switchMap(({ before }) =>
        api.audit(before).pipe(
          map((rows) => OfficeActions.auditArrived({ rows, ...(before !== undefined && { before }) })),
          catchError(refused),
        ),
      ),
    ),
  { functional: true },
);
