import { createActionGroup, props } from '@ngrx/store';
import type { ArrivalAnswer, ArrivalAnswered, Arrivals } from '@folvex/contract';

export const ArrivalActions = createActionGroup({
  source: 'Arrivals',
  events: {
    /** `changedAt`: when something last changed in them, as the server said before it sent them. */
    'Arrivals came': props<{ arrivals: Arrivals; changedAt: string }>(),
    'Arrival decided': props<{ id: string; answer: ArrivalAnswer }>(),
    'Decision carried out': props<{ answered: ArrivalAnswered }>(),
    'Decision refused': props<{ id: string }>(),
  },
});
