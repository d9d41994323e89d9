import { createActionGroup, emptyProps, props } from '@ngrx/store';
import type {
  AccountChange,
  AccountRow,
  AuditRow,
  Invitation,
  Invited,
  Member,
  NewToken,
  PasswordChange,
  Role,
  TokenInfo,
  TokenRequest,
} from '@folvex/contract';

/** Who works here, with which rights, and what they did. */
export const OfficeActions = createActionGroup({
  source: 'Office',
  events: {
    'Members asked for': emptyProps(),
    'Members arrived': props<{ members: Member[] }>(),
    'Invitation asked for': props<Invitation>(),
    /** The person was added, or there is a link to send. */
    'Person invited': props<{ email: string; invited: Invited }>(),
    /** `role`: null ends the membership. */
    'Role change asked for': props<{ account: string; role: Role | null }>(),
    'Accounts asked for': emptyProps(),
    'Accounts arrived': props<{ accounts: AccountRow[] }>(),
    'Account change asked for': props<{ account: string; change: AccountChange }>(),
    'Tokens asked for': emptyProps(),
    'Tokens arrived': props<{ tokens: TokenInfo[] }>(),
    'Token asked for': props<{ token: TokenRequest }>(),
    'Token created': props<{ token: NewToken }>(),
    'Token revocation asked for': props<{ id: string }>(),
    'Password change asked for': props<PasswordChange>(),
    'Password changed': emptyProps(),
    /** `before`: those older than this one, in addition. */
    'Audit asked for': props<{ before?: number }>(),
    'Audit arrived': props<{ rows: AuditRow[]; before?: number }>(),
  },
});
