/** Compares sheet numbers as people do: A-2 before A-10, letters case-blind. */
export function compareNumbers(a: string, b: string): number {
  const [left, right] = [partsOf(a), partsOf(b)];
  for (let i = 0; i < Math.max(left.length, right.length); i++) {
    const [p, q] = [left[i], right[i]];
    if (p === undefined || q === undefined) return p === undefined ? -1 : 1;
    const bothNumbers = /^\d/.test(p) && /^\d/.test(q);
    const difference = bothNumbers ? Number(p) - Number(q) : p < q ? -1 : p > q ? 1 : 0;
    if (difference !== 0) return difference;
  }
  return 0;
}

/**
 * Moves the pages at `positions` together, in their order, so that the first of them comes to `to`. A target outside the
 * order is brought inside; positions outside it move nothing.
 */
export function movePages(order: readonly string[], positions: ReadonlySet<number>, to: number): string[] {
  const moved = order.filter((_, at) => positions.has(at));
  const rest = order.filter((_, at) => !positions.has(at));
  rest.splice(Math.max(0, Math.min(rest.length, to)), 0, ...moved);
  return rest;
}

/** How one order of pages differs from another. */
export interface OrderDifference {
  onlyHere: string[];
  onlyThere: string[];
  /** Pages of both that come after other pages of both than there. */
  moved: string[];
}

/** Compares two orders; a page has moved where the page of both before it is another one. */
export function compareOrders(here: readonly string[], there: readonly string[]): OrderDifference {
  const [inHere, inThere] = [new Set(here), new Set(there)];
  const before = (order: readonly string[]): Map<string, string> =>
    new Map(order.map((id, i) => [id, order[i - 1] ?? '']));
  const both = (order: readonly string[]): string[] => order.filter((id) => inHere.has(id) && inThere.has(id));
  const [mine, theirs] = [before(both(here)), before(both(there))];
  return {
    onlyHere: here.filter((id) => !inThere.has(id)),
    onlyThere: there.filter((id) => !inHere.has(id)),
    moved: both(here).filter((id) => mine.get(id) !== theirs.get(id)),
  };
}

/** Sheets in the order of their groups, in each by number; other pages stay before the sheet that they were before. */
export function sortedOrder(
  order: readonly string[],
  sheets: readonly { id: string; number: string; group: string }[],
  groups: readonly { id: string }[],
): string[] {
  const byId = new Map(sheets.map((sheet) => [sheet.id, sheet]));
  const rank = (group: string): number => {
    const at = groups.findIndex(({ id }) => id === group);
    return at < 0 ? groups.length : at;
  };
  const carried = new Map<string, string[]>();
  let waiting: string[] = [];
  const real: string[] = [];
  for (const id of order) {
    if (!byId.has(id)) waiting.push(id);
    else {
      carried.set(id, waiting);
      waiting = [];
      real.push(id);
    }
  }
  const sorted = real.sort((a, b) => {
    const [one, two] = [byId.get(a)!, byId.get(b)!];
    return rank(one.group) - rank(two.group) || compareNumbers(one.number, two.number);
  });
  return [...sorted.flatMap((id) => [...carried.get(id)!, id]), ...waiting];
}

function partsOf(number: string): string[] {
  // Letters with accents sort next to their plain ones.
  const plain = number.normalize('NFD').replace(/\p{M}/gu, '').toUpperCase();
  return plain.match(/\d+|\D+/g) ?? [];
}
