import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatOption } from '@angular/material/core';
import { MatFormField } from '@angular/material/form-field';
import { MatSelect } from '@angular/material/select';
import type { Choosable } from './choice-field';

/** Any number of a few values, where something else shows what they are. */
@Component({
  selector: 'fx-several',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatFormField, MatOption, MatSelect],
  template: `
    <mat-form-field>
      <mat-select
        multiple
        panelWidth=""
        [aria-label]="caption()"
        [placeholder]="none()"
        [value]="value()"
        (selectionChange)="chosen.emit($event.value)"
      >
        @for (option of options(); track option.value) {
          <mat-option [value]="option.value">{{ option.words }}</mat-option>
        }
      </mat-select>
    </mat-form-field>
  `,
  styleUrl: './field.scss',
})
export class SeveralField {
  readonly caption = input.required<string>();
  readonly value = input.required<readonly string[]>();
  readonly options = input.required<readonly Choosable<string>[]>();
  /** What it means where none is chosen. */
  readonly none = input('');
  readonly chosen = output<string[]>();
}
