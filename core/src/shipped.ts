/** What ships with the project and a project's own; an own one takes the place of the shipped one of its id. */
export function withOwn<T extends { id: string }>(shipped: readonly T[], own: readonly T[] = []): T[] {
  return [...shipped.filter(({ id }) => !own.some((one) => one.id === id)), ...own];
}
