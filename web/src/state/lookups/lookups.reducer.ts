import { createFeature, createReducer, on } from '@ngrx/store';
import type { Problem } from '@folvex/core';
import { ProjectActions } from '../project/project.actions';
import { LookupActions } from './lookups.actions';
import type { LookupAnswer, LookupKind } from './lookup-table';

/** A lookup; without an answer or a problem it is on its way. */
export interface LookupEntry {
  key: string;
  answer?: LookupAnswer<LookupKind>;
  problem?: Problem;
}

export interface LookupsState {
  /** The oldest request first. */
  entries: readonly LookupEntry[];
}

/** A screen looks at a few at once; older ones are asked for again when they are needed. */
const MOST_KEPT = 60;
const initial: LookupsState = { entries: [] };

/** Answers of the server that are only looked at. */
export const lookupsFeature = createFeature({
  name: 'lookups',
  reducer: createReducer(
    initial,
    on(ProjectActions.projectOpened, () => initial),
    on(LookupActions.lookupAskedFor, ({ entries }, { key }) => ({
      entries: [...entries.filter((entry) => entry.key !== key).slice(1 - MOST_KEPT), { key }],
    })),
    on(LookupActions.answerArrived, (state, { key, answer }) => withEntry(state, { key, answer })),
    on(LookupActions.lookupRefused, (state, { key, problem }) => withEntry(state, { key, problem })),
  ),
});

function withEntry({ entries }: LookupsState, changed: LookupEntry): LookupsState {
  return { entries: entries.map((entry) => (entry.key === changed.key ? changed : entry)) };
}
