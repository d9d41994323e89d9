import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { getRouterSelectors } from '@ngrx/router-store';
import { createSelector, Store } from '@ngrx/store';
import { PRESENT_EVERY_S } from '@folvex/contract';
import { catchError, combineLatest, EMPTY, exhaustMap, map, Observable, switchMap, tap, timer } from 'rxjs';
import { Api } from '../api';
import { ProjectActions } from '../project/project.actions';
import { whileOpen } from '../project/while-open';
import { PresenceActions } from './presence.actions';
import { presenceFeature } from './presence.reducer';

const ID_KEY = 'folvex.person';
const NAME_KEY = 'folvex.person-name';
/** Of this window. */
const WINDOW_ID = randomId();

/** The address, such as `/projects/2617/sheets/a-101`; undefined before the first one. */
const selectAddress = createSelector(getRouterSelectors().selectUrl, (url: string | undefined) => url);
/** The project of the address; undefined on the first page. */
const selectProject = createSelector(selectAddress, (url) => /^\/projects\/([^/?#;]+)/.exec(url ?? '')?.[1]);
const selectSheet = createSelector(
  selectAddress,
  (url) => /^\/projects\/[^/?#;]+\/sheets\/([^/?#;]+)/.exec(url ?? '')?.[1],
);
const selectIsFirstPage = createSelector(selectAddress, (url) => url !== undefined && /^\/(?:[?#;]|$)/.test(url));

export const rememberPerson = createEffect(
  (actions = inject(Actions)) =>
    actions.pipe(
      ofType(ProjectActions.applicationOpened),
      map(() => {
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

/** Tells the server again and again who has which project and sheet open in this window, and learns who else has. */
export const tellPresence = createEffect(
  (store = inject(Store), api = inject(Api)) =>
    combineLatest([
      store.select(selectProject),
      store.select(selectSheet),
      store.select(presenceFeature.selectId),
      store.select(presenceFeature.selectName),
    ]).pipe(
      switchMap(([project, sheet, id, name]) =>
        project === undefined || id === ''
          ? EMPTY
          : timer(0, PRESENT_EVERY_S * 1000).pipe(
              exhaustMap(() =>
                api
                  .tellPresence(decodeURIComponent(project), {
                    ...{ window: WINDOW_ID, id, name },
                    sheet: sheet === undefined ? null : decodeURIComponent(sheet),
                  })
                  // It is told again soon; what is wrong with the server or the project is said elsewhere.
                  .pipe(catchError(() => EMPTY)),
              ),
              whileOpen(store, decodeURIComponent(project)),
            ),
      ),
      map((people) => PresenceActions.peopleArrived({ people })),
    ),
  { functional: true },
);

/** Another project, or the first page, ends the presence at once; so does closing the window. */
export const endPresence = createEffect(
  (store = inject(Store), api = inject(Api)) =>
    store
      .select(selectProject)
      .pipe(switchMap((project) => (project === undefined ? EMPTY : whileThere(api, decodeURIComponent(project))))),
  { functional: true, dispatch: false },
);

/** 128 random bits. Not by `randomUUID`, which browsers have on secure pages only: an office may use plain HTTP. */
function randomId(): string {
  return Array.from(crypto.getRandomValues(new Uint8Array(16)), (byte) => byte.toString(16).padStart(2, '0')).join('');
}

/** Emits nothing; once nobody listens any more, or the window is closed, the presence has ended. */
function whileThere(api: Api, project: string): Observable<never> {
  return new Observable(() => {
    const leave = (): void => api.endPresence(project, WINDOW_ID);
    window.addEventListener('pagehide', leave);
    return () => {
      window.removeEventListener('pagehide', leave);
      leave();
    };
  });
}

/** The list of projects is kept as it is now while it is looked at. */
export const refreshProjects = createEffect(
  (store = inject(Store), api = inject(Api)) =>
    store.select(selectIsFirstPage).pipe(
      switchMap((looked) => (looked ? timer(0, PRESENT_EVERY_S * 1000) : EMPTY)),
      exhaustMap(() => api.projects().pipe(catchError(() => EMPTY))),
      map((projects) => ProjectActions.projectsArrived({ projects })),
    ),
  { functional: true },
);
