import { createActionGroup, props } from '@ngrx/store';
import type { Person, ProjectNews } from '@folvex/contract';

export const PresenceActions = createActionGroup({
  source: 'Presence',
  events: {
    /** The person at this browser, as they were known here before. */
    'Person remembered': props<{ id: string; name: string }>(),
    /** `name`: blank where the person wants to be shown without one. */
    'Person named': props<{ name: string }>(),
    /** Who has the open project open, the person at this browser among them, and what happened in it last. */
    'News arrived': props<{ news: ProjectNews }>(),
    /** Everybody who has a project open, by its id. */
    'Everybody arrived': props<{ byProject: Readonly<Record<string, readonly Person[]>> }>(),
  },
});
