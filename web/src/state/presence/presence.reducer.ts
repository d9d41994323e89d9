import { createFeature, createReducer, createSelector, on } from '@ngrx/store';
import type { Person } from '@folvex/contract';
import { ProjectActions } from '../project/project.actions';
import { SessionActions } from '../session/session.actions';
import { PresenceActions } from './presence.actions';

export interface PresenceState {
  /** The person at this browser; the id is blank before it is known. */
  id: string;
  name: string;
  /** Everybody who has the open project open. */
  people: readonly Person[];
  /** The same for every project, by its id, as of the last visit to the first page. */
  byProject: Readonly<Record<string, readonly Person[]>>;
}

const initial: PresenceState = { id: '', name: '', people: [], byProject: {} };

/** Who has which project open. */
export const presenceFeature = createFeature({
  name: 'presence',
  reducer: createReducer(
    initial,
    on(ProjectActions.projectOpened, (state) => ({ ...state, people: [] })),
    on(SessionActions.sessionEnded, () => initial),
    on(PresenceActions.personRemembered, (state, { id, name }) => ({ ...state, id, name })),
    on(PresenceActions.personNamed, (state, { name }) => ({ ...state, name })),
    on(PresenceActions.newsArrived, (state, { news: { people } }) => ({ ...state, people })),
    on(PresenceActions.everybodyArrived, (state, { byProject }) => ({ ...state, byProject })),
  ),
});

/** Everybody else who has it open. */
export const selectOthers = createSelector(presenceFeature.selectPeople, presenceFeature.selectId, (people, own) =>
  people.filter(({ id }) => id !== own),
);
