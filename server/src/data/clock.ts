import { sql } from 'drizzle-orm';
import type { Database } from './database';

/**
 * The time of the database. What is kept goes by it: all machines agree on it, while their own clocks may differ, stand
 * still or be set.
 */
export const NOW = sql<Date>`now()`;

/** The time of the database, ms since 1970, UTC. */
export async function databaseTime(db: Database): Promise<number> {
  const { rows } = await db.execute<{ ms: number }>(sql`select (extract(epoch from now()) * 1000)::float8 as ms`);
  return rows[0]!.ms;
}

/** A clock that goes by the time of the database from now on, without asking it again. */
export async function databaseClock(db: Database): Promise<() => Date> {
  const origin = (await databaseTime(db)) - performance.now();
  return () => new Date(origin + performance.now());
}
