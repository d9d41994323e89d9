import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { Store } from '@ngrx/store';
import type { SheetField } from '@folvex/core';
import { projectFeature } from '../state/project/project.reducer';
import { ChoiceField, type Choosable } from './choice-field';
import { DateField } from './date-field';
import { TextField } from './text-field';

/** The sheet fields of the project's own, to be filled in: of one sheet, or of several where they agree. */
@Component({
  selector: 'fx-own-fields',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, DateField, TextField],
  template: `
    @for (field of fields(); track field.name) {
      @if (field.kind === 'choice') {
        <fx-choice
          [attr.data-field]="'sheet.' + field.name"
          [caption]="captionOf(field)"
          [value]="values()[field.name] ?? ''"
          [options]="optionsOf(field)"
          (chosen)="set(field.name, $event)"
        />
      } @else if (field.kind === 'date') {
        <fx-date
          [attr.data-field]="'sheet.' + field.name"
          [caption]="captionOf(field)"
          [value]="values()[field.name] ?? ''"
          (entered)="set(field.name, $event)"
        />
      } @else {
        <fx-text
          [attr.data-field]="'sheet.' + field.name"
          [caption]="captionOf(field)"
          [value]="values()[field.name] ?? ''"
          [placeholder]="blank()"
          [problem]="isMissing(field) ? 'Fill this in.' : ''"
          (entered)="set(field.name, $event)"
        />
      }
    }
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: var(--fx-gap-2);
    }
    :host:empty {
      display: none;
    }
  `,
})
export class OwnFields {
  readonly values = input.required<Readonly<Record<string, string>>>();
  /** The placeholder where there is no value. */
  readonly blank = input('');
  readonly changed = output<Record<string, string>>();

  private readonly facts = inject(Store).selectSignal(projectFeature.selectFacts);
  protected readonly fields = computed(() => this.facts()?.sheetFields ?? []);

  protected captionOf({ caption, required }: SheetField): string {
    return required ? `${caption} (required)` : caption;
  }

  protected optionsOf({ choices = [] }: SheetField): Choosable<string>[] {
    return [{ value: '', words: this.blank() || 'none' }, ...choices.map((one) => ({ value: one, words: one }))];
  }

  protected isMissing({ name, required }: SheetField): boolean {
    return Boolean(required) && !this.values()[name] && !this.blank();
  }

  protected set(name: string, value: string): void {
    const values = { ...this.values(), [name]: value.trim() };
    if (!value.trim()) delete values[name];
    this.changed.emit(values);
  }
}
