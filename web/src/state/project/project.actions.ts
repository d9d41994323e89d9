import { createActionGroup, emptyProps, props } from '@ngrx/store';
import type { NewProject, ProjectInfo, ProjectSummary, SettingsChange } from '@folvex/contract';
import type { Problem, ProjectSettings } from '@folvex/core';

export const ProjectActions = createActionGroup({
  source: 'Project',
  events: {
    'Application opened': emptyProps(),
    'Projects arrived': props<{ projects: ProjectSummary[] }>(),
    'Projects did not arrive': props<{ problem: Problem }>(),
    /** Its address is open, and all edits of the one before are sent. */
    'Project opened': props<{ projectId: string }>(),
    'Reload asked for': emptyProps(),
    'New project asked for': props<{ project: NewProject }>(),
    /** An archive of a project was chosen. */
    'Import asked for': props<{ archive: File }>(),
    'Import advanced': props<{ share: number }>(),
    'Import cancelled': emptyProps(),
    /** The project is there, or the archive was refused, or the import was cancelled. */
    'Import ended': emptyProps(),
    /** Removed, or restored. */
    'Project removal asked for': props<{ projectId: string; removed: boolean }>(),
    'Project created': props<{ projectId: string }>(),
    'Project arrived': props<{ info: ProjectInfo }>(),
    'Project did not arrive': props<{ problem: Problem }>(),
  },
});

export const SettingsActions = createActionGroup({
  source: 'Settings',
  events: {
    /** Files of typefaces for the project. */
    'Typefaces sent': props<{ file: File }>(),
    'Typefaces added': props<{ settings: ProjectSettings }>(),
    'Settings edited': props<{ change: SettingsChange }>(),
    /** `sent`: the settings as they were shown when they were sent. */
    'Settings saved': props<{ settings: ProjectSettings; sent: ProjectSettings }>(),
  },
});
