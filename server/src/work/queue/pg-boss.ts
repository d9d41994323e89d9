import type PgBoss from 'pg-boss';
import type { Transaction } from '../../data/database';

export const QUEUE_NAME = 'publishing';

/** A transaction as pg-boss takes it. */
export function executorOf({ client }: Transaction): PgBoss.Db {
  return { executeSql: (text, values) => client.query(text, values) };
}

type EndJobs = (name: string, ids: readonly string[], data: object, options: PgBoss.ConnectionOptions) => Promise<void>;

/** pg-boss takes lists of ids together with data and options, which its types do not say. */
type Ender = Readonly<Record<'complete' | 'fail', EndJobs>>;

/** Completes jobs in a transaction. */
export async function completeJobs(boss: PgBoss, tx: Transaction, ids: readonly string[]): Promise<void> {
  if (ids.length > 0) await (boss as unknown as Ender).complete(QUEUE_NAME, ids, {}, { db: executorOf(tx) });
}

/** Gives jobs back to the queue in a transaction, to be tried again. */
export async function failJobs(boss: PgBoss, tx: Transaction, ids: readonly string[], reason: string): Promise<void> {
  if (ids.length > 0) await (boss as unknown as Ender).fail(QUEUE_NAME, ids, { reason }, { db: executorOf(tx) });
}
