import { createSelector } from '@ngrx/store';
import type { EditHistory } from '@folvex/contract';
import { packagesFeature } from '../packages/packages.reducer';
import { LAST_EDIT, editsFeature } from './edits.reducer';

/** What can be undone and redone, edits of packages that are not sent yet included. */
export const selectHistory = createSelector(
  editsFeature.selectHistory,
  packagesFeature.selectUnsaved,
  (history, unsaved): EditHistory => (unsaved.length > 0 ? LAST_EDIT : history),
);
