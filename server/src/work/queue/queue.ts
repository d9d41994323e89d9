import PgBoss from 'pg-boss';
import type { Connection, Transaction } from '../../data/database';
import { notify } from '../../data/notifications';
import type { QueueTask, RunPosition, TellQueueTask } from '../../model/queue-task';
import { executorOf, queueOf, QUEUES } from './pg-boss';
import { workerQueue, type WorkerQueue } from './worker-queue';

/** The queues of jobs, which live in PostgreSQL (pg-boss). */
export interface Queue {
  /** Adds jobs for sheets of a run, in the transaction that writes the run. */
  addSheets(tx: Transaction, sheets: readonly RunPosition[]): Promise<void>;
  /** Has the files of a run assembled, once the transaction commits. */
  addAssembly(tx: Transaction, runId: string): Promise<void>;
  /** Has a delivery sent, once the transaction commits and the given number of seconds has passed. */
  addDelivery(tx: Transaction, delivery: { id: string; renewals: number }, seconds?: number): Promise<void>;
  /** Has a call of a webhook made, once the transaction commits and the given number of seconds has passed. */
  addCall(tx: Transaction, callId: string, seconds?: number): Promise<void>;
  /** Has the result of a schedule emailed, once the transaction commits and the given number of seconds has passed. */
  addTelling(tx: Transaction, telling: Omit<TellQueueTask, 'kind'>, seconds?: number): Promise<void>;
  /** Has files of a run read again, once the transaction commits. */
  addProofs(tx: Transaction, files: readonly RunPosition[]): Promise<void>;
  /** The queue as one worker takes from it; `workerId` is the one under which its heartbeat runs. */
  forWorker(workerId: string, leaseSeconds: number): WorkerQueue;
  close(): Promise<void>;
}

/**
 * What ends a run goes first, then sheets, and last what nobody waits for. Sheets of small runs go before those of large
 * ones: who needs one sheet does not wait for three hundred.
 */
const PRIORITY = { assemble: 3, smallRun: 2, sheet: 1, proof: 0 } as const;
const SMALL_RUN_SHEETS = 10;
/**
 * pg-boss itself never gives a job to another worker in this time: whether a worker still works is decided by its lease
 * (`worker-queue.ts`), and how often a job is retried by how its attempts ended.
 */
const EXPIRE_SECONDS = 23 * 3600;
const UNLIMITED_RETRIES = 1_000_000;
const MAX_CONNECTIONS = 2;

export async function openQueue(url: string, { pool }: Connection): Promise<Queue> {
  const boss = new PgBoss({ connectionString: url, max: MAX_CONNECTIONS });
  boss.on('error', () => undefined);
  await boss.start();
  const options = { expireInSeconds: EXPIRE_SECONDS, retryLimit: UNLIMITED_RETRIES, retryDelay: 0 };
  for (const name of QUEUES) await boss.createQueue(name, { name, policy: 'standard', ...options });
  const add = async (
    tx: Transaction,
    tasks: readonly QueueTask[],
    priority: number,
    startAfter = '0 seconds',
  ): Promise<void> => {
    if (tasks.length === 0) return;
    const jobs = tasks.map((data) => ({ name: queueOf(data), data, priority, startAfter, ...options }));
    await boss.insert(jobs, { db: executorOf(tx) });
    await notify(tx.db, 'jobs_added');
  };
  return {
    addSheets: (tx, sheets) =>
      add(
        tx,
        sheets.map((sheet) => ({ kind: 'sheet', ...sheet })),
        sheets.length <= SMALL_RUN_SHEETS ? PRIORITY.smallRun : PRIORITY.sheet,
      ),
    addAssembly: (tx, runId) => add(tx, [{ kind: 'assemble', runId }], PRIORITY.assemble),
    addDelivery: (tx, { id, renewals }, seconds = 0) =>
      add(tx, [{ kind: 'deliver', deliveryId: id, renewals }], 0, `${seconds} seconds`),
    addCall: (tx, callId, seconds = 0) => add(tx, [{ kind: 'call', callId }], 0, `${seconds} seconds`),
    addTelling: (tx, telling, seconds = 0) => add(tx, [{ kind: 'tell', ...telling }], 0, `${seconds} seconds`),
    addProofs: (tx, files) =>
      add(
        tx,
        files.map((file) => ({ kind: 'proof', ...file })),
        PRIORITY.proof,
      ),
    forWorker: (workerId, leaseSeconds) => workerQueue({ boss, pool, workerId, leaseSeconds }),
    close: () => boss.stop({ graceful: false, wait: true }),
  };
}
