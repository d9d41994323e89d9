import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { Store } from '@ngrx/store';
import { catchError, concatMap, map, merge, mergeMap, of } from 'rxjs';
import { OfficeApi } from '../office-api';
import { refused } from '../notices/refused';
import { projectFeature } from '../project/project.reducer';
import { TransferActions } from './transfer.actions';

export const changeServers = createEffect(
  (actions = inject(Actions), api = inject(OfficeApi), store = inject(Store)) =>
    actions.pipe(
      ofType(TransferActions.serversAskedFor, TransferActions.serverEdited, TransferActions.serverRemovalAskedFor),
      concatLatestFrom(() => store.select(projectFeature.selectId)),
      concatMap(([action, project]) => {
        const servers =
          'set' in action
            ? api.saveTransferServer(project, action.id, action.set)
            : 'id' in action
              ? api.removeTransferServer(project, action.id)
              : api.transferServers(project);
        return servers.pipe(
          map((found) => TransferActions.serversArrived({ servers: found })),
          catchError(refused),
        );
      }),
    ),
  { functional: true },
);

export const testServer = createEffect(
  (actions = inject(Actions), api = inject(OfficeApi), store = inject(Store)) =>
    actions.pipe(
      ofType(TransferActions.testAskedFor),
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
