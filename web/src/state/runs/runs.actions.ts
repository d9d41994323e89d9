import { createActionGroup, props } from '@ngrx/store';
import type { RunInfo, RunOptions } from '@folvex/contract';
import type { Finding } from '@folvex/core';

export const RunActions = createActionGroup({
  source: 'Runs',
  events: {
    'Publish asked for': props<{ packageId: string; options?: RunOptions }>(),
    'Repeat asked for': props<{ runId: string }>(),
    'Run stopped by checks': props<{ findings: Finding[] }>(),
    'Run begun': props<{ run: RunInfo }>(),
    'Run advanced': props<{ run: RunInfo }>(),
    /** `name`: null for that of its package; `was`: the name before. */
    'Run renamed': props<{ runId: string; name: string | null; was: string | null }>(),
    /** Removed, or restored. */
    'Removal asked for': props<{ runId: string; removed: boolean }>(),
    'Cancel asked for': props<{ runId: string }>(),
  },
});
