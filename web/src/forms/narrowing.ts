import { computed, signal, type Signal } from '@angular/core';
import { filteredSheets, paperWords, type FilterFacts, type Sheet, type SheetFilter } from '@folvex/core';

/** Which sheets of a list are shown, and what they can be filtered by. */
export class Narrowing {
  private readonly filter = signal<SheetFilter>({});

  constructor(
    private readonly all: Signal<readonly Sheet[]>,
    private readonly facts: Signal<FilterFacts>,
  ) {}

  readonly shown = computed(() => filteredSheets(this.all(), this.filter(), this.facts()));
  readonly papers = computed(() => sorted(this.all().map((sheet) => paperWords(sheet, this.facts()))));
  readonly revisions = computed(() => sorted(this.all().map(({ revision }) => revision?.index ?? '')));

  /** Shows all again. */
  clear(): void {
    this.filter.set({});
  }

  /** Changes filters; undefined removes one. */
  narrow(change: { [Key in keyof SheetFilter]: SheetFilter[Key] | undefined }): void {
    const kept = Object.entries({ ...this.filter(), ...change }).filter(([, value]) => value !== undefined);
    this.filter.set(Object.fromEntries(kept) as SheetFilter);
  }
}

function sorted(values: readonly string[]): string[] {
  return [...new Set(values)].sort((a, b) => a.localeCompare(b, 'en', { numeric: true }));
}
