import { createActionGroup, props } from '@ngrx/store';
import type { RunInfo, RunOptions } from '@folvex/contract';
import type { Destination, Finding } from '@folvex/core';

export const RunActions = createActionGroup({
  source: 'Runs',
  events: {
    'Publish asked for': props<{ packageId: string; options?: RunOptions }>(),
    'Repeat asked for': props<{ runId: string }>(),
    'Run stopped by checks': props<{ findings: Finding[] }>(),
    'Run begun': props<{ run: RunInfo }>(),
    /** A run that was not begun in this window. */
    'Run found': props<{ run: RunInfo }>(),
    'Run advanced': props<{ run: RunInfo }>(),
    /** `name`: null for that of its package; `was`: the name before. */
    'Run renamed': props<{ runId: string; name: string | null; was: string | null }>(),
    /** Removed, or restored. */
    'Removal asked for': props<{ runId: string; removed: boolean }>(),
    /** Its files are to be sent to a destination as well. */
    'Send asked for': props<{ runId: string; destination: Destination }>(),
    /** What of a delivery did not arrive is to be sent again. */
    'Delivery repeat asked for': props<{ runId: string; deliveryId: string }>(),
    'Delivery cancel asked for': props<{ runId: string; deliveryId: string }>(),
    /** The page of a delivery is to be closed: nobody downloads from it any more. */
    'Page close asked for': props<{ runId: string; deliveryId: string }>(),
    'Delivery begun': props<{ run: RunInfo }>(),
    'Cancel asked for': props<{ runId: string }>(),
  },
});
