import { createActionGroup, props } from '@ngrx/store';
import type { EditAnswer, EditHistory, ProjectInfo } from '@folvex/contract';

export const EditActions = createActionGroup({
  source: 'Edits',
  events: {
    'Step asked for': props<{ way: 'undo' | 'redo' }>(),
    Stepped: props<{ way: 'undo' | 'redo'; step: EditAnswer }>(),
    'History arrived': props<{ history: EditHistory }>(),
    /** Sheets and settings as they are on the server, after an edit was refused. */
    'Sheets shown anew': props<{ info: ProjectInfo }>(),
    /** An edit was made or refused; `edit` is the type of its action. */
    'Edit ended': props<{ edit: string }>(),
  },
});
