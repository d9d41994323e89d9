import { computed, Injectable, signal } from '@angular/core';
import { omitKey } from '../../state/omit-key';

const KEY = 'folvex.list';
const LEAST_PX = 48;
const MOST_PX = 800;
const STANDARD_PX = 112;
/** Columns that are wider or narrower than others at the beginning. */
const WIDTHS: Readonly<Record<string, number>> = {
  number: 92,
  title: 210,
  group: 165,
  paper: 150,
  scale: 84,
  revision: 60,
  date: 96,
  template: 140,
};

interface Remembered {
  hidden: string[];
  widths: Record<string, number>;
}

/** Which columns of the list are shown and how wide they are; the browser remembers it. */
@Injectable({ providedIn: 'root' })
export class ListLayout {
  private readonly state = signal<Remembered>(remembered());
  readonly hidden = computed((): ReadonlySet<string> => new Set(this.state().hidden));

  /** Width of a column, CSS pixels. */
  width(key: string): number {
    return this.state().widths[key] ?? WIDTHS[key] ?? STANDARD_PX;
  }

  /** Shows these of all columns. */
  show(keys: readonly string[], all: readonly string[]): void {
    this.keep({ ...this.state(), hidden: all.filter((key) => !keys.includes(key)) });
  }

  resize(key: string, width: number): void {
    const widths = { ...this.state().widths, [key]: Math.round(Math.max(LEAST_PX, Math.min(MOST_PX, width))) };
    this.keep({ ...this.state(), widths });
  }

  /** Gives a column its first width again. */
  reset(key: string): void {
    this.keep({ ...this.state(), widths: omitKey(this.state().widths, key) });
  }

  private keep(state: Remembered): void {
    this.state.set(state);
    localStorage.setItem(KEY, JSON.stringify(state));
  }
}

function remembered(): Remembered {
  try {
    const { hidden, widths } = JSON.parse(localStorage.getItem(KEY) ?? '') as Partial<Remembered>;
    return { hidden: Array.isArray(hidden) ? hidden : [], widths: widths ?? {} };
  } catch {
    return { hidden: [], widths: {} };
  }
}
