import { createFeature, createReducer, on } from '@ngrx/store';
import {
  AUDIT_PAGE,
  type AccountRow,
  type AuditRow,
  type Member,
  type NewToken,
  type TokenInfo,
} from '@folvex/contract';
import { ProjectActions } from '../project/project.actions';
import { SessionActions } from '../session/session.actions';
import { OfficeActions } from './office.actions';

export interface OfficeState {
  /** Of the open project; null until they arrive. */
  members: Member[] | null;
  /** The last invitation that is to be sent: to whom, and its link. */
  invitation: { email: string; link: string; expiresAt: string } | null;
  accounts: AccountRow[] | null;
  tokens: TokenInfo[] | null;
  /** The token that was just created: it is shown this once. */
  newToken: NewToken | null;
  /** Counts up with each change of the password. */
  passwordsChanged: number;
  /** The latest rows, the newest first. */
  audit: AuditRow[] | null;
  /** True once there are no older ones. */
  isAuditWhole: boolean;
}

const initial: OfficeState = {
  ...{ members: null, invitation: null, accounts: null, tokens: null, newToken: null },
  ...{ passwordsChanged: 0, audit: null, isAuditWhole: false },
};

export const officeFeature = createFeature({
  name: 'office',
  reducer: createReducer(
    initial,
    on(SessionActions.sessionArrived, SessionActions.sessionEnded, () => initial),
    on(ProjectActions.projectOpened, (state): OfficeState => ({ ...state, members: null, invitation: null })),
    on(OfficeActions.membersArrived, (state, { members }): OfficeState => ({ ...state, members })),
    on(OfficeActions.personInvited, (state, { email, invited }): OfficeState =>
      invited.outcome === 'added'
        ? { ...state, members: invited.members, invitation: null }
        : { ...state, invitation: { email, link: invited.link, expiresAt: invited.expiresAt } },
    ),
    on(OfficeActions.accountsArrived, (state, { accounts }): OfficeState => ({ ...state, accounts })),
    on(OfficeActions.tokensAskedFor, (state): OfficeState => ({ ...state, newToken: null })),
    on(OfficeActions.tokensArrived, (state, { tokens }): OfficeState => ({ ...state, tokens })),
    on(OfficeActions.tokenCreated, (state, { token }): OfficeState => ({
      ...state,
      newToken: token,
      tokens: [...(state.tokens ?? []), token],
    })),
    on(OfficeActions.tokenRevocationAskedFor, (state, { id }): OfficeState => ({
      ...state,
      newToken: state.newToken?.id === id ? null : state.newToken,
    })),
    on(OfficeActions.passwordChanged, (state): OfficeState => ({
      ...state,
      passwordsChanged: state.passwordsChanged + 1,
    })),
    on(OfficeActions.auditArrived, (state, { rows, before }): OfficeState => ({
      ...state,
      audit: before === undefined ? rows : [...(state.audit ?? []), ...rows],
      isAuditWhole: rows.length < AUDIT_PAGE,
    })),
  ),
});
