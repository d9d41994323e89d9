import { createFeature, createReducer, on } from '@ngrx/store';
import type { TransferServer, TransferStep } from '@folvex/contract';
import { omitKey } from '../omit-key';
import { ProjectActions } from '../project/project.actions';
import { TransferActions } from './transfer.actions';

export interface TransferState {
  /** Null until they arrive. */
  servers: TransferServer[] | null;
  /** Steps of the last test of each, by its id; null while it goes on. */
  tests: Readonly<Record<string, TransferStep[] | null>>;
}

const initial: TransferState = { servers: null, tests: {} };

export const transferFeature = createFeature({
  name: 'transfer',
  reducer: createReducer(
    initial,
    on(ProjectActions.projectOpened, () => initial),
    on(TransferActions.serversArrived, (state, { servers }): TransferState => ({ ...state, servers })),
    // What was found out no longer holds.
    on(TransferActions.serverEdited, TransferActions.testFailed, (state, { id }): TransferState => ({
      ...state,
      tests: omitKey(state.tests, id),
    })),
    on(TransferActions.testAskedFor, (state, { id }): TransferState => ({
      ...state,
      tests: { ...state.tests, [id]: null },
    })),
    on(TransferActions.testEnded, (state, { id, steps }): TransferState => ({
      ...state,
      tests: { ...state.tests, [id]: steps },
    })),
  ),
});
