/** An id made of a name that none of some others has. */
export function freeId(name: string, taken: readonly { id: string }[]): string {
  const base =
    name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '') || 'new';
  const ids = new Set(taken.map(({ id }) => id));
  return [base, ...taken.map((_, i) => `${base}-${i + 2}`)].find((id) => !ids.has(id))!;
}
