import { createActionGroup, emptyProps, props } from '@ngrx/store';
import type { Finding } from '@folvex/core';

/** A finding about a sheet that can be opened. */
export type SheetFinding = Pick<Finding, 'sentence' | 'field'> & { about: string; number: string };

export const FindingActions = createActionGroup({
  source: 'Findings',
  events: {
    /** The sheet of one of the findings of a package is opened; from there the others can be opened in turn. */
    'Finding opened': props<{ packageId: string; findings: readonly SheetFinding[]; at: number }>(),
    'Next finding opened': emptyProps(),
    /** Their sheets are left. */
    'Findings closed': emptyProps(),
  },
});
