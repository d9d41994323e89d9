import { createFeature, createReducer, createSelector, on } from '@ngrx/store';
import { settingsChange, settingsWith, type ProjectSummary } from '@folvex/contract';
import type { Contact, Group, Problem, ProjectFacts, ProjectSettings, Recipe } from '@folvex/core';
import { EditActions } from '../edits/edits.actions';
import { ProjectActions, SettingsActions } from '../project/project.actions';

export interface ProjectState {
  status: 'loading' | 'ready' | 'error';
  loadProblem: Problem | null;
  /** Id of the open project; empty: none is. */
  id: string;
  /** All projects that the server holds; null until they are known. */
  projects: ProjectSummary[] | null;
  projectsProblem: Problem | null;
  /** The archive that is being imported, and the part of it that is sent. */
  importing: { name: string; share: number } | null;
  /** Files of typefaces that are sent and read one after the other, by name. */
  typefacesOnTheWay: string[];
  facts: ProjectFacts | null;
  groups: Group[];
  recipes: Recipe[];
  /** The settings as the server has them; what is shown may be edited beyond that. */
  savedSettings: ProjectSettings | null;
}

const initial: ProjectState = {
  status: 'loading',
  loadProblem: null,
  id: '',
  projects: null,
  projectsProblem: null,
  importing: null,
  typefacesOnTheWay: [],
  facts: null,
  groups: [],
  recipes: [],
  savedSettings: null,
};

/** The open project and its settings, and which others there are. */
export const projectFeature = createFeature({
  name: 'project',
  reducer: createReducer(
    initial,
    on(ProjectActions.projectsArrived, (state, { projects }) => ({ ...state, projects, projectsProblem: null })),
    on(ProjectActions.projectsDidNotArrive, (state, { problem }) => ({ ...state, projectsProblem: problem })),
    on(ProjectActions.importAskedFor, (state, { archive: { name } }) => ({ ...state, importing: { name, share: 0 } })),
    on(ProjectActions.importAdvanced, (state, { share }) => ({
      ...state,
      importing: state.importing && { ...state.importing, share },
    })),
    on(ProjectActions.importEnded, (state) => ({ ...state, importing: null })),
    on(ProjectActions.projectOpened, ({ projects, projectsProblem, importing }, { projectId }) => ({
      ...initial,
      projects,
      projectsProblem,
      importing,
      id: projectId,
    })),
    on(ProjectActions.reloadAskedFor, (state) => ({ ...state, status: 'loading' as const, loadProblem: null })),
    on(ProjectActions.projectArrived, (state, { info }) => ({
      ...state,
      status: 'ready' as const,
      loadProblem: null,
      id: info.id,
      ...shownSettings(info),
    })),
    on(ProjectActions.projectDidNotArrive, (state, { problem }) => ({
      ...state,
      status: 'error' as const,
      loadProblem: problem,
    })),
    on(EditActions.sheetsShownAnew, (state, { info }) => ({ ...state, ...shownSettings(info) })),
    on(EditActions.stepped, (state, { step: { settings } }) => ({
      ...state,
      ...(settings && shownSettings(settings)),
    })),
    on(SettingsActions.typefacesSent, (state, { file }) => ({
      ...state,
      typefacesOnTheWay: [...state.typefacesOnTheWay, file.name],
    })),
    on(EditActions.editEnded, (state, { edit }) =>
      edit === SettingsActions.typefacesSent.type
        ? { ...state, typefacesOnTheWay: state.typefacesOnTheWay.slice(1) }
        : state,
    ),
    on(SettingsActions.typefacesAdded, (state, { settings }) => ({
      ...state,
      ...settingsAfterSaving(state, settings, state.savedSettings ?? settings),
    })),
    // Shown at once; the server's answer confirms it.
    on(SettingsActions.settingsEdited, (state, { change: { was: _, ...change } }) => {
      if (!state.facts) return state;
      const now = { project: state.facts, groups: state.groups, recipes: state.recipes };
      const { project, ...lists } = settingsWith(now, change);
      return { ...state, facts: project, ...lists };
    }),
    on(SettingsActions.settingsSaved, (state, { settings, sent }) => ({
      ...state,
      ...settingsAfterSaving(state, settings, sent),
    })),
  ),
});

type SettingsState = Pick<ProjectState, 'facts' | 'groups' | 'recipes' | 'savedSettings'>;

/** Settings as the server has them, shown as they are. */
function shownSettings({ project, groups, recipes }: ProjectSettings): SettingsState {
  return { facts: project, groups, recipes, savedSettings: { project, groups, recipes } };
}

/** Settings as the server has them now, with what was edited here since they were `sent`. */
function settingsAfterSaving(
  { facts, groups, recipes }: ProjectState,
  saved: ProjectSettings,
  sent: ProjectSettings,
): SettingsState {
  if (!facts) return shownSettings(saved);
  const { was: _, ...since } = settingsChange(sent, { project: facts, groups, recipes });
  const { project, ...lists } = settingsWith(saved, since);
  return { facts: project, ...lists, savedSettings: saved };
}

const NOBODY: readonly Contact[] = [];

/** The people that packages of the project are sent to. */
export const selectPeople = createSelector(projectFeature.selectFacts, (facts) => facts?.people ?? NOBODY);
