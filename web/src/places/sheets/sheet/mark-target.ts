import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { Store } from '@ngrx/store';
import { compareNumbers, type NoteTarget } from '@folvex/core';
import { selectAllSheets } from '../../../state/project.selectors';

/** What a mark refers to: a sheet of the project, and maybe one of its views. Its numbers follow by themselves. */
@Component({
  selector: 'fx-mark-target',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label>
      <span class="fx-caption">Refers to the sheet</span>
      <select #sheet class="fx-field" (change)="changed.emit({ sheet: sheet.value })">
        @if (!target()) {
          <option value="">choose one …</option>
        }
        @for (option of sheets(); track option.id) {
          <option [value]="option.id" [selected]="option.id === target()?.id">
            {{ option.number }} {{ option.title }}
          </option>
        }
      </select>
    </label>
    @if (target(); as found) {
      <label>
        <span class="fx-caption">and its view</span>
        <select #view class="fx-field" (change)="choose(found.id, view.value)">
          <option value="">the sheet as a whole</option>
          @for (option of found.views; track option.id) {
            <option [value]="option.id" [selected]="option.id === refers()?.view">
              {{ option.number ?? 'no number' }} {{ option.label || option.id }}
            </option>
          }
        </select>
      </label>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: var(--fx-gap-2);
    }
  `,
})
export class MarkTarget {
  readonly refers = input.required<NoteTarget | undefined>();
  readonly changed = output<NoteTarget>();

  private readonly all = inject(Store).selectSignal(selectAllSheets);
  protected readonly sheets = computed(() => [...this.all()].sort((a, b) => compareNumbers(a.number, b.number)));
  protected readonly target = computed(() => this.all().find(({ id }) => id === this.refers()?.sheet) ?? null);

  protected choose(sheet: string, view: string): void {
    this.changed.emit({ sheet, ...(view && { view }) });
  }
}
