import { createEntityAdapter, type EntityState } from '@ngrx/entity';
import { createFeature, createReducer, on } from '@ngrx/store';
import {
  packageDifference,
  packageWith,
  settingsChange,
  settingsWith,
  type DrawingInfo,
  type EditHistory,
  type OfferedFile,
  type ProjectSummary,
  type Received,
  type RunInfo,
  type SheetChange,
  type SheetFields,
} from '@folvex/contract';
import type { Group, Problem, ProjectFacts, Recipe, ProjectSettings, Sheet, SheetPackage } from '@folvex/core';
import { sameValue } from '@folvex/core';
import {
  EditActions,
  GatherActions,
  PackageActions,
  ProjectActions,
  SettingsActions,
  SheetActions,
} from './project.actions';

/** A file on its way to the server, or one that needs a message or a decision. */
export interface Upload {
  id: number;
  name: string;
  /** Part sent, 0…1. */
  share: number;
  /**
   * `moving`: on its way. `newer`: can become a version of `drawing`. `known`: is `drawing`. `locked`: needs a password.
   * `refused`: cannot be read. `left out`: what was not sent at all.
   */
  state: 'moving' | 'newer' | 'known' | 'locked' | 'refused' | 'left out';
  drawing: string | null;
  offered: OfferedFile | null;
  problem: Problem | null;
}

export const drawingsAdapter = createEntityAdapter<DrawingInfo>();
export const sheetsAdapter = createEntityAdapter<Sheet>();
export const packagesAdapter = createEntityAdapter<SheetPackage>();
export const runsAdapter = createEntityAdapter<RunInfo>({
  sortComparer: (a, b) => (a.createdAt < b.createdAt ? 1 : -1),
});
export const uploadsAdapter = createEntityAdapter<Upload>();

/** What was changed of a sheet; `pending` changes are on their way, with none it is kept to be sent again. */
export interface Draft {
  fields: Partial<SheetFields>;
  pending: number;
}

export interface ProjectState {
  status: 'loading' | 'ready' | 'error';
  loadProblem: Problem | null;
  id: string;
  /** All projects that the server holds. */
  projects: ProjectSummary[];
  facts: ProjectFacts | null;
  groups: Group[];
  recipes: Recipe[];
  drawings: EntityState<DrawingInfo>;
  sheets: EntityState<Sheet>;
  packages: EntityState<SheetPackage>;
  runs: EntityState<RunInfo>;
  uploads: EntityState<Upload>;
  /** The drawing whose layouts are being made into sheets. */
  takingLayouts: string | null;
  /** Ids of the sheets that one step made last, which one undo removes. */
  justMade: string[];
  /** What can be undone and redone. */
  history: EditHistory;
  /** The last step back or forward; null once something else was done. */
  lastStep: { way: 'undo' | 'redo'; words: string } | null;
  /** How many edits of sheets are on their way. */
  editing: number;
  /** Changes of sheets that the server does not have yet, by sheet. */
  drafts: Record<string, Draft>;
  chosenPackage: string | null;
  /** The settings as the server has them; what is shown may be edited beyond that. */
  savedSettings: ProjectSettings | null;
  /** Packages as the server has them. */
  saved: Record<string, SheetPackage>;
  /** Id of the package whose edits are not kept. */
  trial: string | null;
  /** Ids of packages whose last edit the server does not have yet. */
  unsaved: string[];
  /** What the server refused last; shown until dismissed. */
  refusal: Problem | null;
}

const NEW_UPLOAD = { share: 0, state: 'moving' as const, drawing: null, offered: null, problem: null };

/** A step that can be undone until the server has named it: keys pressed at once are not lost. */
const LAST_EDIT: EditHistory = { undo: 'the last edit', redo: null };

const initial: ProjectState = {
  status: 'loading',
  loadProblem: null,
  id: '',
  projects: [],
  facts: null,
  groups: [],
  recipes: [],
  drawings: drawingsAdapter.getInitialState(),
  sheets: sheetsAdapter.getInitialState(),
  packages: packagesAdapter.getInitialState(),
  runs: runsAdapter.getInitialState(),
  uploads: uploadsAdapter.getInitialState(),
  takingLayouts: null,
  justMade: [],
  history: { undo: null, redo: null },
  lastStep: null,
  editing: 0,
  drafts: {},
  chosenPackage: null,
  savedSettings: null,
  saved: {},
  trial: null,
  unsaved: [],
  refusal: null,
};

export const projectFeature = createFeature({
  name: 'project',
  reducer: createReducer(
    initial,
    on(ProjectActions.reloadAskedFor, (state) => ({ ...state, status: 'loading' as const, loadProblem: null })),
    on(ProjectActions.projectArrived, (state, { info }) => ({
      ...state,
      status: 'ready' as const,
      loadProblem: null,
      id: info.id,
      ...shownSettings(info),
      drawings: drawingsAdapter.setAll(info.drawings, state.drawings),
      sheets: sheetsAdapter.setAll(info.sheets, state.sheets),
      ...packagesAsSaved(state, info.packages),
      trial: null,
      runs: runsAdapter.setAll(info.runs, state.runs),
      history: info.history,
      chosenPackage: state.chosenPackage ?? info.packages[0]?.id ?? null,
    })),
    on(ProjectActions.projectDidNotArrive, (state, { problem }) => ({
      ...state,
      status: 'error' as const,
      loadProblem: problem,
    })),
    on(ProjectActions.requestRefused, (state, { problem }) => ({ ...state, refusal: problem, takingLayouts: null })),
    on(GatherActions.layoutSheetsAskedFor, (state, { drawingId }) => ({ ...state, takingLayouts: drawingId })),
    on(ProjectActions.noticeDismissed, (state) => ({ ...state, refusal: null })),

    on(GatherActions.uploadBegan, (state, { uploadId, name }) => ({
      ...state,
      uploads: uploadsAdapter.addOne({ ...NEW_UPLOAD, id: uploadId, name }, state.uploads),
    })),
    on(GatherActions.filesLeftOut, (state, { uploadId, names }) => ({
      ...state,
      uploads: uploadsAdapter.addOne(
        { ...NEW_UPLOAD, id: uploadId, name: leftOutInWords(names), state: 'left out' },
        state.uploads,
      ),
    })),
    on(GatherActions.uploadAdvanced, (state, { uploadId, share }) => ({
      ...state,
      uploads: uploadsAdapter.updateOne({ id: uploadId, changes: { share } }, state.uploads),
    })),
    on(GatherActions.fileReceived, (state, { uploadId, received }) => ({
      ...state,
      uploads:
        received.outcome === 'added'
          ? uploadsAdapter.removeOne(uploadId, state.uploads)
          : uploadsAdapter.updateOne({ id: uploadId, changes: afterReceiving(received) }, state.uploads),
      drawings: 'drawing' in received ? drawingsAdapter.setOne(received.drawing, state.drawings) : state.drawings,
    })),
    on(GatherActions.offerAnswered, (state, { uploadId }) => ({
      ...state,
      uploads: uploadsAdapter.updateOne({ id: uploadId, changes: { state: 'moving', share: 1 } }, state.uploads),
    })),
    on(GatherActions.drawingRefused, (state, { uploadId, problem }) => ({
      ...state,
      uploads: uploadsAdapter.updateOne({ id: uploadId, changes: { problem, state: 'refused' } }, state.uploads),
    })),
    on(GatherActions.uploadDismissed, (state, { uploadId }) => ({
      ...state,
      uploads: uploadsAdapter.removeOne(uploadId, state.uploads),
    })),
    on(GatherActions.drawingChanged, (state, { drawing }) => ({
      ...state,
      drawings: drawingsAdapter.setOne(drawing, state.drawings),
    })),
    on(GatherActions.sheetMade, (state, { sheet }) => ({
      ...edited(state),
      sheets: sheetsAdapter.addOne(sheet, state.sheets),
    })),
    on(GatherActions.sheetsMade, (state, { sheets }) => ({
      ...edited(state),
      sheets: sheetsAdapter.addMany(sheets, state.sheets),
      justMade: sheets.map(({ id }) => id),
      takingLayouts: null,
    })),
    on(GatherActions.sheetsRemoved, (state, { ids }) => ({
      ...edited(state),
      sheets: sheetsAdapter.removeMany(ids, state.sheets),
    })),
    on(SheetActions.sheetEdited, (state, { sheetId, change }) => ({
      ...editBegun(state),
      drafts: { ...state.drafts, [sheetId]: draftWith(state.drafts[sheetId], change) },
    })),
    on(SheetActions.severalEdited, SheetActions.copyAskedFor, SheetActions.removalAskedFor, (state) =>
      editBegun(state),
    ),
    on(EditActions.stepAskedFor, (state) => underWay(state)),
    on(EditActions.editEnded, (state) => ({ ...state, editing: Math.max(0, state.editing - 1) })),
    on(SheetActions.sheetSaved, (state, { sheet }) => ({
      ...edited(state),
      sheets: sheetsAdapter.setOne(sheet, state.sheets),
      drafts: draftsAfter(state.drafts, sheet.id),
    })),
    on(SheetActions.sheetEditRefused, (state, { sheetId, kept }) => ({
      ...state,
      drafts: kept ? draftsKept(state.drafts, sheetId) : without(state.drafts, sheetId),
    })),
    on(SheetActions.severalSaved, (state, { sheets }) => ({
      ...edited(state),
      sheets: sheetsAdapter.setMany(sheets, state.sheets),
    })),
    on(EditActions.sheetsShownAnew, (state, { info }) => ({
      ...state,
      ...shownSettings(info),
      sheets: sheetsAdapter.setAll(info.sheets, state.sheets),
      history: info.history,
    })),
    on(EditActions.historyArrived, (state, { history }) => ({ ...state, history })),
    on(EditActions.stepped, (state, { way, step }) => ({
      ...edited(state),
      history: step.history,
      lastStep: { way, words: step.words },
      sheets: sheetsAdapter.setMany(step.sheets, sheetsAdapter.removeMany(step.removed, state.sheets)),
      ...(step.settings && shownSettings(step.settings)),
      ...(step.pack && packageAsSaved(state, step.pack, state.saved[step.pack.id])),
      ...(step.packGone !== undefined && withoutPackage(state, step.packGone)),
    })),

    // Shown at once; the server's answer confirms it.
    on(SettingsActions.settingsEdited, (state, { change: { was: _, ...change } }) => {
      if (!state.facts) return state;
      const now = { project: state.facts, groups: state.groups, recipes: state.recipes };
      const { project, ...lists } = settingsWith(now, change);
      return { ...editBegun(state), facts: project, ...lists };
    }),
    on(SettingsActions.settingsSaved, (state, { settings, sent }) => ({
      ...edited(state),
      ...settingsAfterSaving(state, settings, sent),
    })),
    on(ProjectActions.projectChosen, ({ projects }) => ({ ...initial, projects })),
    on(ProjectActions.projectsArrived, (state, { projects }) => ({ ...state, projects })),

    on(PackageActions.packageChosen, (state, { packageId }) => ({ ...state, chosenPackage: packageId })),
    on(PackageActions.packageMade, (state, { pack }) => ({
      ...state,
      ...packageAsSaved(state, pack, undefined),
      chosenPackage: pack.id,
    })),
    // Shown at once; the server's answer confirms it.
    on(PackageActions.packageEdited, (state, { packageId, change }) => ({
      ...state,
      packages: packagesAdapter.mapOne({ id: packageId, map: (pack) => packageWith(pack, change) }, state.packages),
      lastStep: null,
      ...(state.trial !== packageId && { unsaved: [...new Set([...state.unsaved, packageId])], history: LAST_EDIT }),
    })),
    // An edit that came after this one was sent is still to be saved.
    on(PackageActions.packageSaved, (state, { pack, sent }) => {
      const next = { ...state, ...packageAsSaved(state, pack, sent) };
      const same = sameValue(next.packages.entities[pack.id], pack);
      return { ...next, unsaved: state.unsaved.filter((id) => id !== pack.id || !same) };
    }),
    on(PackageActions.packageShownAnew, (state, { packageId, pack }) => ({
      ...state,
      ...(pack ? packageAsSaved(state, pack, undefined) : withoutPackage(state, packageId)),
      unsaved: state.unsaved.filter((id) => id !== packageId),
    })),
    // What is not saved yet is to be kept: only what follows is for one run.
    on(PackageActions.trialBegun, (state, { packageId }) =>
      state.unsaved.includes(packageId) ? state : { ...state, trial: packageId },
    ),
    on(PackageActions.trialEnded, (state, { packageId, keep }) => ({
      ...state,
      trial: null,
      ...(keep
        ? { unsaved: [...new Set([...state.unsaved, packageId])] }
        : { packages: packagesAdapter.setMany([state.saved[packageId] ?? []].flat(), state.packages) }),
    })),
    on(PackageActions.runBegun, PackageActions.runAdvanced, (state, { run }) => ({
      ...state,
      refusal: null,
      runs: runsAdapter.setOne(run, state.runs),
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

function underWay(state: ProjectState): ProjectState {
  return { ...state, editing: state.editing + 1 };
}

/** The state when an edit begins: it is the one to go back to. */
function editBegun(state: ProjectState): ProjectState {
  return { ...underWay(state), history: LAST_EDIT };
}

/** The state after sheets were changed: what was refused before, made or stepped is over. */
function edited(state: ProjectState): ProjectState {
  return { ...state, refusal: null, justMade: [], lastStep: null };
}

function draftWith(draft: Draft | undefined, { was: _, hold: __, ...fields }: SheetChange): Draft {
  return { fields: { ...draft?.fields, ...fields }, pending: (draft?.pending ?? 0) + 1 };
}

/** One change of a sheet was saved: once none is on its way, the sheet itself is up to date. */
function draftsAfter(drafts: ProjectState['drafts'], id: string): ProjectState['drafts'] {
  const draft = drafts[id];
  if (!draft || draft.pending <= 1) return without(drafts, id);
  return { ...drafts, [id]: { ...draft, pending: draft.pending - 1 } };
}

/** One change of a sheet could not be sent: what was typed stays. */
function draftsKept(drafts: ProjectState['drafts'], id: string): ProjectState['drafts'] {
  const draft = drafts[id];
  return draft ? { ...drafts, [id]: { ...draft, pending: Math.max(0, draft.pending - 1) } } : drafts;
}

function without(drafts: ProjectState['drafts'], id: string): ProjectState['drafts'] {
  return Object.fromEntries(Object.entries(drafts).filter(([key]) => key !== id));
}

/** The upload after the server has recognised the file. */
function afterReceiving(received: Exclude<Received, { outcome: 'added' }>): Partial<Upload> {
  return {
    state: received.outcome,
    drawing: 'drawing' in received ? received.drawing.id : null,
    offered: 'offered' in received ? received.offered : null,
    problem: received.outcome === 'locked' ? received.problem : null,
  };
}

function leftOutInWords(names: readonly string[]): string {
  const shown = names.slice(0, 6).join(', ');
  const more = names.length > 6 ? ` and ${names.length - 6} more` : '';
  return `Left out, since no drawing: ${shown}${more}.`;
}

type Packages = Pick<ProjectState, 'packages' | 'saved'>;

function packagesAsSaved({ packages }: ProjectState, saved: readonly SheetPackage[]): Packages {
  return {
    packages: packagesAdapter.setAll([...saved], packages),
    saved: Object.fromEntries(saved.map((pack) => [pack.id, pack])),
  };
}

/** A package as the server has it now, with what was edited here since it was as `known`. */
function packageAsSaved(state: ProjectState, pack: SheetPackage, known: SheetPackage | undefined): Packages {
  const ours = state.packages.entities[pack.id];
  const shown = ours && known ? packageWith(pack, packageDifference(known, ours)) : pack;
  return { packages: packagesAdapter.setOne(shown, state.packages), saved: { ...state.saved, [pack.id]: pack } };
}

function withoutPackage(state: ProjectState, id: string): Packages & Pick<ProjectState, 'chosenPackage' | 'unsaved'> {
  return {
    packages: packagesAdapter.removeOne(id, state.packages),
    saved: Object.fromEntries(Object.entries(state.saved).filter(([key]) => key !== id)),
    chosenPackage: state.chosenPackage === id ? null : state.chosenPackage,
    unsaved: state.unsaved.filter((one) => one !== id),
  };
}
