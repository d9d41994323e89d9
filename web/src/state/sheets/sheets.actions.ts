import { createActionGroup, props } from '@ngrx/store';
import type { ManyChange, NewSheet, SheetChange } from '@folvex/contract';
import type { Sheet } from '@folvex/core';

export const SheetActions = createActionGroup({
  source: 'Sheets',
  events: {
    'Sheet asked for': props<{ sheet: NewSheet }>(),
    'Sheets created': props<{ sheets: Sheet[] }>(),
    'Sheet edited': props<{ sheetId: string; change: SheetChange }>(),
    'Sheet saved': props<{ sheet: Sheet }>(),
    /** `kept`: what was typed stays, to be sent again with the next edit. */
    'Sheet edit refused': props<{ sheetId: string; kept: boolean }>(),
    'Several edited': props<{ change: ManyChange }>(),
    'Several saved': props<{ sheets: Sheet[] }>(),
    'Copy asked for': props<{ sheetId: string }>(),
    'Removal asked for': props<{ ids: string[] }>(),
    'Sheets removed': props<{ ids: string[] }>(),
    'Sheets put in package': props<{ packageId: string; sheetIds: string[] }>(),
  },
});
