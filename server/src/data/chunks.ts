/** Rows inserted with one statement: PostgreSQL takes 65 535 parameters, and none of our rows has more than fifty. */
const ROWS_AT_ONCE = 1000;

/** Hands rows over in pieces that one statement takes, one after the other; not at all where there are none. */
export async function inChunks<T>(rows: readonly T[], insert: (some: T[]) => Promise<unknown>): Promise<void> {
  for (let from = 0; from < rows.length; from += ROWS_AT_ONCE) await insert(rows.slice(from, from + ROWS_AT_ONCE));
}
