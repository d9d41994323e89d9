import { createFeature, createReducer, on } from '@ngrx/store';
import { placeInWords, type Problem } from '@folvex/core';
import { EditActions } from '../edits/edits.actions';
import { PackageActions } from '../packages/packages.actions';
import { ProjectActions, SettingsActions } from '../project/project.actions';
import { RunActions } from '../runs/runs.actions';
import { SheetActions } from '../sheets/sheets.actions';
import { NoticeActions, type Notice } from './notices.actions';

export interface NoticesState {
  /** The notice on show; a newer one replaces it. */
  notice: Notice | null;
  /** The last refusal; cleared by the next success. */
  refusal: Problem | null;
}

const initial: NoticesState = { notice: null, refusal: null };

export const noticesFeature = createFeature({
  name: 'notices',
  reducer: createReducer(
    initial,
    on(NoticeActions.requestRefused, (_, { problem }) => ({ refusal: problem, notice: refused(problem) })),
    on(NoticeActions.noticeShown, (_, { notice }) => ({ refusal: null, notice })),
    on(NoticeActions.noticeDismissed, ProjectActions.projectOpened, () => initial),
    on(
      SheetActions.sheetsCreated,
      SheetActions.sheetsRemoved,
      SheetActions.sheetSaved,
      SheetActions.severalSaved,
      SettingsActions.settingsSaved,
      EditActions.stepped,
      RunActions.runBegun,
      ({ notice, refusal }) => ({ refusal: null, notice: refusal ? null : notice }),
    ),
    // Undo always reverts the last edit: a notice stops offering it once that is another one.
    on(
      SheetActions.sheetEdited,
      SheetActions.severalEdited,
      SettingsActions.settingsEdited,
      PackageActions.packageEdited,
      EditActions.stepAskedFor,
      EditActions.historyArrived,
      (state) => ({ ...state, notice: state.notice && offersUndo(state.notice) ? null : state.notice }),
    ),
  ),
});

function offersUndo({ action }: Notice): boolean {
  return action !== undefined && 'dispatch' in action && action.dispatch.type === EditActions.stepAskedFor.type;
}

function refused({ sentence, place }: Problem): Notice {
  const where = placeInWords(place);
  return { sentence: where && !sentence.includes(where) ? `${sentence} (${where})` : sentence, failed: true };
}
