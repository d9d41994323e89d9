import {
  afterRenderEffect,
  booleanAttribute,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  input,
  linkedSignal,
  output,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import { MatAutocomplete, MatAutocompleteTrigger } from '@angular/material/autocomplete';
import { MatOption, type ErrorStateMatcher } from '@angular/material/core';
import { MatError, MatFormField, MatHint, MatSuffix } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { mixed, type Schema } from 'yup';
import { nextFieldId } from './field-id';
import { problemWith, YUP_ERROR, yupValidator } from './yup-validator';

const ANYTHING = mixed();
/** Nobody reads a longer list; typing narrows it. */
const MOST_OFFERED = 50;

/**
 * A text with its caption. What is typed is handed on when the field is left or Enter is pressed; what its schema does
 * not allow stays in the field, with the reason below it.
 */
@Component({
  selector: 'fx-text',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    MatAutocomplete,
    MatAutocompleteTrigger,
    MatError,
    MatFormField,
    MatHint,
    MatInput,
    MatOption,
    MatSuffix,
    ReactiveFormsModule,
  ],
  template: `
    @if (caption() && !bare()) {
      <label class="fx-caption" [for]="id">{{ caption() }}</label>
    }
    <mat-form-field>
      @if (rows() > 0) {
        <textarea
          matInput
          [id]="id"
          [rows]="rows()"
          [attr.aria-label]="bare() ? caption() : null"
          [placeholder]="placeholder()"
          [errorStateMatcher]="matcher"
          [formControl]="control"
          (change)="enter()"
        ></textarea>
      } @else {
        <input
          matInput
          [id]="id"
          [type]="type()"
          [attr.aria-label]="bare() ? caption() : null"
          [attr.inputmode]="numeric() ? 'decimal' : null"
          [attr.autocomplete]="autofill()"
          [placeholder]="placeholder()"
          [errorStateMatcher]="matcher"
          [formControl]="control"
          [matAutocomplete]="auto"
          [matAutocompleteDisabled]="shownOffers().length === 0"
          (click)="offerAll()"
          (keydown.arrowdown)="offerAll()"
          (change)="enter()"
        />
      }
      @if (unit()) {
        <span matTextSuffix>{{ unit() }}</span>
      }
      <mat-autocomplete #auto (optionSelected)="enter()">
        @for (offer of shownOffers(); track offer) {
          <mat-option [value]="kept() + offer">{{ offer }}</mat-option>
        }
      </mat-autocomplete>
      @if (shownProblem(); as sentence) {
        <mat-error>{{ sentence }}</mat-error>
      } @else if (hint()) {
        <mat-hint>{{ hint() }}</mat-hint>
      }
    </mat-form-field>
  `,
  styleUrl: './field.scss',
})
export class TextField {
  readonly caption = input('');
  readonly value = input<string>('');
  /** What the text must be; absent: anything. */
  readonly schema = input<Schema>();
  /** What is wrong with the text otherwise; empty: nothing. */
  readonly problem = input('');
  /** A unit behind the text. */
  readonly unit = input('');
  readonly placeholder = input('');
  readonly hint = input('');
  /** Lines of a longer text; 0: one line only. */
  readonly rows = input(0);
  readonly type = input<'text' | 'search' | 'password'>('text');
  /** What browsers may fill it with (HTML, autofill detail tokens). */
  readonly autofill = input<'off' | 'username' | 'current-password' | 'new-password' | 'name'>('off');
  /** Texts that are often wanted. */
  readonly offers = input<readonly string[]>([]);
  /** True where the text is a list with commas; the offers are for its next entry. */
  readonly listed = input(false, { transform: booleanAttribute });
  readonly disabled = input(false, { transform: booleanAttribute });
  /** Without the caption above it, where something else shows what it is. */
  readonly bare = input(false, { transform: booleanAttribute });
  readonly numeric = input(false, { transform: booleanAttribute });
  /** Becomes what it was once something is entered: for passwords, which are seen no more. */
  readonly clears = input(false, { transform: booleanAttribute });
  /** Every change while typing. */
  readonly typed = output<string>();
  /** What was typed, once it is entered and right. */
  readonly entered = output<string>();

  /** Why what was entered is not right. */
  readonly refused = output<string>();

  private readonly offering = viewChild(MatAutocompleteTrigger);
  protected readonly id = nextFieldId();
  protected readonly control = new FormControl('', {
    nonNullable: true,
    // Untracked: a schema may read signals, and what is typed must survive when those change.
    validators: (control) => untracked(() => yupValidator(this.schema() ?? ANYTHING)(control)),
  });
  /** What is typed; undefined until something is, and once it is entered. */
  private readonly typedText = signal<string | undefined>(undefined);
  /** True once all offers were asked for, by a click or by the arrow key. */
  private readonly offersWanted = signal(false);
  /** What is wrong with what was entered; shown until the text is changed. */
  private readonly refusal = linkedSignal({ source: this.value, computation: () => '' });
  protected readonly shownProblem = computed(() => this.refusal() || this.problem());
  protected readonly matcher: ErrorStateMatcher = { isErrorState: () => this.shownProblem() !== '' };
  /** All of them when asked for, and while typing those that contain what is typed. */
  protected readonly shownOffers = computed(() => {
    const text = this.typedText();
    if (text === undefined) return this.offersWanted() ? this.offers().slice(0, MOST_OFFERED) : [];
    const [schema, offers] = [this.schema(), this.offers()];
    const wanted = (this.listed() ? text.slice(lastEntry(text)) : text).trim().toLowerCase();
    const isRight = this.listed()
      ? offers.some((offer) => offer.toLowerCase() === wanted)
      : schema && problemWith(schema, text) === undefined;
    // What is right already needs no offers, which would cover what comes below.
    if (isRight) return [];
    return offers.filter((offer) => offer.toLowerCase().includes(wanted)).slice(0, MOST_OFFERED);
  });
  /** What stays of a list when an offer is chosen: what was entered, or all before the entry that is being typed. */
  protected readonly kept = computed(() => {
    if (!this.listed()) return '';
    const text = this.typedText();
    const before = text === undefined ? this.value().trim() : text.slice(0, lastEntry(text)).trimEnd();
    if (before === '') return '';
    return /[,;]$/.test(before) ? `${before} ` : `${before}, `;
  });

  constructor() {
    // Offers are shown once they are rendered.
    afterRenderEffect(() => {
      if (this.shownOffers().length === 0) this.offering()?.closePanel();
      else if (this.offersWanted() || this.typedText() !== undefined) this.offering()?.openPanel();
    });
    effect(() => this.control.reset(this.value(), { emitEvent: false }));
    effect(() =>
      this.disabled() ? this.control.disable({ emitEvent: false }) : this.control.enable({ emitEvent: false }),
    );
    this.control.valueChanges.subscribe((text) => {
      this.typedText.set(text);
      this.offersWanted.set(false);
      this.refusal.set('');
      this.typed.emit(text);
    });
  }

  protected offerAll(): void {
    if (this.typedText() === undefined) this.offersWanted.set(true);
  }

  protected enter(): void {
    const text = this.control.value;
    this.typedText.set(undefined);
    this.offersWanted.set(false);
    // The schema may have changed since the text was typed.
    this.control.updateValueAndValidity({ emitEvent: false });
    const problem = this.control.getError(YUP_ERROR) as string | null;
    this.refusal.set(problem ?? '');
    if (problem !== null) this.refused.emit(problem);
    else if (text !== this.value()) {
      this.entered.emit(text);
      if (this.clears()) this.control.reset(this.value(), { emitEvent: false });
    }
  }
}

/** Where the last entry of a list begins. */
function lastEntry(text: string): number {
  return Math.max(text.lastIndexOf(','), text.lastIndexOf(';')) + 1;
}
