/** Which positions of an order are selected, the one at hand among them or not; none is changed in place. */
export interface PageChoice {
  selected: ReadonlySet<number>;
  /** The position at hand: keys start from there. */
  at: number;
  /** Where a range begins. */
  anchor: number;
}

export const NO_PAGES: PageChoice = { selected: new Set(), at: 0, anchor: 0 };

/** How a page was chosen: alone, with those before, or all from the last one to there. */
export type ChoiceWay = 'alone' | 'also' | 'range';

/** The choice after a page was pressed or reached. */
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

/** The choice of so many pages from a position on, as they lie after they were moved. */
export function chooseMoved(from: number, count: number): PageChoice {
  return { selected: new Set(Array.from({ length: count }, (_, i) => from + i)), at: from, anchor: from };
}

/** Where pages come to that are put before the page now at `before`, as the position of the first of them. */
export function positionBefore(selected: ReadonlySet<number>, before: number): number {
  let position = before;
  for (const at of selected) if (at < before) position--;
  return position;
}
