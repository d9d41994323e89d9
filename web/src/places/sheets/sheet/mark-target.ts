import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { Store } from '@ngrx/store';
import { compareNumbers, type NoteTarget } from '@folvex/core';
import { ChoiceField, type Choosable } from '../../../forms/choice-field';
import { selectAllSheets } from '../../../state/sheets/sheets.selectors';
import { sheetOptions } from '../../../ui/choices';

/** What a mark refers to: a sheet of the project, and maybe one of its views. Its numbers follow by themselves. */
@Component({
  selector: 'fx-mark-target',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField],
  template: `
    <fx-choice
      caption="Refers to the sheet"
      placeholder="Choose one"
      [value]="target()?.id"
      [options]="sheetOptions()"
      (chosen)="changed.emit({ sheet: $event! })"
    />
    @if (target(); as found) {
      <fx-choice
        caption="View"
        [value]="refers()?.view ?? ''"
        [options]="viewOptions()"
        (chosen)="choose(found.id, $event)"
      />
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
  protected readonly sheetOptions = computed((): readonly Choosable<string | undefined>[] =>
    sheetOptions([...this.all()].sort((a, b) => compareNumbers(a.number, b.number))),
  );
  protected readonly target = computed(() => this.all().find(({ id }) => id === this.refers()?.sheet) ?? null);

  protected readonly viewOptions = computed(() => [
    { value: '', words: 'the sheet as a whole' },
    ...(this.target()?.views ?? []).map(({ id, number, label }) => ({
      value: id,
      words: `${number ?? 'no number'} ${label || id}`,
    })),
  ]);

  protected choose(sheet: string, view: string): void {
    this.changed.emit({ sheet, ...(view && { view }) });
  }
}
