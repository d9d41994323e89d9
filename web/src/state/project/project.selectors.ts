import { createSelector } from '@ngrx/store';
import { sameValue, type ProjectSettings } from '@folvex/core';
import { editsFeature } from '../edits/edits.reducer';
import { projectFeature } from '../project/project.reducer';

/** The settings as they are shown, and as the server has them; null before the project arrived. */
export const selectSettings = createSelector(
  projectFeature.selectFacts,
  projectFeature.selectGroups,
  projectFeature.selectRecipes,
  projectFeature.selectSavedSettings,
  (project, groups, recipes, saved): { ours: ProjectSettings | null; saved: ProjectSettings | null } => ({
    ours: project && { project, groups, recipes },
    saved,
  }),
);

/** True where settings were edited and could not be sent. */
export const selectSettingsUnsent = createSelector(
  selectSettings,
  editsFeature.selectEditing,
  ({ ours, saved }, editing) => editing === 0 && !sameValue(ours, saved),
);
