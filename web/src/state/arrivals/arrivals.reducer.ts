import { createEntityAdapter, type EntityState } from '@ngrx/entity';
import { createFeature, createReducer, createSelector, on } from '@ngrx/store';
import type { ArrivalInfo, InboxInfo } from '@folvex/contract';
import { ProjectActions } from '../project/project.actions';
import { ArrivalActions } from './arrivals.actions';

export interface ArrivalsState {
  inboxes: InboxInfo[];
  /** The latest first, as the server sends them. */
  arrivals: EntityState<ArrivalInfo>;
  /** The latest change in them that is known; null: none, or they were not fetched yet. */
  changedAt: string | null;
  /** Ids of those whose decision is being carried out. */
  deciding: readonly string[];
}

const adapter = createEntityAdapter<ArrivalInfo>();
const initial: ArrivalsState = {
  ...{ inboxes: [], changedAt: null, deciding: [] },
  arrivals: adapter.getInitialState(),
};
const without = (deciding: readonly string[], id: string): string[] => deciding.filter((one) => one !== id);

/** What arrived in the inboxes of the project. */
export const arrivalsFeature = createFeature({
  name: 'arrivals',
  reducer: createReducer(
    initial,
    on(ProjectActions.projectOpened, () => initial),
    on(ArrivalActions.arrivalsCame, (state, { arrivals: { inboxes, arrivals }, changedAt }) => ({
      ...{ ...state, inboxes, changedAt },
      arrivals: adapter.setAll(arrivals, state.arrivals),
    })),
    on(ArrivalActions.arrivalDecided, (state, { id }) => ({ ...state, deciding: [...state.deciding, id] })),
    on(ArrivalActions.decisionCarriedOut, (state, { answered: { arrival } }) => ({
      ...state,
      arrivals: adapter.setOne(arrival, state.arrivals),
      deciding: without(state.deciding, arrival.id),
    })),
    on(ArrivalActions.decisionRefused, (state, { id }) => ({ ...state, deciding: without(state.deciding, id) })),
  ),
  extraSelectors: ({ selectArrivals }) => ({
    selectAllArrivals: createSelector(selectArrivals, adapter.getSelectors().selectAll),
  }),
});

/** Those that wait for a decision. */
export const selectWaitingArrivals = createSelector(arrivalsFeature.selectAllArrivals, (arrivals) =>
  arrivals.filter(({ state }) => state === 'waiting'),
);
