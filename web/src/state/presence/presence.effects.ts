import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { getRouterSelectors } from '@ngrx/router-store';
import { createSelector, Store } from '@ngrx/store';
import { PRESENT_EVERY_S } from '@folvex/contract';
import { catchError, combineLatest, EMPTY, exhaustMap, filter, map, Observable, switchMap, tap, timer } from 'rxjs';
import { Api } from '../api';
import { projectFeature } from '../project/project.reducer';
import { SessionActions } from '../session/session.actions';
import { PresenceActions } from './presence.actions';
import { presenceFeature } from './presence.reducer';

const ID_KEY = 'folvex.person';
const NAME_KEY = 'folvex.person-name';
const WINDOW_ID = randomId();
const EVERY_MS = PRESENT_EVERY_S * 1000;

const { selectUrl, selectRouteParam } = getRouterSelectors();
const selectInProject = createSelector(selectUrl, (url: string | undefined) => url?.startsWith('/projects/'));
const selectOnFirstPage = createSelector(selectUrl, (url: string | undefined) => url?.split(/[?#]/, 1)[0] === '/');
/** Id of the project that is open in this window; blank on the first page. */
const selectHere = createSelector(selectInProject, projectFeature.selectId, (inProject, id) => (inProject ? id : ''));

export const rememberPerson = createEffect(
  (actions = inject(Actions)) =>
    actions.pipe(
      ofType(SessionActions.sessionArrived),
      filter(({ session: { office, account } }) => !office || account !== null),
      map(({ session: { account } }) => {
        if (account) return PresenceActions.personRemembered({ id: account.id, name: account.name });
        const id = localStorage.getItem(ID_KEY) ?? randomId();
        localStorage.setItem(ID_KEY, id);
        return PresenceActions.personRemembered({ id, name: localStorage.getItem(NAME_KEY) ?? '' });
      }),
    ),
  { functional: true },
);

export const keepName = createEffect(
  (actions = inject(Actions)) =>
    actions.pipe(
      ofType(PresenceActions.personNamed),
      tap(({ name }) => localStorage.setItem(NAME_KEY, name)),
    ),
  { functional: true, dispatch: false },
);

/** Reports every few seconds who has which project and sheet open in this window; learns who else has, and what is new. */
export const reportPresence = createEffect(
  (store = inject(Store), api = inject(Api)) =>
    combineLatest([
      store.select(selectHere),
      store.select(selectRouteParam('sheet')),
      store.select(presenceFeature.selectId),
      store.select(presenceFeature.selectName),
    ]).pipe(
      switchMap(([project, sheet = null, id, name]) => {
        if (project === '' || id === '') return EMPTY;
        const presence = { window: WINDOW_ID, id, name, sheet };
        // A failed report is repeated soon; what is wrong with the server or the project is said elsewhere.
        return timer(0, EVERY_MS).pipe(
          exhaustMap(() => api.reportPresence(project, presence).pipe(catchError(() => EMPTY))),
        );
      }),
      map((news) => PresenceActions.newsArrived({ news })),
    ),
  { functional: true },
);

/** Leaving the project ends the presence at once; so does closing the window. */
export const endPresence = createEffect(
  (store = inject(Store), api = inject(Api)) =>
    store.select(selectHere).pipe(switchMap((project) => (project === '' ? EMPTY : endedOnLeaving(api, project)))),
  { functional: true, dispatch: false },
);

/** On the first page: who has which project open, again and again. */
export const watchEverybody = createEffect(
  (store = inject(Store), api = inject(Api)) =>
    combineLatest([store.select(selectOnFirstPage), store.select(presenceFeature.selectId)]).pipe(
      switchMap(([isHere, id]) => (isHere && id !== '' ? timer(0, EVERY_MS) : EMPTY)),
      exhaustMap(() => api.everyPresence().pipe(catchError(() => EMPTY))),
      map((byProject) => PresenceActions.everybodyArrived({ byProject })),
    ),
  { functional: true },
);

/** Emits nothing; ends the presence when it is unsubscribed from, and when the window is closed. */
function endedOnLeaving(api: Api, project: string): Observable<never> {
  return new Observable(() => {
    const leave = (): void => api.endPresence(project, WINDOW_ID);
    window.addEventListener('pagehide', leave);
    return () => {
      window.removeEventListener('pagehide', leave);
      leave();
    };
  });
}

/** 128 random bits. Not by `randomUUID`, which browsers offer on secure pages only: an office may use plain HTTP. */
function randomId(): string {
  return Array.from(crypto.getRandomValues(new Uint8Array(16)), (byte) => byte.toString(16).padStart(2, '0')).join('');
}
