import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output } from '@angular/core';
import { Store } from '@ngrx/store';
import type { PackageChange } from '@folvex/contract';
import { SCHEDULE_OPTIONS, serverUse, TIME_OF_DAY, USUAL_TIME, type SheetPackage } from '@folvex/core';
import { string } from 'yup';
import { ChoiceField } from '../../../forms/choice-field';
import { DateField } from '../../../forms/date-field';
import { TextField } from '../../../forms/text-field';
import { Lookups } from '../../../state/lookups/lookups';
import { packagesFeature } from '../../../state/packages/packages.reducer';
import { projectFeature } from '../../../state/project/project.reducer';
import { selectIsLead } from '../../../state/session/session.reducer';
import { TransferActions } from '../../../state/transfer/transfer.actions';
import { transferFeature } from '../../../state/transfer/transfer.reducer';
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
      <fx-text
        caption="Email the result to"
        hint="Addresses, and people and firms of the project, separated by commas"
        [value]="pack().tellTo ?? ''"
        [disabled]="!isLead()"
        (entered)="changed.emit({ tellTo: $event })"
      />
      @if (pack().tellTo) {
        <fx-text
          class="half"
          caption="From"
          [value]="pack().tellFrom ?? ''"
          [disabled]="!isLead()"
          (entered)="changed.emit({ tellFrom: $event })"
        />
        <fx-choice
          class="half"
          caption="Mail server"
          [value]="pack().tellServer ?? ''"
          [options]="mailServers()"
          [disabled]="!isLead()"
          (chosen)="changed.emit({ tellServer: $event })"
        />
      }
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
  protected readonly isLead = this.store.selectSignal(selectIsLead);
  private readonly servers = this.store.selectSignal(transferFeature.selectServers);
  protected readonly mailServers = computed(() =>
    (this.servers() ?? [])
      .filter(({ address }) => serverUse(address) === 'mail')
      .map(({ id, name }) => ({ value: id, words: name })),
  );
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
  constructor() {
    effect(() => {
      if (this.pack().publishes && this.pack().tellTo && this.servers() === null)
        this.store.dispatch(TransferActions.serversAskedFor());
    });
  }

  protected readonly failed = computed(() => {
    const { sentence = null, untold } = this.found.answer()?.last ?? {};
    return sentence !== null || untold !== undefined;
  });
  protected readonly last = computed(() => {
    const last = this.found.answer()?.last;
    if (!last) return '';
    const due = momentInWords(last.due);
    const came = last.sentence === null ? `Published as due on ${due}.` : `Not published on ${due}: ${last.sentence}`;
    return last.untold === undefined ? came : `${came} ${last.untold}`;
  });
}
