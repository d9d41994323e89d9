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

/** Moves the page at `from` to stand at `to`; positions outside are brought inside. */
export function movePage(order: readonly string[], from: number, to: number): string[] {
  if (from < 0 || from >= order.length) return [...order];
  const rest = [...order];
  const [moved] = rest.splice(from, 1);
  rest.splice(Math.max(0, Math.min(rest.length, to)), 0, moved!);
  return rest;
}

function partsOf(number: string): string[] {
  // Letters with accents sort beside their plain ones.
  const plain = number.normalize('NFD').replace(/\p{M}/gu, '').toUpperCase();
  return plain.match(/\d+|\D+/g) ?? [];
}
