import { createFeature, createReducer, on } from '@ngrx/store';
import type { RecipientPageContent } from '@folvex/contract';
import type { Problem } from '@folvex/core';
import { ReceivedActions } from './received.actions';

export interface ReceivedState {
  /** What was sent; null until it may be seen. */
  content: RecipientPageContent | null;
  problem: Problem | null;
  loading: boolean;
}

const initial: ReceivedState = { content: null, problem: null, loading: false };

/** The page that a recipient of an email has open. */
export const receivedFeature = createFeature({
  name: 'received',
  reducer: createReducer(
    initial,
    on(ReceivedActions.pageAskedFor, (state): ReceivedState => ({ ...state, loading: true })),
    on(ReceivedActions.pageArrived, (_state, { content }): ReceivedState => ({ ...initial, content })),
    on(ReceivedActions.pageRefused, (_state, { problem }): ReceivedState => ({ ...initial, problem })),
  ),
});
