import { createFeature, createReducer, on } from '@ngrx/store';
import type { RecipientPageContent } from '@folvex/contract';
import type { Problem } from '@folvex/core';
import { RecipientFilesActions } from './recipient-files.actions';

export interface RecipientFilesState {
  /** What was sent; null until it may be seen. */
  content: RecipientPageContent | null;
  problem: Problem | null;
  loading: boolean;
}

const initial: RecipientFilesState = { content: null, problem: null, loading: false };

/** The page that a recipient of an email has open. */
export const recipientFilesFeature = createFeature({
  name: 'recipientFiles',
  reducer: createReducer(
    initial,
    on(RecipientFilesActions.pageAskedFor, (state): RecipientFilesState => ({ ...state, loading: true })),
    on(RecipientFilesActions.pageArrived, (_state, { content }): RecipientFilesState => ({ ...initial, content })),
    on(RecipientFilesActions.pageRefused, (_state, { problem }): RecipientFilesState => ({ ...initial, problem })),
  ),
});
