import { createFeature, createReducer, on } from '@ngrx/store';
import type { EditHistory } from '@folvex/contract';
import { PackageActions } from '../packages/packages.actions';
import { ProjectActions, SettingsActions } from '../project/project.actions';
import { SheetActions } from '../sheets/sheets.actions';
import { EditActions } from './edits.actions';

export interface EditsState {
  /** What can be undone and redone. */
  history: EditHistory;
  /** The last step back or forward; null once something else was done. */
  lastStep: { way: 'undo' | 'redo'; words: string } | null;
  /** How many edits of sheets and settings are on their way. */
  editing: number;
}

/** A step that can be undone until the server has named it: keys pressed at once are not lost. */
export const LAST_EDIT: EditHistory = { undo: 'the last edit', redo: null };

const initial: EditsState = { history: { undo: null, redo: null }, lastStep: null, editing: 0 };

/** What was edited, whatever it belongs to: what is on its way, what can be undone. */
export const editsFeature = createFeature({
  name: 'edits',
  reducer: createReducer(
    initial,
    on(ProjectActions.projectOpened, () => initial),
    on(ProjectActions.projectArrived, EditActions.sheetsShownAnew, (state, { info }) => ({
      ...state,
      history: info.history,
    })),
    on(
      SheetActions.sheetEdited,
      SheetActions.severalEdited,
      SheetActions.copyAskedFor,
      SheetActions.removalAskedFor,
      SettingsActions.settingsEdited,
      (state) => ({ ...state, editing: state.editing + 1, history: LAST_EDIT }),
    ),
    on(EditActions.stepAskedFor, (state) => ({ ...state, editing: state.editing + 1 })),
    on(EditActions.editEnded, (state) => ({ ...state, editing: Math.max(0, state.editing - 1) })),
    on(
      SheetActions.sheetsCreated,
      SheetActions.sheetsRemoved,
      SheetActions.sheetSaved,
      SheetActions.severalSaved,
      SettingsActions.settingsSaved,
      (state) => ({ ...state, lastStep: null }),
    ),
    on(PackageActions.packageEdited, (state) => ({ ...state, lastStep: null })),
    on(EditActions.historyArrived, (state, { history }) => ({ ...state, history })),
    on(EditActions.stepped, (state, { way, step }) => ({
      ...state,
      history: step.history,
      lastStep: { way, words: step.words },
    })),
  ),
});
