import { createFeature, createReducer, on } from '@ngrx/store';
import type { Issue, IssuedState, Problem } from '@folvex/core';
import { ProjectActions } from '../project/project.actions';
import { IssueActions } from './issues.actions';

export interface IssuesState {
  /** Null until they are known. */
  issues: Issue[] | null;
  /** Each sheet as it was last issued; null until it is known. */
  issued: IssuedState[] | null;
  problem: Problem | null;
  creating: boolean;
  /** Why the last one was not created. */
  refusal: Problem | null;
  /** Id of the one that was created last. */
  created: string | null;
}

const initial: IssuesState = {
  issues: null,
  issued: null,
  problem: null,
  creating: false,
  refusal: null,
  created: null,
};

/** The issue register of the project. */
export const issuesFeature = createFeature({
  name: 'issues',
  reducer: createReducer(
    initial,
    on(ProjectActions.projectOpened, () => initial),
    on(IssueActions.registerAskedFor, (state) => ({ ...state, problem: null })),
    on(IssueActions.registerArrived, (state, { issues }) => ({ ...state, issues, problem: null })),
    on(IssueActions.registerDidNotArrive, (state, { problem }) => ({ ...state, problem })),
    on(IssueActions.issuedSheetsArrived, (state, { issued }) => ({ ...state, issued })),
    on(IssueActions.issueAskedFor, (state) => ({ ...state, creating: true, refusal: null })),
    on(IssueActions.issueCreated, (state, { issue }) => ({ ...state, creating: false, created: issue.id })),
    on(IssueActions.issueRefused, (state, { problem }) => ({ ...state, creating: false, refusal: problem })),
  ),
});
