/** What ships with the project and a project's own; an own one takes the place of the shipped one of its id. */
export function withOwn<T extends { id: string }>(shipped: readonly T[], own: readonly T[] = []): T[] {
  return [...shipped.filter(({ id }) => !own.some((one) => one.id === id)), ...own];
}

/** The one of an id among what ships with the project and a project's own; undefined where there is none. */
export function findWithOwn<T extends { id: string }>(
  shipped: readonly T[],
  own: readonly T[] | undefined,
  id: string | undefined,
): T | undefined {
  const isMeant = (one: T): boolean => one.id === id;
  return own?.find(isMeant) ?? shipped.find(isMeant);
}
