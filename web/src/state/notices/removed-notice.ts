import type { Action } from '@ngrx/store';
import { NoticeActions } from './notices.actions';

/** Says that something was removed, and offers the action that restores it. */
export function removedNotice(name: string, restore: Action): Action {
  const notice = { sentence: `${name} is removed.`, failed: false, action: { words: 'Undo', dispatch: restore } };
  return NoticeActions.noticeShown({ notice });
}
