import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import pg from 'pg';
import * as accessSchema from './access-schema';
import * as deliverySchema from './delivery-schema';
import * as inboxSchema from './inbox-schema';
import * as projectSchema from './schema';

const schema = { ...projectSchema, ...accessSchema, ...deliverySchema, ...inboxSchema };

export type Database = NodePgDatabase<typeof schema>;

export interface Connection {
  db: Database;
  pool: pg.Pool;
  close(): Promise<void>;
}

/** One transaction, for Drizzle and for libraries that take a plain client. */
export interface Transaction {
  db: Database;
  client: pg.ClientBase;
}

/** Key of the advisory lock under which migrations run, so that two starting processes do not race. */
const MIGRATION_LOCK = 7_261_701;
const MAX_CONNECTIONS = 10;
const RETRY_MS = 250;
const IDLE_IN_TRANSACTION_MS = 10_000;
/** Statements of the server take milliseconds, a large one seconds. */
const STATEMENT_MS = 60_000;
const CONNECT_MS = 20_000;

/** How long a statement may take, ms. */
export interface DatabaseLimits {
  statementMs: number;
}

export function connect(url: string, limits: DatabaseLimits = { statementMs: STATEMENT_MS }): Connection {
  const pool = new pg.Pool({
    connectionString: url,
    max: MAX_CONNECTIONS,
    // A process that stalls in the middle of a transaction must not keep its rows locked for the others.
    idle_in_transaction_session_timeout: IDLE_IN_TRANSACTION_MS,
    statement_timeout: limits.statementMs,
    connectionTimeoutMillis: CONNECT_MS,
    // A machine that vanished is noticed.
    keepAlive: true,
  });
  // A connection that breaks while idle (the database restarts) is replaced at the next query.
  pool.on('error', () => undefined);
  return { db: drizzle(pool, { schema }), pool, close: () => pool.end() };
}

/**
 * Resolves once the database answers. While it is away, `onWait` is called once and it is asked again for at most
 * `timeoutMs`; then, and on any other error (a wrong password), rejects with that error.
 */
export async function waitForDatabase({ pool }: Connection, timeoutMs: number, onWait: () => void): Promise<void> {
  let waiting = false;
  for (const end = Date.now() + timeoutMs; ;) {
    try {
      await pool.query('select 1');
      return;
    } catch (error) {
      if (!isDatabaseAway(error) || Date.now() > end) throw error;
      if (!waiting) onWait();
      waiting = true;
      await new Promise((resolve) => setTimeout(resolve, RETRY_MS));
    }
  }
}

/** Runs queries in one transaction: all of them take effect or, when `run` rejects, none. */
export function inTransaction<T>(pool: pg.Pool, run: (tx: Transaction) => Promise<T>): Promise<T> {
  return onOneConnection(pool, async (client) => {
    try {
      await client.query('begin');
      const result = await run({ db: drizzle(client, { schema }), client });
      await client.query('commit');
      return result;
    } catch (error) {
      await client.query('rollback').catch(() => undefined);
      throw error;
    }
  });
}

/**
 * Brings the database's tables up to date with `folder`'s migrations. Rejects with a sentence where the database was
 * already changed by a newer Folvex, whose tables this one does not know.
 */
export function migrateDatabase({ pool }: Connection, folder: string): Promise<void> {
  return onOneConnection(pool, async (client) => {
    try {
      // Changing large tables takes as long as it takes, and so does waiting for another process that does it.
      await client.query('set statement_timeout = 0');
      await client.query('select pg_advisory_lock($1)', [MIGRATION_LOCK]);
      await refuseNewer(client, folder);
      await migrate(drizzle(client, { schema }), { migrationsFolder: folder });
    } finally {
      await client.query('select pg_advisory_unlock($1)', [MIGRATION_LOCK]).catch(() => undefined);
      await client.query('reset statement_timeout').catch(() => undefined);
    }
  });
}

/** Runs queries on one connection, which stays theirs until they are done. */
export async function onOneConnection<T>(pool: pg.Pool, run: (client: pg.PoolClient) => Promise<T>): Promise<T> {
  const client = await pool.connect();
  let broken: Error | undefined;
  // A connection that breaks now shows in the query that fails; without a listener it would end the process.
  const onError = (error: Error): void => void (broken = error);
  client.on('error', onError);
  try {
    return await run(client);
  } finally {
    client.off('error', onError);
    client.release(broken);
  }
}

async function refuseNewer(client: pg.ClientBase, folder: string): Promise<void> {
  const journal = JSON.parse(readFileSync(join(folder, 'meta', '_journal.json'), 'utf8')) as {
    entries: { when: number }[];
  };
  const { rows } = await client.query<{ exists: boolean }>(
    `select to_regclass('drizzle.__drizzle_migrations') is not null as exists`,
  );
  if (!rows[0]!.exists) return;
  const latest = await client.query<{ latest: string | null }>(
    'select max(created_at) as latest from drizzle.__drizzle_migrations',
  );
  const known = Math.max(...journal.entries.map(({ when }) => when));
  if (Number(latest.rows[0]!.latest ?? 0) <= known) return;
  throw new Error('this database was last opened by a newer Folvex; start that version, or an even newer one.');
}

/** Class 57 of PostgreSQL's codes that it gives while it starts or ends (its manual, appendix A), and no connection. */
const AWAY: ReadonlySet<unknown> = new Set(['57P01', '57P02', '57P03', 'ECONNREFUSED', 'ECONNRESET']);

/** Whether an error only says that the database is away, such as while it is started again. */
export function isDatabaseAway(error: unknown): boolean {
  if (typeof error !== 'object' || error === null) return false;
  const { code, message = '', cause } = error as { code?: unknown; message?: string; cause?: unknown };
  if (AWAY.has(code) || message.startsWith('Connection terminated')) return true;
  return isDatabaseAway(cause);
}

/** True for an error that says a statement took too long and was ended (PostgreSQL, error codes: query_canceled). */
export function isStatementTimeout(error: unknown): boolean {
  if (typeof error !== 'object' || error === null) return false;
  const { code, cause } = error as { code?: unknown; cause?: unknown };
  return code === '57014' || isStatementTimeout(cause);
}
