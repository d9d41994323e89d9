import { customType } from 'drizzle-orm/pg-core';

/**
 * A value as JSON that PostgreSQL stores. It refuses NUL and lone surrogates, which texts of drawings may hold: both
 * become U+FFFD. JSON writes these as escapes and well-formed characters as they are.
 */
export function storableJson(value: unknown): string {
  return JSON.stringify(value).replace(/\\(u0000|ud[89a-f][0-9a-f]{2}|.)/g, (escape, what: string) =>
    what.length > 1 ? '\ufffd' : escape,
  );
}

/** A column of JSON. */
export function json<T>(name: string) {
  return customType<{ data: T; driverData: string }>({
    dataType: () => 'jsonb',
    toDriver: storableJson,
    fromDriver: (document) => document as unknown as T,
  })(name);
}
