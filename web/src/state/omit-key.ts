/** A record without one of its entries. */
export function omitKey<T>(record: Readonly<Record<string, T>> | undefined, key: string): Record<string, T> {
  return Object.fromEntries(Object.entries(record ?? {}).filter(([name]) => name !== key));
}
