import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { Store } from '@ngrx/store';
import type { PackageChange } from '@folvex/contract';
import { SCHEDULE_OPTIONS, TIME_OF_DAY, USUAL_TIME, type SheetPackage } from '@folvex/core';
import { string } from 'yup';
import { ChoiceField } from '../../../forms/choice-field';
import { DateField } from '../../../forms/date-field';
import { TextField } from '../../../forms/text-field';
import { Lookups } from '../../../state/lookups/lookups';
import { packagesFeature } from '../../../state/packages/packages.reducer';
import { projectFeature } from '../../../state/project/project.reducer';
import { countOf, momentInWords } from '../../../ui/words';

/** When a package publishes by itself, what comes next, and what came of the last time. */
@Component({
  selector: 'fx-schedule-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { class: 'fx-pairs' },
  imports: [ChoiceField, DateField, TextField],
  template: `
    <fx-choice
      caption="Publishes"
      [value]="pack().publishes"
      [options]="options"
      (chosen)="changed.emit({ publishes: $event ?? null })"
    />
    @if (pack().publishes) {
      @if (pack().publishes !== 'change') {
        <fx-text
          class="half"
          caption="At"
          [placeholder]="usualTime"
          [value]="pack().publishAt ?? ''"
          [schema]="timeSchema"
          (entered)="changed.emit({ publishAt: $event })"
        />
      }
      <fx-date
        class="half"
        caption="Paused until"
        [value]="pack().pausedUntil ?? ''"
        (entered)="changed.emit({ pausedUntil: $event })"
      />
      <p class="quiet" aria-live="polite">{{ next() }}</p>
      @if (last(); as sentence) {
        <p [class.bad]="failed()">{{ sentence }}</p>
      }
    }
  `,
  styles: `
    p {
      margin: 0;
    }
    .bad {
      color: var(--fx-signal);
    }
  `,
})
export class SchedulePanel {
  private readonly store = inject(Store);
  private readonly project = this.store.selectSignal(projectFeature.selectId);
  private readonly unsaved = this.store.selectSignal(packagesFeature.selectUnsaved);
  readonly pack = input.required<SheetPackage>();
  /** Id of the latest run; after another one there may be more to tell. */
  readonly run = input.required<string>();
  readonly changed = output<PackageChange>();
  protected readonly options = SCHEDULE_OPTIONS;
  protected readonly usualTime = USUAL_TIME;
  protected readonly timeSchema = string().matches(TIME_OF_DAY, 'Type a time as HH:MM.');

  private readonly found = inject(Lookups).of('schedule', () => {
    const { id, publishes, publishAt, pausedUntil } = this.pack();
    // The server tells of the package as it has it.
    if (!publishes || this.unsaved().includes(id)) return undefined;
    return { project: this.project(), pack: id, settings: [publishes, publishAt, pausedUntil], after: this.run() };
  });
  protected readonly next = computed(() => {
    if (this.found.problem()) return this.found.problem();
    const { next = [], zone = '', quietMinutes } = this.found.answer() ?? {};
    if (this.pack().publishes === 'change') {
      if (quietMinutes === undefined) return '';
      return `Publishes ${countOf(quietMinutes, 'minute')} after the last change, if its sheets came out differently.`;
    }
    const times = next.map(momentInWords).join(', ');
    if (times === '') return '';
    // The time of day is in the server's time zone, the next times are in the reader's.
    const isElsewhere = zone !== Intl.DateTimeFormat().resolvedOptions().timeZone;
    return isElsewhere
      ? `The time is in the server’s time zone, ${zone}. Next, in yours: ${times}.`
      : `Next: ${times}.`;
  });
  protected readonly failed = computed(() => typeof this.found.answer()?.last?.sentence === 'string');
  protected readonly last = computed(() => {
    const last = this.found.answer()?.last;
    if (!last) return '';
    const due = momentInWords(last.due);
    return last.sentence === null ? `Published as due on ${due}.` : `Not published on ${due}: ${last.sentence}`;
  });
}
