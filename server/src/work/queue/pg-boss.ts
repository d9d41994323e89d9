import type PgBoss from 'pg-boss';
import type { Transaction } from '../../data/database';
import type { QueueTask } from '../../model/queue-task';

/** Work for the threads of workers, and work that mostly waits for other machines: neither holds up the other. */
export const QUEUES = ['publishing', 'sending'] as const;
export type QueueName = (typeof QUEUES)[number];

const SENDING: readonly QueueTask['kind'][] = ['deliver', 'call', 'tell'];

/** Where jobs of a task are queued. */
export function queueOf({ kind }: QueueTask): QueueName {
  return SENDING.includes(kind) ? 'sending' : 'publishing';
}

/** A transaction as pg-boss takes it. */
export function executorOf({ client }: Transaction): PgBoss.Db {
  return { executeSql: (text, values) => client.query(text, values) };
}

type EndJobs = (name: string, ids: readonly string[], data: object, options: PgBoss.ConnectionOptions) => Promise<void>;

/** pg-boss takes lists of ids together with data and options, which its types do not say. */
type Ender = Readonly<Record<'complete' | 'fail', EndJobs>>;

/** Completes jobs in a transaction. */
export async function completeJobs(
  boss: PgBoss,
  tx: Transaction,
  jobs: readonly { id: string; task: QueueTask }[],
): Promise<void> {
  for (const queue of QUEUES) {
    const ids = jobs.filter(({ task }) => queueOf(task) === queue).map(({ id }) => id);
    if (ids.length > 0) await (boss as unknown as Ender).complete(queue, ids, {}, { db: executorOf(tx) });
  }
}

/** Gives jobs back to their queues in a transaction, to be tried again. */
export async function failJobs(boss: PgBoss, tx: Transaction, ids: readonly string[], reason: string): Promise<void> {
  if (ids.length === 0) return;
  for (const queue of QUEUES) await (boss as unknown as Ender).fail(queue, ids, { reason }, { db: executorOf(tx) });
}
