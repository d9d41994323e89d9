import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import pg from 'pg';
import * as schema from './schema';

export type Database = NodePgDatabase<typeof schema>;

export interface Connection {
  db: Database;
  pool: pg.Pool;
  close(): Promise<void>;
}

/** Key of the advisory lock under which migrations run, so that two starting processes do not race. */
const MIGRATION_LOCK = 7_261_701;

export function connect(url: string): Connection {
  const pool = new pg.Pool({ connectionString: url, max: 10 });
  // A connection that breaks while idle (the database restarts) is replaced at the next query.
  pool.on('error', () => undefined);
  return { db: drizzle(pool, { schema }), pool, close: () => pool.end() };
}

export async function migrateDatabase({ pool }: Connection, folder: string): Promise<void> {
  const client = await pool.connect();
  try {
    await client.query('select pg_advisory_lock($1)', [MIGRATION_LOCK]);
    await migrate(drizzle(client, { schema }), { migrationsFolder: folder });
  } finally {
    await client.query('select pg_advisory_unlock($1)', [MIGRATION_LOCK]);
    client.release();
  }
}

/** Class 57 of PostgreSQL's codes that it gives while it starts or ends (its manual, appendix A), and no connection. */
const AWAY: ReadonlySet<unknown> = new Set(['57P01', '57P02', '57P03', 'ECONNREFUSED', 'ECONNRESET']);

/** Whether an error only says that the database is away, such as while it is started again. */
export function databaseAway(error: unknown): boolean {
  if (typeof error !== 'object' || error === null) return false;
  const { code, message = '', cause } = error as { code?: unknown; message?: string; cause?: unknown };
  if (AWAY.has(code) || message.startsWith('Connection terminated')) return true;
  return databaseAway(cause);
}
