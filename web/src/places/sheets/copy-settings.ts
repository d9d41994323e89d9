import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { compareNumbers, type Sheet } from '@folvex/core';
import type { ManyChange } from '@folvex/contract';
import { SheetActions } from '../../state/project.actions';
import { selectAllSheets } from '../../state/project.selectors';
import { countOf } from '../../ui/words';
import { choiceOf } from '../../ui/choice-signal';

/** What of a sheet can be copied to others, and what that comes to as a change of those. */
const PARTS: readonly { words: string; of(sheet: Sheet): ManyChange['set'] }[] = [
  { words: 'paper', of: ({ paper }) => (paper ? { paper } : {}) },
  {
    words: 'frame, margins and marks',
    of: ({ frame, margins, marks }) => ({ frame, margins: margins ?? null, marks: marks ?? null }),
  },
  {
    words: 'title block',
    of: ({ titleBlock }) => ({ template: titleBlock ? (titleBlock.template ?? 'corner') : null }),
  },
  { words: 'sheet fields', of: ({ fields }) => (fields ? { fields } : {}) },
  { words: 'revision', of: ({ revision }) => (revision ? { revision } : {}) },
];

/** Settings of one sheet put on those that are chosen, by choice. */
@Component({
  selector: 'fx-copy-settings',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (!open()) {
      <button type="button" class="fx-link" (click)="open.set(true)">Copy settings from another sheet …</button>
    } @else {
      <label>
        <span class="fx-caption">Copy settings from the sheet</span>
        <select #from class="fx-field" (change)="source.set(from.value)">
          <option value="">choose one …</option>
          @for (option of others(); track option.id) {
            <option [value]="option.id" [selected]="option.id === source()">
              {{ option.number }} {{ option.title }}
            </option>
          }
        </select>
      </label>
      @if (found()) {
        <p>
          @for (part of parts; track part.words) {
            <label class="check">
              <input #on type="checkbox" [checked]="wanted().has(part.words)" (change)="want(part.words, on.checked)" />
              {{ part.words }}
            </label>
          }
        </p>
        <button type="button" class="fx-link" [disabled]="wanted().size === 0" (click)="copy()">
          Copy {{ counted(wanted().size, 'setting') }} to {{ counted(sheets().length, 'sheet') }}
        </button>
      }
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: var(--fx-gap-2);
    }
    .check {
      display: flex;
      gap: var(--fx-gap-2);
    }
  `,
})
export class CopySettings {
  readonly sheets = input.required<readonly Sheet[]>();

  private readonly store = inject(Store);
  private readonly all = this.store.selectSignal(selectAllSheets);
  protected readonly open = signal(false);
  protected readonly parts = PARTS;
  protected readonly counted = countOf;
  protected readonly others = computed(() =>
    this.all()
      .filter((sheet) => !sheet.from && !(this.sheets().length === 1 && sheet.id === this.sheets()[0]!.id))
      .sort((a, b) => compareNumbers(a.number, b.number)),
  );
  protected readonly source = choiceOf(
    () =>
      this.sheets()
        .map(({ id }) => id)
        .join(),
    () => '',
  );
  protected readonly found = computed(() => this.others().find(({ id }) => id === this.source()) ?? null);
  protected readonly wanted = linkedSignal({
    source: this.source,
    computation: (): ReadonlySet<string> => new Set(PARTS.slice(0, 3).map(({ words }) => words)),
  });

  protected want(words: string, on: boolean): void {
    const others = [...this.wanted()].filter((one) => one !== words);
    this.wanted.set(new Set(on ? [...others, words] : others));
  }

  protected copy(): void {
    const from = this.found();
    if (!from) return;
    const set = Object.assign(
      {},
      ...PARTS.filter(({ words }) => this.wanted().has(words)).map((part) => part.of(from)),
    );
    const ids = this.sheets().map(({ id }) => id);
    if (Object.keys(set as object).length === 0) return;
    this.store.dispatch(SheetActions.severalEdited({ change: { ids, set: set as ManyChange['set'] } }));
  }
}
