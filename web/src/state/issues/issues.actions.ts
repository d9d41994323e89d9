import { createActionGroup, emptyProps, props } from '@ngrx/store';
import type { NewIssue } from '@folvex/contract';
import type { Issue, Problem } from '@folvex/core';

export const IssueActions = createActionGroup({
  source: 'Issues',
  events: {
    'Register asked for': emptyProps(),
    'Register arrived': props<{ issues: Issue[] }>(),
    'Register did not arrive': props<{ problem: Problem }>(),
    'Issue asked for': props<{ issue: NewIssue }>(),
    'Issue created': props<{ issue: Issue }>(),
    'Issue refused': props<{ problem: Problem }>(),
  },
});
