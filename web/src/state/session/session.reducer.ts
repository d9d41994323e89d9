import { createFeature, createReducer, createSelector, on } from '@ngrx/store';
import { roleIncludes, type SessionInfo } from '@folvex/contract';
import type { Problem } from '@folvex/core';
import { projectFeature } from '../project/project.reducer';
import { SessionActions } from './session.actions';

export interface SessionState {
  /** Null until the server has said. */
  info: SessionInfo | null;
  problem: Problem | null;
  /** Id of who was signed in before the session ended by itself; null: nobody, or it did not. */
  lastAccount: string | null;
  /** True while a sign-in is on its way. */
  sending: boolean;
}

const initial: SessionState = { info: null, problem: null, lastAccount: null, sending: false };

export const sessionFeature = createFeature({
  name: 'session',
  reducer: createReducer(
    initial,
    on(SessionActions.sessionArrived, ({ lastAccount }, { session }): SessionState => ({
      ...initial,
      lastAccount,
      info: session,
    })),
    on(SessionActions.signInAskedFor, SessionActions.joinAskedFor, (state): SessionState => ({
      ...state,
      problem: null,
      sending: true,
    })),
    on(SessionActions.sessionRefused, (state, { problem }): SessionState => ({ ...state, problem, sending: false })),
    on(SessionActions.sessionEnded, ({ info, lastAccount }): SessionState => ({
      ...initial,
      lastAccount: info?.account?.id ?? lastAccount,
      info: info && { ...info, account: null, roles: {} },
    })),
  ),
});

/** True where people sign in and this one has not. */
export const selectSignedOut = createSelector(
  sessionFeature.selectInfo,
  (info) => info !== null && info.office && info.account === null,
);

/** True where people sign in. */
export const selectIsOffice = createSelector(sessionFeature.selectInfo, (info) => info?.office === true);

export const selectAccount = createSelector(sessionFeature.selectInfo, (info) => info?.account ?? null);

/** True for whoever the whole installation belongs to: an owner, or the only person. */
export const selectIsOwner = createSelector(
  sessionFeature.selectInfo,
  (info) => info !== null && (!info.office || info.account?.isOwner === true),
);

/** What the person may do in the open project. */
export const selectRole = createSelector(
  sessionFeature.selectInfo,
  selectIsOwner,
  projectFeature.selectId,
  (info, owner, project) => (owner ? 'lead' : info?.roles[project]),
);

/** True where the person may only look and download. */
export const selectIsReader = createSelector(selectRole, (role) => role === 'reader');
export const selectIsLead = createSelector(selectRole, (role) => roleIncludes(role, 'lead'));
