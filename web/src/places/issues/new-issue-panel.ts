import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import type { NewIssue, RunInfo } from '@folvex/contract';
import { superseded, type Issue } from '@folvex/core';
import { momentInWords, today } from '../../ui/words';

/** Makes a run an issue: its date, purpose and recipients. */
@Component({
  selector: 'fx-new-issue-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton],
  template: `
    <label>
      <span class="fx-caption">Run</span>
      <select #run class="fx-field">
        @for (option of runs(); track option.id) {
          <option [value]="option.id">{{ moment(option.createdAt) }} {{ option.packageName }}</option>
        }
      </select>
    </label>
    <label>
      <span class="fx-caption">Date</span>
      <input #date class="fx-field" type="date" [value]="day" />
    </label>
    <label>
      <span class="fx-caption">Purpose</span>
      <input #purpose class="fx-field" placeholder="Permit" />
    </label>
    <label class="wide">
      <span class="fx-caption">Recipients, commas between</span>
      <input #recipients class="fx-field" placeholder="Plan checker, Contractor" />
    </label>
    <label class="wide">
      <span class="fx-caption">Remarks</span>
      <input #remarks class="fx-field" />
    </label>
    <label>
      <span class="fx-caption">In place of</span>
      <select #replaced class="fx-field">
        <option value="">no earlier issue</option>
        @for (issue of replaceable(); track issue.id) {
          <option [value]="issue.id">issue {{ issue.number }} of {{ issue.date }}</option>
        }
      </select>
    </label>
    <button
      mat-flat-button
      type="button"
      (click)="make(run.value, date.value, purpose.value, recipients.value, remarks.value, replaced.value)"
    >
      Issue it
    </button>
    <button matButton type="button" class="fx-act" (click)="closed.emit()">Not now</button>
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
    label {
      display: grid;
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
  protected readonly day = today();
  protected readonly moment = momentInWords;
  /** Only an issue that nothing took the place of can be superseded. */
  protected readonly replaceable = computed(() => {
    const gone = superseded(this.issues());
    return this.issues().filter(({ id }) => !gone.has(id));
  });
  protected readonly missing = signal('');

  protected make(
    run: string,
    date: string,
    purpose: string,
    recipients: string,
    remarks: string,
    supersedes: string,
  ): void {
    const to = recipients
      .split(',')
      .map((one) => one.trim())
      .filter(Boolean);
    this.missing.set(
      !date
        ? 'Say on which day it is issued.'
        : !purpose.trim()
          ? 'Say what it is issued for.'
          : to.length === 0
            ? 'Say who gets it.'
            : '',
    );
    if (this.missing()) return;
    this.made.emit({
      ...{ run, date, purpose: purpose.trim(), recipients: to },
      ...(remarks.trim() && { remarks: remarks.trim() }),
      ...(supersedes && { supersedes }),
    });
  }
}
