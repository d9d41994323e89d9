import { createActionGroup, props } from '@ngrx/store';
import type { Problem } from '@folvex/core';
import type { LookupAnswer, LookupKind, LookupQuery } from './lookup-table';

export const LookupActions = createActionGroup({
  source: 'Lookups',
  events: {
    'Lookup asked for': props<{ key: string; kind: LookupKind; query: LookupQuery<LookupKind> }>(),
    'Answer arrived': props<{ key: string; answer: LookupAnswer<LookupKind> }>(),
    'Lookup refused': props<{ key: string; problem: Problem }>(),
  },
});
