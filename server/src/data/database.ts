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
