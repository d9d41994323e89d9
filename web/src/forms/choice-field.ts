import { booleanAttribute, ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatOption } from '@angular/material/core';
import { MatFormField, MatHint } from '@angular/material/form-field';
import { MatSelect, type MatSelectChange } from '@angular/material/select';
import { nextFieldId } from './field-id';

/** One of the values that a choice field offers, with its words. */
export interface Choosable<T> {
  value: T;
  words: string;
}

/** One of a few values, with its caption. */
@Component({
  selector: 'fx-choice',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatFormField, MatHint, MatOption, MatSelect],
  template: `
    @if (!bare()) {
      <span class="fx-caption" [id]="id">{{ caption() }}</span>
    }
    <mat-form-field>
      <mat-select
        hideSingleSelectionIndicator
        panelWidth=""
        [aria-label]="bare() ? caption() : ''"
        [aria-labelledby]="bare() ? '' : id"
        [placeholder]="placeholder()"
        [disabled]="disabled()"
        [value]="at()"
        (selectionChange)="choose($event)"
      >
        @for (option of options(); track option.value) {
          <mat-option [value]="$index">{{ option.words }}</mat-option>
        }
      </mat-select>
      @if (hint()) {
        <mat-hint>{{ hint() }}</mat-hint>
      }
    </mat-form-field>
  `,
  styleUrl: './field.scss',
})
export class ChoiceField<T> {
  readonly caption = input.required<string>();
  readonly value = input<T>();
  readonly options = input.required<readonly Choosable<T>[]>();
  readonly placeholder = input('');
  readonly hint = input('');
  readonly disabled = input(false, { transform: booleanAttribute });
  /** Without the caption above it, where something else shows what it is. */
  readonly bare = input(false, { transform: booleanAttribute });
  /** True where an option acts and is not kept as a value. */
  readonly acts = input(false, { transform: booleanAttribute });
  readonly chosen = output<T>();

  protected readonly id = nextFieldId();

  /** Which option is chosen: an option of Material whose value is undefined could not be. */
  protected readonly at = computed(() => this.options().findIndex(({ value }) => value === this.value()));

  protected choose({ value, source }: MatSelectChange): void {
    // A menu of actions keeps no value.
    if (this.acts()) source.value = null;
    this.chosen.emit(this.options()[value as number]!.value);
  }
}
