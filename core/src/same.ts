/** True where two values come to the same in JSON: the order of keys and keys without a value are of no account. */
export function sameValue(a: unknown, b: unknown): boolean {
  if (a === b || ((a ?? null) === null && (b ?? null) === null)) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  if (Array.isArray(a) || Array.isArray(b)) {
    return (
      Array.isArray(a) && Array.isArray(b) && a.length === b.length && a.every((value, at) => sameValue(value, b[at]))
    );
  }
  const [one, other] = [a as Record<string, unknown>, b as Record<string, unknown>];
  return (
    Object.keys(one).every((key) => sameValue(one[key], other[key])) &&
    Object.keys(other).every((key) => key in one || sameValue(undefined, other[key]))
  );
}
