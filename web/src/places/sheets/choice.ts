import { computed, signal, type Signal } from '@angular/core';

/** Which items of a list are chosen, and where the keyboard is in it. Items that leave the list are chosen no longer. */
export class Choice {
  private readonly ids = signal<ReadonlySet<string>>(new Set());
  private readonly place = signal<string | null>(null);
  private anchor: string | null = null;

  /** `all`: the list, in the order in which ranges run. */
  constructor(private readonly all: Signal<readonly string[]>) {}

  readonly chosen = computed(() => this.all().filter((id) => this.ids().has(id)));
  /** The item that the keyboard is at; the first one at the beginning. */
  readonly cursor = computed(() => {
    const place = this.place();
    return place !== null && this.all().includes(place) ? place : (this.all()[0] ?? null);
  });

  has(id: string): boolean {
    return this.ids().has(id);
  }

  only(id: string): void {
    this.ids.set(new Set([id]));
    this.moveTo(id);
  }

  toggle(id: string): void {
    const next = new Set(this.ids());
    if (!next.delete(id)) next.add(id);
    this.ids.set(next);
    this.moveTo(id);
  }

  /** Chooses from where the last choice began up to an item. */
  upTo(id: string): void {
    const all = this.all();
    this.anchor ??= this.cursor();
    const [from, to] = [all.indexOf(this.anchor ?? id), all.indexOf(id)];
    this.ids.set(new Set(all.slice(Math.min(from, to), Math.max(from, to) + 1)));
    this.place.set(id);
  }

  moveTo(id: string): void {
    this.place.set(id);
    this.anchor = id;
  }

  allOrNone(): void {
    this.ids.set(this.chosen().length === this.all().length ? new Set() : new Set(this.all()));
  }

  /** Chooses these and no others. */
  allOf(ids: readonly string[]): void {
    this.ids.set(new Set(ids));
  }

  none(): void {
    this.ids.set(new Set());
  }
}
