import { createActionGroup, emptyProps, props } from '@ngrx/store';
import type { ArrivalAnswer, ArrivalAnswered, Arrivals } from '@folvex/contract';

export const ArrivalActions = createActionGroup({
  source: 'Arrivals',
  events: {
    'Arrivals asked for': emptyProps(),
    /** `changedAt`: the latest change that the server had reported when they were asked for; null: none. */
    'Arrivals came': props<{ arrivals: Arrivals; changedAt: string | null }>(),
    'Arrival decided': props<{ id: string; answer: ArrivalAnswer }>(),
    'Decision carried out': props<{ answered: ArrivalAnswered }>(),
    'Decision refused': props<{ id: string }>(),
  },
});
