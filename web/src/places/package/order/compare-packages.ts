import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { compareOrders, type SheetPackage } from '@folvex/core';
import { selectAllPackages, type StripPage } from '../../../state/packages/packages.selectors';
import { selectSheetEntities } from '../../../state/sheets/sheets.selectors';
import { ChoiceField } from '../../../forms/choice-field';
import { visibleOrder } from '../package-edits';
import { optionsByName } from '../../../ui/choices';

/** How the pages of a package differ from those of another one. */
@Component({
  selector: 'fx-compare-packages',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField],
  template: `
    @if (others().length > 0) {
      <fx-choice
        caption="Compare with another package"
        placeholder="Choose a package"
        [value]="chosenId()"
        [options]="options()"
        (chosen)="chosenId.set($event)"
      />
      @for (line of lines(); track line) {
        <p>{{ line }}</p>
      }
    }
  `,
  styles: `
    fx-choice {
      margin-top: var(--fx-gap-3);
    }
    p {
      color: var(--fx-quiet);
    }
  `,
})
export class ComparePackages {
  readonly pack = input.required<SheetPackage>();
  readonly strip = input.required<readonly StripPage[]>();

  private readonly store = inject(Store);
  private readonly packages = this.store.selectSignal(selectAllPackages);
  private readonly sheets = this.store.selectSignal(selectSheetEntities);
  protected readonly chosenId = signal('');
  protected readonly others = computed(() => this.packages().filter(({ id }) => id !== this.pack().id));
  protected readonly options = computed(() => optionsByName(this.others()));
  protected readonly lines = computed(() => {
    const other = this.others().find(({ id }) => id === this.chosenId());
    if (!other) return [];
    const numberOf = (id: string): string =>
      this.strip().find((page) => page.id === id)?.sheet.number ?? this.sheets()[id]?.number ?? id;
    const named = (ids: string[]): string => ids.map(numberOf).join(', ');
    const { onlyHere, onlyThere, moved } = compareOrders(visibleOrder(this.strip()), other.order);
    const lines = [
      onlyHere.length ? `Only here: ${named(onlyHere)}.` : '',
      onlyThere.length ? `Only in ${other.name}: ${named(onlyThere)}.` : '',
      moved.length ? `Behind another page than there: ${named(moved)}.` : '',
    ].filter(Boolean);
    return lines.length > 0 ? lines : [`The same pages in the same order as ${other.name}.`];
  });
}
