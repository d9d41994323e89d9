import { createActionGroup, emptyProps, props } from '@ngrx/store';
import type { LinkedFile, Problem, RenameRule } from '@folvex/core';

export const RelinkActions = createActionGroup({
  source: 'Relink',
  events: {
    /** They replace those that were chosen before. */
    'Files chosen': props<{ files: readonly File[] }>(),
    'Links found': props<{ files: readonly LinkedFile[]; problems: readonly Problem[] }>(),
    'Work advanced': props<{ done: number; all: number }>(),
    'Work failed': props<{ problem: Problem }>(),
    /** What was read is forgotten, too. */
    'Set dismissed': emptyProps(),
    'Rule changed': props<{ rule: RenameRule }>(),
    'Renaming chosen': props<{ rename: boolean }>(),
    'Table chosen': props<{ file: File }>(),
    'Table removed': emptyProps(),
    'Table read': props<{ table: readonly [old: string, now: string][] }>(),
    'Table failed': props<{ problem: Problem }>(),
    'Repaired files asked for': emptyProps(),
    'Repaired files written': emptyProps(),
  },
});
