/** Pages moved together: the first of them comes to `to`. Positions count from 0. */
export interface PagesMove {
  positions: ReadonlySet<number>;
  to: number;
}

/** The selected positions of an order, and the current one, which need not be selected. Never changed in place. */
export interface PageChoice {
  selected: ReadonlySet<number>;
  /** The current position: keys start from there. */
  at: number;
  /** Where a range begins. */
  anchor: number;
}

export const NO_PAGES: PageChoice = { selected: new Set(), at: 0, anchor: 0 };

/** How a page is selected: alone, in addition, or as the end of a range. */
export type ChoiceWay = 'alone' | 'also' | 'range';

/** The selection after a page was clicked, or reached by keys. */
export function choosePage({ selected, anchor }: PageChoice, at: number, way: ChoiceWay): PageChoice {
  if (way === 'range') {
    const [from, to] = anchor < at ? [anchor, at] : [at, anchor];
    return { selected: new Set(Array.from({ length: to - from + 1 }, (_, i) => from + i)), at, anchor };
  }
  if (way === 'alone') return { selected: new Set([at]), at, anchor: at };
  const next = new Set(selected);
  if (!next.delete(at)) next.add(at);
  return { selected: next, at, anchor: at };
}

/** A selection of `count` pages from a position, such as pages that were just moved. */
export function chooseMoved(from: number, count: number): PageChoice {
  return { selected: new Set(Array.from({ length: count }, (_, i) => from + i)), at: from, anchor: from };
}

/** Where the first of the selected pages lands when they are dropped before the page that is now at `before`. */
export function positionBefore(selected: ReadonlySet<number>, before: number): number {
  let position = before;
  for (const at of selected) if (at < before) position--;
  return position;
}
