import { createActionGroup, emptyProps, props } from '@ngrx/store';

/** How two states of a page are shown: both in one picture, side by side at a line, or in turns. */
export type CompareMode = 'together' | 'line' | 'turns';

export const CompareActions = createActionGroup({
  source: 'Compare',
  events: {
    'Mode chosen': props<{ mode: CompareMode }>(),
    /** Per cent from the left edge of the page. */
    'Line moved': props<{ lineAt: number }>(),
    'Difference chosen': props<{ difference: number }>(),
    /** Another page is compared, or the same one with another run. */
    'Page compared': emptyProps(),
  },
});
