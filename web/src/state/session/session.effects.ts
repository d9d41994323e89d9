import { inject } from '@angular/core';
import { Router } from '@angular/router';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { Store } from '@ngrx/store';
import { catchError, exhaustMap, filter, ignoreElements, map, of, switchMap, tap } from 'rxjs';
import { problemOf } from '../api';
import { OfficeApi } from '../office-api';
import { ProjectActions } from '../project/project.actions';
import { SessionActions } from './session.actions';
import { LOAD_PAGE } from './load-page';
import { selectSignedOut, sessionFeature } from './session.reducer';

const refused = (error: unknown) => of(SessionActions.sessionRefused({ problem: problemOf(error) }));

export const askForSession = createEffect(
  (actions = inject(Actions), api = inject(OfficeApi)) =>
    actions.pipe(
      ofType(SessionActions.sessionAskedFor),
      switchMap(() =>
        api.session().pipe(
          map((session) => SessionActions.sessionArrived({ session })),
          catchError(refused),
        ),
      ),
    ),
  { functional: true },
);

export const signIn = createEffect(
  (actions = inject(Actions), api = inject(OfficeApi)) =>
    actions.pipe(
      ofType(SessionActions.signInAskedFor),
      exhaustMap(({ signIn: who }) =>
        api.signIn(who).pipe(
          map((session) => SessionActions.sessionArrived({ session })),
          catchError(refused),
        ),
      ),
    ),
  { functional: true },
);

export const join = createEffect(
  (actions = inject(Actions), api = inject(OfficeApi)) =>
    actions.pipe(
      ofType(SessionActions.joinAskedFor),
      exhaustMap(({ join: { invitation, ...person } }) =>
        api.join(invitation, person).pipe(
          map((session) => SessionActions.sessionArrived({ session })),
          catchError(refused),
        ),
      ),
    ),
  { functional: true },
);

export const signOut = createEffect(
  (actions = inject(Actions), api = inject(OfficeApi), goTo = inject(LOAD_PAGE)) =>
    actions.pipe(
      ofType(SessionActions.signOutAskedFor),
      exhaustMap(() =>
        api.signOut().pipe(
          // A new page: nothing of what one person saw stays for the next.
          tap(() => goTo('/sign-in')),
          ignoreElements(),
          catchError(refused),
        ),
      ),
    ),
  { functional: true },
);

/** Another person signs in where one was: their page begins anew, too. */
export const beginAnew = createEffect(
  (actions = inject(Actions), store = inject(Store), goTo = inject(LOAD_PAGE)) =>
    actions.pipe(
      ofType(SessionActions.sessionArrived),
      concatLatestFrom(() => store.select(sessionFeature.selectLastAccount)),
      tap(([{ session }, last]) => {
        if (last !== null && session.account !== null && session.account.id !== last) goTo('/');
      }),
    ),
  { functional: true, dispatch: false },
);

/** What there is to see is asked for once it is known that it may be. */
export const openApplication = createEffect(
  (actions = inject(Actions), store = inject(Store)) =>
    actions.pipe(
      ofType(SessionActions.sessionArrived),
      concatLatestFrom(() => store.select(selectSignedOut)),
      filter(([, signedOut]) => !signedOut),
      map(() => ProjectActions.applicationOpened()),
    ),
  { functional: true },
);

/** Without an answer to that there is nothing to see, and the first page says why. */
export const tellWhyNotOpened = createEffect(
  (actions = inject(Actions), store = inject(Store)) =>
    actions.pipe(
      ofType(SessionActions.sessionRefused),
      concatLatestFrom(() => store.select(sessionFeature.selectInfo)),
      filter(([, info]) => info === null),
      map(([{ problem }]) => ProjectActions.projectsDidNotArrive({ problem })),
    ),
  { functional: true },
);

/** Whoever is not signed in any more comes back to where they were. */
export const showSignIn = createEffect(
  (actions = inject(Actions), router = inject(Router)) =>
    actions.pipe(
      ofType(SessionActions.sessionEnded),
      tap(() => {
        if (/^\/(sign-in|join)\b/.test(router.url)) return;
        void router.navigate(['/sign-in'], { queryParams: { back: router.url } });
      }),
    ),
  { functional: true, dispatch: false },
);
