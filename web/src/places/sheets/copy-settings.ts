import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatCheckbox } from '@angular/material/checkbox';
import { Store } from '@ngrx/store';
import { compareNumbers, type Sheet } from '@folvex/core';
import type { ManyChange } from '@folvex/contract';
import { SheetActions } from '../../state/sheets/sheets.actions';
import { selectAllSheets } from '../../state/sheets/sheets.selectors';
import { ChoiceField } from '../../forms/choice-field';
import { sheetOptions } from '../../ui/choices';
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
  imports: [ChoiceField, MatButton, MatCheckbox],
  template: `
    @if (!open()) {
      <button matButton type="button" class="fx-act" (click)="open.set(true)">
        Copy settings from another sheet …
      </button>
    } @else {
      <fx-choice
        caption="Copy settings from the sheet"
        placeholder="Choose one"
        [value]="source()"
        [options]="sourceOptions()"
        (chosen)="source.set($event)"
      />
      @if (found()) {
        <p>
          @for (part of parts; track part.words) {
            <mat-checkbox [checked]="wanted().has(part.words)" (change)="want(part.words, $event.checked)">
              {{ part.words }}
            </mat-checkbox>
          }
        </p>
        <button matButton type="button" class="fx-act" [disabled]="wanted().size === 0" (click)="copy()">
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
    p {
      display: grid;
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
  private readonly others = computed(() =>
    this.all()
      .filter((sheet) => !sheet.from && !(this.sheets().length === 1 && sheet.id === this.sheets()[0]!.id))
      .sort((a, b) => compareNumbers(a.number, b.number)),
  );
  protected readonly sourceOptions = computed(() => sheetOptions(this.others()));
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
