import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
  signal,
} from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Store } from '@ngrx/store';
import type { NewIssue, RunInfo } from '@folvex/contract';
import { peopleFor, recipientNames, recipientsIn, superseded, type Issue } from '@folvex/core';
import { selectPeople } from '../../state/project/project.reducer';
import { nameOfRun } from '../../state/runs/runs.reducer';
import { momentInWords, today } from '../../ui/words';
import { ChoiceField } from '../../forms/choice-field';
import { DateField } from '../../forms/date-field';
import { TextField } from '../../forms/text-field';

/** Makes a run an issue: its date, purpose and recipients. */
@Component({
  selector: 'fx-new-issue-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, DateField, MatButton, TextField],
  template: `
    <fx-choice caption="Run" [value]="run()" [options]="runOptions()" (chosen)="run.set($event)" />
    <fx-date caption="Date" [value]="day()" (entered)="day.set($event)" />
    <fx-text caption="Purpose" placeholder="Permit" [value]="purpose()" (typed)="purpose.set($event)" />
    <fx-text
      class="wide"
      caption="Recipients, separated by commas"
      placeholder="Plan checker, Contractor"
      listed
      [offers]="offers()"
      [value]="recipients()"
      (typed)="recipients.set($event)"
    />
    @if (proposed().length > 0) {
      <button matButton type="button" class="fx-act" (click)="addProposed()">Add {{ proposed().join(', ') }}</button>
    }
    <fx-text class="wide" caption="Remarks" [value]="remarks()" (typed)="remarks.set($event)" />
    <fx-choice caption="Replaces" [value]="replaced()" [options]="replaceOptions()" (chosen)="replaced.set($event)" />
    <button mat-flat-button type="button" (click)="make()">Issue</button>
    <button matButton type="button" class="fx-act" (click)="closed.emit()">Cancel</button>
    @if (refused() || missing()) {
      <p role="alert">{{ missing() || refused() }}</p>
    }
  `,
  styles: `
    :host {
      display: flex;
      flex: none;
      flex-wrap: wrap;
      align-items: end;
      gap: var(--fx-gap-2) var(--fx-gap-3);
      padding: var(--fx-gap-3) var(--fx-gap-4);
      border-bottom: 1px solid var(--fx-line);
      background: var(--fx-raised);
    }
    fx-choice {
      width: 230px;
    }
    fx-date {
      width: 150px;
    }
    .wide {
      flex: 1 1 220px;
    }
    p {
      flex-basis: 100%;
      color: var(--fx-signal);
    }
  `,
})
export class NewIssuePanel {
  readonly runs = input.required<readonly RunInfo[]>();
  readonly issues = input.required<readonly Issue[]>();
  /** Why the last try was refused. */
  readonly refused = input('');
  readonly made = output<NewIssue>();
  readonly closed = output();
  /** The run that is issued: the latest, until another is chosen. */
  protected readonly run = linkedSignal(() => this.runs()[0]?.id ?? '');
  protected readonly day = signal(today());
  protected readonly purpose = signal('');
  private readonly people = inject(Store).selectSignal(selectPeople);
  protected readonly offers = computed(() => recipientNames(this.people()));
  protected readonly recipients = signal('');
  /** People who get issues for this purpose and are not among the recipients, themselves or by their firm. */
  protected readonly proposed = computed(() => {
    const there = recipientsIn(this.recipients(), this.people()).addresses.map((address) => address.toLowerCase());
    return peopleFor(this.purpose(), this.people())
      .filter(({ mail }) => !there.includes(mail.trim().toLowerCase()))
      .map(({ name }) => name);
  });
  protected readonly remarks = signal('');
  protected readonly replaced = signal('');
  protected readonly runOptions = computed(() =>
    this.runs().map((run) => ({
      value: run.id,
      words: `${momentInWords(run.createdAt)} ${nameOfRun(run)}`,
    })),
  );
  /** Only an issue that nothing replaced yet can be replaced. */
  protected readonly replaceOptions = computed(() => {
    const gone = superseded(this.issues());
    const open = this.issues().filter(({ id }) => !gone.has(id));
    return [
      { value: '', words: 'no earlier issue' },
      ...open.map(({ id, number, date }) => ({ value: id, words: `issue ${number} of ${date}` })),
    ];
  });
  protected readonly missing = signal('');

  protected addProposed(): void {
    this.recipients.update((list) =>
      [...list.split(','), ...this.proposed()]
        .map((one) => one.trim())
        .filter(Boolean)
        .join(', '),
    );
  }

  protected make(): void {
    const to = this.recipients()
      .split(',')
      .map((one) => one.trim())
      .filter(Boolean);
    const [date, purpose, remarks] = [this.day(), this.purpose().trim(), this.remarks().trim()];
    this.missing.set(
      !date ? 'Enter the date.' : !purpose ? 'Enter the purpose.' : to.length === 0 ? 'Enter a recipient.' : '',
    );
    if (this.missing()) return;
    this.made.emit({
      ...{ run: this.run(), date, purpose, recipients: to },
      ...(remarks && { remarks }),
      ...(this.replaced() && { supersedes: this.replaced() }),
    });
  }
}
