import { createFeature, createReducer, createSelector, on } from '@ngrx/store';
import { relinkPlan, type LinkedFile, type Problem, type RenameRule } from '@folvex/core';
import { RelinkActions } from './relink.actions';

export interface RelinkState {
  files: readonly LinkedFile[];
  problems: readonly Problem[];
  /** What is being done; null when nothing is. */
  work: { kind: 'reading' | 'writing'; done: number; all: number } | null;
  rule: RenameRule;
  table: readonly [old: string, now: string][];
  /** True where the files are renamed too. */
  rename: boolean;
}

const initial: RelinkState = { files: [], problems: [], work: null, rule: {}, table: [], rename: false };

/** A set of PDFs whose links are repaired. It belongs to no project. */
export const relinkFeature = createFeature({
  name: 'relink',
  reducer: createReducer(
    initial,
    on(RelinkActions.filesChosen, (state) => ({
      ...state,
      problems: [],
      work: { kind: 'reading' as const, done: 0, all: 0 },
    })),
    on(RelinkActions.repairedFilesAskedFor, (state) => ({
      ...state,
      problems: [],
      work: { kind: 'writing' as const, done: 0, all: state.files.length },
    })),
    on(RelinkActions.workAdvanced, (state, { done, all }) => ({
      ...state,
      work: state.work && { ...state.work, done, all },
    })),
    on(RelinkActions.linksFound, (state, { files, problems }) => ({ ...state, files, problems, work: null })),
    on(RelinkActions.repairedFilesWritten, (state) => ({ ...state, work: null })),
    on(RelinkActions.workFailed, (state, { problem }) => ({ ...state, files: [], problems: [problem], work: null })),
    on(RelinkActions.setDismissed, (state) => ({ ...state, files: [], problems: [], work: null })),
    on(RelinkActions.ruleChanged, (state, { rule }) => ({ ...state, rule })),
    on(RelinkActions.renamingChosen, (state, { rename }) => ({ ...state, rename })),
    on(RelinkActions.tableRead, (state, { table }) => ({ ...state, table, problems: ofFiles(state) })),
    on(RelinkActions.tableFailed, (state, { problem }) => ({ ...state, problems: [...ofFiles(state), problem] })),
    on(RelinkActions.tableRemoved, (state) => ({ ...state, table: [] })),
  ),
  extraSelectors: ({ selectFiles, selectRule, selectTable, selectRename }) => ({
    /** The names and links that the files will have. */
    selectPlan: createSelector(selectFiles, selectRule, selectTable, selectRename, (files, rule, table, rename) =>
      relinkPlan(files, { rule, table, rename }),
    ),
  }),
});

/** The problems with the files, without those with a table. */
function ofFiles({ problems }: RelinkState): Problem[] {
  return problems.filter(({ code }) => code !== 'relink.table');
}
