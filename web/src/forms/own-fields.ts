import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { Store } from '@ngrx/store';
import { projectFeature } from '../state/project.reducer';

/** The sheet fields of the project's own, to be filled in: of one sheet, or of several where they agree. */
@Component({
  selector: 'fx-own-fields',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (field of fields(); track field.name) {
      <label>
        <span class="fx-caption">
          {{ field.caption }}
          @if (field.required && !values()[field.name] && !blank()) {
            <b class="wrong">to be filled in</b>
          }
        </span>
        @if (field.kind === 'choice') {
          <select #choice class="fx-field" (change)="set(field.name, choice.value)">
            <option value="">{{ blank() }}</option>
            @for (option of field.choices; track option) {
              <option [value]="option" [selected]="option === values()[field.name]">{{ option }}</option>
            }
          </select>
        } @else {
          <input
            #value
            class="fx-field"
            autocomplete="off"
            [type]="field.kind"
            [placeholder]="blank()"
            [value]="values()[field.name] ?? ''"
            (change)="set(field.name, value.value)"
          />
        }
      </label>
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
    .wrong {
      color: var(--fx-signal);
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

  protected set(name: string, value: string): void {
    const values = { ...this.values(), [name]: value.trim() };
    if (!value.trim()) delete values[name];
    this.changed.emit(values);
  }
}
