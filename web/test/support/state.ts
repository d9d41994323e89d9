import { combineReducers, type Action } from '@ngrx/store';
import { REDUCERS } from '../../src/state/store';

const reduce = combineReducers(REDUCERS);

/** The store as some actions leave it. */
export type State = ReturnType<typeof reduce>;

export function after(...actions: readonly Action[]): State {
  return actions.reduce<State>((state, action) => reduce(state, action), reduce(undefined, { type: 'start' }));
}

/** All that the features hold, in one. */
export function whole(state: State) {
  const { project, drawings, sheets, packages, issues, edits, notices } = state;
  return { ...project, ...drawings, ...sheets, ...packages, ...issues, ...edits, ...notices };
}
