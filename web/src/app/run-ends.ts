import { effect, inject, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import { isDeliveryOver, type DeliveryInfo, type RunInfo } from '@folvex/contract';
import { deliveryInWords } from '../deliveries/delivery-words';
import { NoticeActions } from '../state/notices/notices.actions';
import { ProjectLinks } from '../state/project/project-links';
import { selectAllRuns } from '../state/runs/runs.selectors';
import { notify } from '../ui/notify';
import { countOf } from '../ui/words';

/** Announces once how each run ended that was open while this page was, and which of its deliveries failed. Call it in an injection context. */
export function tellRunEnds(): void {
  const store = inject(Store);
  const { to } = inject(ProjectLinks);
  const runs = store.selectSignal(selectAllRuns);
  const followed = new Set<string>();
  const sent = new Set<string>();
  effect(() => {
    for (const run of runs()) {
      const open = run.state === 'waiting' || run.state === 'running';
      if (open) followed.add(run.id);
      else if (followed.delete(run.id)) untracked(() => tell(run));
      for (const delivery of run.deliveries) {
        if (!isDeliveryOver(delivery)) sent.add(delivery.id);
        else if (sent.delete(delivery.id) && delivery.state === 'failed') untracked(() => tellFailure(run, delivery));
      }
    }
  });

  function tellFailure({ packageName, files, id }: RunInfo, delivery: DeliveryInfo): void {
    const sentence = `${packageName}: ${deliveryInWords(delivery, files.length)}`;
    notify(sentence);
    const action = { words: 'Open on the light table', link: to('runs', id) };
    store.dispatch(NoticeActions.noticeShown({ notice: { sentence, failed: true, action } }));
  }

  function tell(run: RunInfo): void {
    const sentence = endInWords(run);
    notify(sentence);
    const action = { words: 'Open on the light table', link: to('runs', run.id) };
    const notice = { sentence, failed: run.state !== 'done', ...(run.files.length > 0 && { action }) };
    store.dispatch(NoticeActions.noticeShown({ notice }));
  }
}

function endInWords(run: RunInfo): string {
  if (run.state === 'cancelled') return `${run.packageName} was cancelled; nothing was written.`;
  if (run.problem) return `${run.packageName}: ${run.problem.sentence}`;
  const pages = run.files.reduce((sum, file) => sum + (file.format === null ? file.pages : 0), 0);
  return `${run.packageName} is published: ${countOf(run.files.length, 'file')}, ${countOf(pages, 'page')}.`;
}
