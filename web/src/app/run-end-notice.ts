import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from '@angular/core';
import { MatIcon } from '@angular/material/icon';
import { RouterLink } from '@angular/router';
import { MatIconButton } from '@angular/material/button';
import { Store } from '@ngrx/store';
import type { RunInfo } from '@folvex/contract';
import { selectAllRuns, selectOpenRun } from '../state/project.selectors';
import { notify } from '../ui/notify';
import { countOf } from '../ui/words';

/** The one notice at the end of a run that was followed here; it stays until it is dismissed or another run begins. */
@Component({
  selector: 'fx-run-end-notice',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatIcon, MatIconButton, RouterLink],
  template: `
    @if (ended(); as run) {
      <div class="notice" role="status" [class.failed]="run.state !== 'done'">
        <mat-icon aria-hidden="true">{{ run.state === 'done' ? 'task_alt' : 'error' }}</mat-icon>
        <p>{{ words() }}</p>
        <a class="fx-link" routerLink="/light-table" [queryParams]="{ run: run.id }" (click)="dismiss()">
          Look at it on the light table
        </a>
        <button matIconButton type="button" aria-label="Dismiss" (click)="dismiss()">
          <mat-icon>close</mat-icon>
        </button>
      </div>
    }
  `,
  styles: `
    .notice {
      display: flex;
      align-items: center;
      gap: var(--fx-gap-3);
      padding: var(--fx-gap-1) var(--fx-gap-4);
      border-bottom: 1px solid var(--fx-good);
      background: var(--fx-raised);
    }
    .notice > mat-icon {
      color: var(--fx-good);
    }
    button {
      margin-left: auto;
    }
    .failed {
      border-bottom-color: var(--fx-signal);
      background: var(--fx-signal-wash);
    }
    .failed > mat-icon {
      color: var(--fx-signal);
    }
  `,
})
export class RunEndNotice {
  private readonly store = inject(Store);
  private readonly openRun = this.store.selectSignal(selectOpenRun);
  private readonly runs = this.store.selectSignal(selectAllRuns);
  /** Id of the run that was seen to run. */
  private readonly followed = signal<string | null>(null);
  protected readonly ended = computed(() => {
    const run = this.runs().find(({ id }) => id === this.followed());
    return run && run.state !== 'waiting' && run.state !== 'running' ? run : null;
  });
  protected readonly words = computed(() => (this.ended() ? wordsOf(this.ended()!) : ''));

  private notified = '';

  constructor() {
    effect(() => {
      const open = this.openRun();
      if (open) untracked(() => this.followed.set(open.id));
    });
    effect(() => {
      const run = this.ended();
      if (run) untracked(() => this.notifyOnce(run));
    });
  }

  /** Once only: a run is still updated afterwards, while its files are verified. */
  private notifyOnce({ id }: RunInfo): void {
    if (this.notified !== id) notify(this.words());
    this.notified = id;
  }

  protected dismiss(): void {
    this.followed.set(null);
  }
}

function wordsOf(run: RunInfo): string {
  if (run.state === 'cancelled') return `${run.packageName} was cancelled; nothing was written.`;
  if (run.problem) return `${run.packageName}: ${run.problem.sentence}`;
  const pages = run.files.reduce((sum, file) => sum + (file.format === null ? file.pages : 0), 0);
  return `${run.packageName} is published: ${countOf(run.files.length, 'file')}, ${countOf(pages, 'page')}.`;
}
