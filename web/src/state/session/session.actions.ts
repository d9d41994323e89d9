import { createActionGroup, emptyProps, props } from '@ngrx/store';
import type { SessionInfo } from '@folvex/contract';
import type { Problem } from '@folvex/core';

export interface SignIn {
  email: string;
  password: string;
}

/** Accepting an invitation; the address only where the invitation has none. */
export interface Join {
  invitation: string;
  email?: string;
  name: string;
  password: string;
}

export const SessionActions = createActionGroup({
  source: 'Session',
  events: {
    'Session asked for': emptyProps(),
    /** Who is signed in, now or still. */
    'Session arrived': props<{ session: SessionInfo }>(),
    'Sign in asked for': props<{ signIn: SignIn }>(),
    'Join asked for': props<{ join: Join }>(),
    /** Why nobody could be signed in, or it is not known who is. */
    'Session refused': props<{ problem: Problem }>(),
    'Sign out asked for': emptyProps(),
    /** The server no longer knows this browser: it was signed out elsewhere, or for too long idle. */
    'Session ended': emptyProps(),
  },
});
