import { booleanAttribute, ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { Schema } from 'yup';
import { limitedNumber, parseTyped, typedNumber } from './number-text';
import { TextField } from './text-field';

/** A number with its caption, limits and unit. */
@Component({
  selector: 'fx-number',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [TextField],
  template: `
    <fx-text
      numeric
      [caption]="caption()"
      [bare]="bare()"
      [value]="text()"
      [schema]="typedSchema()"
      [unit]="unit()"
      [placeholder]="absent()"
      [disabled]="disabled()"
      [offers]="offers()"
      (entered)="enter($event)"
    />
  `,
})
export class NumberField {
  readonly caption = input.required<string>();
  readonly value = input.required<number | undefined>();
  readonly min = input(-Infinity);
  readonly max = input(Infinity);
  readonly whole = input(false, { transform: booleanAttribute });
  /** In place of limits. */
  readonly schema = input<Schema>();
  readonly unit = input('');
  /** Words for no value; where there are none, a number must be typed. */
  readonly absent = input('');
  readonly disabled = input(false, { transform: booleanAttribute });
  readonly bare = input(false, { transform: booleanAttribute });
  readonly offers = input<readonly string[]>([]);
  readonly entered = output<number | undefined>();

  protected readonly text = computed(() => (this.value() === undefined ? '' : String(this.value())));
  protected readonly typedSchema = computed(() => typedNumber(this.schema() ?? limitedNumber(this.limits())));

  private limits() {
    return { min: this.min(), max: this.max(), whole: this.whole(), optional: this.absent() !== '' };
  }

  protected enter(text: string): void {
    const value = parseTyped(text);
    if (value !== this.value()) this.entered.emit(value);
  }
}
