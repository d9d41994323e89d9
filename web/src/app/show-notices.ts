import { effect, inject, untracked } from '@angular/core';
import { MatSnackBar } from '@angular/material/snack-bar';
import { Router } from '@angular/router';
import { Store } from '@ngrx/store';
import { NoticeActions, type Notice } from '../state/notices/notices.actions';
import { noticesFeature } from '../state/notices/notices.reducer';
import { NoticeBar, type NoticeContent } from '../ui/notice';

/** How long a success is shown; a failure stays until it is dismissed. */
const SHOWN_MS = 8000;

/** Shows the store's notice in the snack bar. Call it in an injection context. */
export function showNotices(): void {
  const [store, router, snackBar] = [inject(Store), inject(Router), inject(MatSnackBar)];
  const notice = store.selectSignal(noticesFeature.selectNotice);
  effect((onCleanup) => {
    const shown = notice();
    if (!shown) return;
    const bar = untracked(() =>
      snackBar.openFromComponent<NoticeBar, NoticeContent>(NoticeBar, {
        data: { sentence: shown.sentence, failed: shown.failed, ...withAction(shown) },
        panelClass: shown.failed ? 'fx-failed' : 'fx-done',
        politeness: shown.failed ? 'assertive' : 'polite',
        ...(!shown.failed && { duration: SHOWN_MS }),
      }),
    );
    const ended = bar.afterDismissed().subscribe(() => store.dispatch(NoticeActions.noticeDismissed()));
    onCleanup(() => {
      ended.unsubscribe();
      bar.dismiss();
    });
  });

  function withAction({ action }: Notice): Pick<NoticeContent, 'action'> {
    if (!action) return {};
    const act = (): void => {
      if ('link' in action) void router.navigate(action.link);
      else store.dispatch(action.dispatch);
    };
    return { action: { words: action.words, act } };
  }
}
