import { createActionGroup, emptyProps, props } from '@ngrx/store';
import type { NewIssue } from '@folvex/contract';
import type { Issue, IssuedState, Problem } from '@folvex/core';

export const IssueActions = createActionGroup({
  source: 'Issues',
  events: {
    'Register asked for': emptyProps(),
    'Register arrived': props<{ issues: Issue[] }>(),
    'Register did not arrive': props<{ problem: Problem }>(),
    /** What was issued of each sheet is needed, to be compared with what it is now. */
    'Issued sheets asked for': emptyProps(),
    'Issued sheets arrived': props<{ issued: IssuedState[] }>(),
    'Issue asked for': props<{ issue: NewIssue }>(),
    'Issue created': props<{ issue: Issue }>(),
    'Issue refused': props<{ problem: Problem }>(),
  },
});
