import { of, type Observable } from 'rxjs';
import type { Action } from '@ngrx/store';
import { problemOf } from '../api';
import { NoticeActions } from './notices.actions';

/** What is shown of a request that failed. */
export function refused(error: unknown): Observable<Action> {
  return of(NoticeActions.requestRefused({ problem: problemOf(error) }));
}
