import { booleanAttribute, ChangeDetectionStrategy, Component, effect, input, output, signal } from '@angular/core';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import type { ErrorStateMatcher } from '@angular/material/core';
import { MatDatepicker, MatDatepickerInput, MatDatepickerToggle } from '@angular/material/datepicker';
import { MatError, MatFormField, MatSuffix } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { nextFieldId } from './field-id';
import { fromIso, provideIsoDates, toIso } from './iso-date-adapter';

/** A day with its caption, typed as YYYY-MM-DD or picked from a calendar. */
@Component({
  selector: 'fx-date',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    MatDatepicker,
    MatDatepickerInput,
    MatDatepickerToggle,
    MatError,
    MatFormField,
    MatInput,
    MatSuffix,
    ReactiveFormsModule,
  ],
  providers: [provideIsoDates()],
  template: `
    @if (!bare()) {
      <label class="fx-caption" [for]="id">{{ caption() }}</label>
    }
    <mat-form-field>
      <input
        matInput
        [id]="id"
        [attr.aria-label]="bare() ? caption() : null"
        autocomplete="off"
        [placeholder]="placeholder()"
        [matDatepicker]="picker"
        [errorStateMatcher]="matcher"
        [formControl]="control"
        (dateChange)="enter()"
      />
      <mat-datepicker-toggle matIconSuffix [for]="picker" />
      <mat-datepicker #picker />
      @if (wrong()) {
        <mat-error>Write the date as YYYY-MM-DD.</mat-error>
      }
    </mat-form-field>
  `,
  styleUrl: './field.scss',
})
export class DateField {
  readonly caption = input.required<string>();
  /** YYYY-MM-DD, or empty. */
  readonly value = input.required<string>();
  readonly placeholder = input('YYYY-MM-DD');
  readonly disabled = input(false, { transform: booleanAttribute });
  readonly bare = input(false, { transform: booleanAttribute });
  /** YYYY-MM-DD, or empty where the field was cleared. */
  readonly entered = output<string>();

  protected readonly id = nextFieldId();
  protected readonly control = new FormControl<Date | null>(null);
  protected readonly wrong = signal(false);
  protected readonly matcher: ErrorStateMatcher = { isErrorState: () => this.wrong() };

  constructor() {
    effect(() => {
      this.control.reset(fromIso(this.value()) ?? null, { emitEvent: false });
      this.wrong.set(false);
    });
    effect(() =>
      this.disabled() ? this.control.disable({ emitEvent: false }) : this.control.enable({ emitEvent: false }),
    );
  }

  protected enter(): void {
    this.wrong.set(this.control.hasError('matDatepickerParse'));
    if (this.wrong()) return;
    const day = this.control.value ? toIso(this.control.value) : '';
    if (day !== this.value()) this.entered.emit(day);
  }
}
