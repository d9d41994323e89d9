import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { RunInfo } from '@folvex/contract';
import { countOf, durationInWords } from '../../../ui/words';
import { LateChart, type DrawChart } from '../output/late-chart';
import { stepsOf } from './run-steps';

/** How the time of a run went: what each worker made when. */
@Component({
  selector: 'fx-run-timeline',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [LateChart],
  template: `
    <fx-late-chart caption="How the time went" [sentence]="sentence()" [height]="height()" [draw]="draw()">
      <p>{{ sentence() }}</p>
    </fx-late-chart>
  `,
})
export class RunTimeline {
  readonly run = input.required<RunInfo>();
  private readonly steps = computed(() => stepsOf(this.run()));
  private readonly rows = computed(() => [...new Set(this.steps().map(({ row }) => row))]);
  protected readonly height = computed(() => 74 + 30 * this.rows().length);
  protected readonly sentence = computed(() => {
    const steps = this.steps().filter(({ kind }) => kind !== 'file');
    const stored = this.run().sheets.length - steps.length;
    const slowest = steps.reduce((a, b) => (b.to - b.from > a.to - a.from ? b : a), steps[0]!);
    if (!slowest) return 'Nothing was made.';
    const taken = stored > 0 ? `, ${countOf(stored, 'sheet')} never begun` : '';
    return `${countOf(steps.length, 'sheet')} by ${countOf(this.workers(), 'worker')}${taken}; longest was ${slowest.name}, ${durationInWords(slowest.to - slowest.from)}.`;
  });
  private readonly workers = computed(
    () => new Set(this.steps().flatMap(({ kind, row }) => (kind === 'file' ? [] : [row]))).size,
  );
  protected readonly draw = computed((): DrawChart | null => {
    const [steps, rows] = [this.steps(), this.rows()];
    if (steps.length === 0) return null;
    return async (element) => (await import('./draw-timeline')).drawTimeline(element, steps, rows);
  });
}
