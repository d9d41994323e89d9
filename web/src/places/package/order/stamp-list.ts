import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatIcon } from '@angular/material/icon';
import type { PrintedStamp } from '@folvex/core';
import { ChoiceField, type Choosable } from '../../../forms/choice-field';
import { ColourField } from '../../../forms/colour-field';
import { NumberField } from '../../../forms/number-field';
import { TextField } from '../../../forms/text-field';

/** Stamps, one below the other, to be edited: those of a package, or of one of its pages. */
@Component({
  selector: 'fx-stamp-list',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, ColourField, MatButton, MatCheckbox, MatIcon, MatIconButton, NumberField, TextField],
  template: `
    @for (stamp of stamps(); track $index; let at = $index) {
      <div class="stamp">
        <fx-text bare caption="Text of the stamp" [value]="stamp.text" (entered)="change(at, { text: $event })" />
        <fx-choice
          bare
          caption="Position of the stamp"
          [value]="stamp.at"
          [options]="places"
          (chosen)="change(at, { at: $event })"
        />
        <fx-number
          bare
          caption="Height of the stamp"
          unit="mm"
          [value]="stamp.size"
          [min]="1"
          [max]="100"
          (entered)="change(at, { size: $event })"
        />
        <fx-colour caption="Colour of the stamp" [value]="stamp.colour" (chosen)="change(at, { colour: $event })" />
        <button matIconButton type="button" aria-label="Remove the stamp" (click)="removeStamp(at)">
          <mat-icon svgIcon="delete" />
        </button>
        <mat-checkbox [checked]="!!stamp.under" (change)="layStamp(at, $event.checked)">under the drawing</mat-checkbox>
      </div>
    }
    @if (stamps().length > 0) {
      <p class="quiet">Texts may have fields, as names do, and [run.id].</p>
    }
    <button matButton type="button" class="fx-act" (click)="addStamp()">Add a stamp</button>
  `,
  styles: `
    .stamp {
      display: grid;
      grid-template-columns: minmax(0, 1fr) 84px 34px auto;
      align-items: center;
      gap: var(--fx-gap-2);
      margin: var(--fx-gap-2) 0;

      > :first-child,
      > mat-checkbox {
        grid-column: 1 / -1;
      }
    }
    :host(.wide) .stamp {
      grid-template-columns: 320px 150px 84px 34px auto auto;
      justify-content: start;

      > :first-child,
      > mat-checkbox {
        grid-column: auto;
      }
    }
    .quiet {
      color: var(--fx-quiet);
    }
  `,
})
export class StampList {
  readonly stamps = input.required<readonly PrintedStamp[]>();
  readonly changed = output<PrintedStamp[]>();

  protected readonly places: readonly Choosable<PrintedStamp['at']>[] = [
    { value: 'top', words: 'upper edge' },
    { value: 'bottom', words: 'lower edge' },
    { value: 'middle', words: 'across, as a tint' },
  ];

  protected change(at: number, change: Partial<PrintedStamp>): void {
    if (change.text?.trim() === '') return this.removeStamp(at);
    this.changed.emit(this.stamps().map((stamp, i) => (i === at ? { ...stamp, ...change } : stamp)));
  }

  protected layStamp(at: number, below: boolean): void {
    const stamps = this.stamps().map((stamp, i): PrintedStamp => {
      if (i !== at) return stamp;
      const { text, at: place, size, colour } = stamp;
      return { text, at: place, size, colour, ...(below && { under: true as const }) };
    });
    this.changed.emit(stamps);
  }

  protected addStamp(): void {
    const stamp: PrintedStamp = { text: 'PRELIMINARY [run.date]', at: 'top', size: 3.5, colour: 0xb93a14 };
    this.changed.emit([...this.stamps(), stamp]);
  }

  protected removeStamp(at: number): void {
    this.changed.emit(this.stamps().filter((_, i) => i !== at));
  }
}
