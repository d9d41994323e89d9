import { createActionGroup, props } from '@ngrx/store';
import type { Person } from '@folvex/contract';

export const PresenceActions = createActionGroup({
  source: 'Presence',
  events: {
    /** The person at this browser, as they were known here before. */
    'Person remembered': props<{ id: string; name: string }>(),
    /** `name`: blank where the person wants to be shown without one. */
    'Person named': props<{ name: string }>(),
    /** Everybody who has the open project open, the person at this browser among them. */
    'People arrived': props<{ people: readonly Person[] }>(),
    /** Everybody who has a project open, by its id. */
    'Everybody arrived': props<{ byProject: Readonly<Record<string, readonly Person[]>> }>(),
  },
});
