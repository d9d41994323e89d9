import { createFeature, createReducer, on } from '@ngrx/store';
import { ProjectActions } from '../project/project.actions';
import { FindingActions, type SheetFinding } from './findings.actions';

export interface FindingsState {
  packageId: string;
  /** As they were when the first of them was opened. */
  findings: readonly SheetFinding[];
  /** Which of them is open. */
  at: number;
}

const initial: FindingsState = { packageId: '', findings: [], at: 0 };

/** The findings of a package that a person goes through, sheet by sheet. */
export const findingsFeature = createFeature({
  name: 'findings',
  reducer: createReducer(
    initial,
    on(ProjectActions.projectOpened, FindingActions.findingsClosed, () => initial),
    on(FindingActions.findingOpened, (_, { packageId, findings, at }) => ({ packageId, findings, at })),
    on(FindingActions.nextFindingOpened, (state) => ({
      ...state,
      at: Math.min(state.at + 1, Math.max(0, state.findings.length - 1)),
    })),
  ),
});
