import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { Store, type Action } from '@ngrx/store';
import type { ArrivalInfo } from '@folvex/contract';
import { catchError, EMPTY, exhaustMap, from, map, mergeMap, of, switchMap } from 'rxjs';
import { Api, problemOf } from '../api';
import { DrawingActions } from '../drawings/drawings.actions';
import { selectDrawingEntities } from '../drawings/drawings.selectors';
import { NoticeActions } from '../notices/notices.actions';
import { refused } from '../notices/refused';
import { PresenceActions } from '../presence/presence.actions';
import { ProjectLinks } from '../project/project-links';
import { projectFeature } from '../project/project.reducer';
import { whileOpen } from '../project/while-open';
import { ArrivalActions } from './arrivals.actions';
import { arrivalsFeature } from './arrivals.reducer';

/** Fetches the arrivals when something has changed in them; gives notice of files that arrived while the page was open. */
export const fetchArrivals = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store), { to } = inject(ProjectLinks)) =>
    actions.pipe(
      ofType(PresenceActions.newsArrived),
      concatLatestFrom(() => [
        store.select(projectFeature.selectId),
        store.select(arrivalsFeature.selectArrivalsState),
      ]),
      exhaustMap(([{ news }, project, { changedAt: known, arrivals: before }]) => {
        const changedAt = news.arrivalsChangedAt;
        if (changedAt === null || changedAt === known) return EMPTY;
        return api.arrivals(project).pipe(
          mergeMap((arrivals): Action[] => {
            const isNew = ({ id, state }: ArrivalInfo): boolean => {
              const was = before.entities[id]?.state;
              return (was === undefined || was === 'arriving') && state !== 'arriving' && state !== 'known';
            };
            const came = known === null ? [] : arrivals.arrivals.filter(isNew);
            return [ArrivalActions.arrivalsCame({ arrivals, changedAt }), ...noticeOf(came, to('drawings'))];
          }),
          // It is asked for again with the next news.
          catchError(() => EMPTY),
          whileOpen(store, project),
        );
      }),
    ),
  { functional: true },
);

function noticeOf(came: readonly ArrivalInfo[], link: string[]): Action[] {
  const [first, ...more] = came;
  if (!first) return [];
  const what = more.length === 0 ? first.path : `${first.path} and ${more.length} more`;
  const sentence = `${what} arrived in the inbox ${first.inbox}.`;
  const action = { words: 'Show', link };
  return [NoticeActions.noticeShown({ notice: { sentence, failed: false, action } })];
}

/** Fetches the inboxes as they are now, for whoever looks at them. */
export const refreshArrivals = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(ArrivalActions.arrivalsAskedFor),
      concatLatestFrom(() => [store.select(projectFeature.selectId), store.select(arrivalsFeature.selectChangedAt)]),
      switchMap(([, project, changedAt]) =>
        api.arrivals(project).pipe(
          map((arrivals) => ArrivalActions.arrivalsCame({ arrivals, changedAt })),
          catchError(refused),
          whileOpen(store, project),
        ),
      ),
    ),
  { functional: true },
);

/** Fetches drawings of which an inbox, or somebody else, took a newer version. */
export const fetchTaken = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(ArrivalActions.arrivalsCame),
      concatLatestFrom(() => [store.select(projectFeature.selectId), store.select(selectDrawingEntities)]),
      mergeMap(([{ arrivals }, project, drawings]) => {
        const behind = arrivals.arrivals.flatMap(({ drawing, version }) =>
          drawing !== null && (drawings[drawing]?.version ?? 0) < (version ?? 1) ? [drawing] : [],
        );
        return from(new Set(behind)).pipe(
          mergeMap((id) => api.drawing(id).pipe(catchError(() => EMPTY)), 3),
          map((drawing) => DrawingActions.drawingChanged({ drawing })),
          whileOpen(store, project),
        );
      }),
    ),
  { functional: true },
);

export const decide = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(ArrivalActions.arrivalDecided),
      concatLatestFrom(() => store.select(projectFeature.selectId)),
      mergeMap(([{ id, answer }, project]) =>
        api.answerArrival(project, id, answer).pipe(
          mergeMap((answered): Action[] => [
            ...(answered.drawing ? [DrawingActions.drawingChanged({ drawing: answered.drawing })] : []),
            ArrivalActions.decisionCarriedOut({ answered }),
          ]),
          catchError((error: unknown) =>
            of(ArrivalActions.decisionRefused({ id }), NoticeActions.requestRefused({ problem: problemOf(error) })),
          ),
          whileOpen(store, project),
        ),
      ),
    ),
  { functional: true },
);
