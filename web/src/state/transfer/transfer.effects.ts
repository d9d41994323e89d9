import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { Store } from '@ngrx/store';
import type { TransferServer } from '@folvex/contract';
import { catchError, concatMap, EMPTY, map, merge, mergeMap, of, switchMap, take, type Observable } from 'rxjs';
import { OfficeApi } from '../office-api';
import { refused } from '../notices/refused';
import { projectFeature } from '../project/project.reducer';
import { serverWith } from './server-with';
import { TransferActions } from './transfer.actions';
import { transferFeature } from './transfer.reducer';

/**
 * Changes servers one after the other. An edit is made to the server as it is once those before it are saved: what was
 * typed into two fields in a row must not undo itself. A test waits for them too.
 */
export const changeServers = createEffect(
  (actions = inject(Actions), api = inject(OfficeApi), store = inject(Store)) =>
    actions.pipe(
      ofType(
        TransferActions.serversAskedFor,
        TransferActions.serverAdded,
        TransferActions.serverEdited,
        TransferActions.serverRemovalAskedFor,
        TransferActions.testAskedFor,
      ),
      concatLatestFrom(() => store.select(projectFeature.selectId)),
      concatMap(([action, project]) => {
        if (action.type === TransferActions.testAskedFor.type) return of(TransferActions.testDue({ id: action.id }));
        return store.select(transferFeature.selectServers).pipe(
          take(1),
          switchMap((known) => requestFor(api, project, action, known ?? [])),
          map((servers) => TransferActions.serversArrived({ servers })),
          catchError(refused),
        );
      }),
    ),
  { functional: true },
);

type Change = ReturnType<
  (typeof TransferActions)['serversAskedFor' | 'serverAdded' | 'serverEdited' | 'serverRemovalAskedFor']
>;

function requestFor(
  api: OfficeApi,
  project: string,
  action: Change,
  known: readonly TransferServer[],
): Observable<TransferServer[]> {
  if ('set' in action) return api.saveTransferServer(project, action.id, action.set);
  if (!('id' in action)) return api.transferServers(project);
  if (!('change' in action)) return api.removeTransferServer(project, action.id);
  const server = known.find(({ id }) => id === action.id);
  // It was removed while this was typed.
  return server ? api.saveTransferServer(project, action.id, serverWith(server, action.change)) : EMPTY;
}

export const testServer = createEffect(
  (actions = inject(Actions), api = inject(OfficeApi), store = inject(Store)) =>
    actions.pipe(
      ofType(TransferActions.testDue),
      concatLatestFrom(() => store.select(projectFeature.selectId)),
      mergeMap(([{ id }, project]) =>
        api.testTransferServer(project, id).pipe(
          map((steps) => TransferActions.testEnded({ id, steps })),
          catchError((error: unknown) => merge(of(TransferActions.testFailed({ id })), refused(error))),
        ),
      ),
    ),
  { functional: true },
);
