import { createActionGroup, emptyProps, props, type Action } from '@ngrx/store';
import type { Problem } from '@folvex/core';

/** A message that is shown whatever place is open. */
export interface Notice {
  sentence: string;
  failed: boolean;
  /** What can be done about it: something in the store, or another place. */
  action?: { words: string; dispatch: Action } | { words: string; link: string[] };
}

export const NoticeActions = createActionGroup({
  source: 'Notices',
  events: {
    /** What the server, or a file, was refused for. */
    'Request refused': props<{ problem: Problem }>(),
    /** Takes the place of the one before. */
    'Notice shown': props<{ notice: Notice }>(),
    'Notice dismissed': emptyProps(),
  },
});
