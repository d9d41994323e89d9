import { createActionGroup, props } from '@ngrx/store';
import type { RecipientPageContent } from '@folvex/contract';
import type { Problem } from '@folvex/core';

export const RecipientFilesActions = createActionGroup({
  source: 'Files of a recipient',
  events: {
    /** `link`: the last part of its address. */
    'Page asked for': props<{ link: string; password?: string }>(),
    'Page arrived': props<{ content: RecipientPageContent }>(),
    'Page refused': props<{ problem: Problem }>(),
  },
});
