import { sql } from 'drizzle-orm';
import type { Database } from './database';

/**
 * The time of the database. Whatever is stored goes by it, because all machines share it; their own clocks may differ,
 * stop, or be changed.
 */
export const NOW = sql<Date>`now()`;

/** The time of the database, ms since 1970, UTC. */
export async function databaseTime(db: Database): Promise<number> {
  const { rows } = await db.execute<{ ms: number }>(sql`select (extract(epoch from now()) * 1000)::float8 as ms`);
  return rows[0]!.ms;
}

/** A clock that runs on from the time of the database without asking again. */
export async function databaseClock(db: Database): Promise<() => Date> {
  const origin = (await databaseTime(db)) - performance.now();
  return () => new Date(origin + performance.now());
}
