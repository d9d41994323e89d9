import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  input,
  signal,
  viewChild,
} from '@angular/core';
import type { RunInfo } from '@folvex/contract';
import { counted, durationInWords } from '../ui/words';
import { stepsOf } from './run-steps';

/** How the time of a run went: what each worker made when. */
@Component({
  selector: 'fx-run-timeline',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <details (toggle)="open.set($any($event.target).open)">
      <summary class="fx-caption">How the time went</summary>
      <p>{{ sentence() }}</p>
      <div #chart class="chart" [style.height.px]="height()" role="img" [attr.aria-label]="sentence()"></div>
    </details>
  `,
  styles: `
    p {
      color: var(--fx-quiet);
    }
    .chart {
      width: 100%;
    }
  `,
})
export class RunTimeline {
  readonly run = input.required<RunInfo>();
  protected readonly open = signal(false);
  private readonly steps = computed(() => stepsOf(this.run()));
  private readonly rows = computed(() => [...new Set(this.steps().map(({ row }) => row))]);
  protected readonly height = computed(() => 74 + 30 * this.rows().length);
  protected readonly sentence = computed(() => {
    const steps = this.steps().filter(({ kind }) => kind !== 'file');
    const stored = this.run().sheets.length - steps.length;
    const slowest = steps.reduce((a, b) => (b.to - b.from > a.to - a.from ? b : a), steps[0]!);
    if (!slowest) return 'Nothing was made.';
    const taken = stored > 0 ? `, ${counted(stored, 'sheet')} never begun` : '';
    return `${counted(steps.length, 'sheet')} by ${counted(this.workers(), 'worker')}${taken}; longest was ${slowest.name}, ${durationInWords(slowest.to - slowest.from)}.`;
  });
  private readonly workers = computed(
    () => new Set(this.steps().flatMap(({ kind, row }) => (kind === 'file' ? [] : [row]))).size,
  );
  private readonly chart = viewChild.required<ElementRef<HTMLElement>>('chart');

  constructor() {
    effect((onCleanup) => {
      const [steps, rows] = [this.steps(), this.rows()];
      if (!this.open() || steps.length === 0) return;
      let gone = false;
      let dispose = (): void => undefined;
      void import('./draw-timeline').then(({ drawTimeline }) => {
        if (!gone) dispose = drawTimeline(this.chart().nativeElement, steps, rows);
      });
      onCleanup(() => {
        gone = true;
        dispose();
      });
    });
  }
}
