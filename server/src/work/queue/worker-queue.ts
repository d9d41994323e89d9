import { randomUUID } from 'node:crypto';
import type PgBoss from 'pg-boss';
import type pg from 'pg';
import { inTransaction, type Transaction } from '../../data/database';
import {
  attemptsOf,
  endAttempts,
  heldAttempts,
  isRegistered,
  lostWorkers,
  removeWorker,
  takeAttempts,
  yieldAttempts,
} from '../../data/leases';
import type { QueueTask } from '../../model/queue-task';
import { completeJobs, executorOf, failJobs, type QueueName } from './pg-boss';

/** A job that this worker holds. */
export interface LeasedJob {
  id: string;
  task: QueueTask;
  /** Identifies this try at the job: a later try by another worker ends it. */
  attempt: string;
  /** How often a worker crashed while it held the job, and how often a try failed with an error. */
  crashes: number;
  failures: number;
}

/**
 * The queue as one worker sees it. A worker holds its jobs under a lease, which its heartbeat keeps alive. Whatever a
 * worker writes at the end of a job goes through `finish` or `whileHeld`: an attempt that has lost its lease to another
 * worker changes nothing, so a step done twice leaves what once would have.
 */
export interface WorkerQueue {
  /**
   * The most pressing jobs of a queue that nobody holds, most pressing first; none as long as the worker has no heartbeat.
   * Without a queue: of the publishing one.
   */
  fetch(limit: number, queue?: QueueName): Promise<LeasedJob[]>;
  /** In one transaction: writes for those of the jobs that are still held, and completes them. */
  finish(
    jobs: readonly LeasedJob[],
    write: (tx: Transaction, held: readonly LeasedJob[]) => Promise<void>,
  ): Promise<void>;
  /** Writes in one transaction if the job is still held; false where it is not. */
  whileHeld(job: LeasedJob, write: (tx: Transaction) => Promise<void>): Promise<boolean>;
  /** Gives jobs back to be tried again; `counted` where the try itself failed. */
  giveBack(jobs: readonly LeasedJob[], reason: string, counted: boolean): Promise<void>;
  /** Gives the jobs of lost workers back to the queue, and those that this worker holds unawares; returns how many. */
  reclaim(): Promise<number>;
}

interface WorkerQueueParts {
  boss: PgBoss;
  pool: pg.Pool;
  workerId: string;
  /** A worker without a heartbeat for this long has lost its jobs. */
  leaseSeconds: number;
}

export function workerQueue({ boss, pool, workerId, leaseSeconds }: WorkerQueueParts): WorkerQueue {
  /** The attempts that this worker knows it holds, or is just making. */
  const known = new Set<string>();
  const forget = (jobs: readonly LeasedJob[]): void => jobs.forEach(({ attempt }) => known.delete(attempt));
  /** Gives back what the database says this worker holds but it never learned of: the connection broke in a commit. */
  const releaseUnknown = async (): Promise<number> => {
    const unknown = (await attemptsOf(pool, workerId)).filter(({ attempt }) => !known.has(attempt));
    if (unknown.length === 0) return 0;
    return inTransaction(pool, async (tx) => {
      // Some may have ended since they were read.
      const held = await heldAttempts(
        tx.db,
        unknown.map(({ attempt }) => attempt),
      );
      const ids = unknown.flatMap(({ jobId, attempt }) => (held.has(attempt) ? [jobId] : []));
      await yieldAttempts(tx.db, ids);
      await failJobs(boss, tx, ids, 'the connection broke while they were taken');
      return ids.length;
    });
  };
  const take = (limit: number, queue: QueueName, attempted: string[]): Promise<LeasedJob[]> =>
    inTransaction(pool, async (tx) => {
      if (!(await isRegistered(tx.db, workerId))) return [];
      const options = { batchSize: limit, includeMetadata: true as const, db: executorOf(tx) };
      const rows = await boss.fetch<QueueTask>(queue, options);
      if (rows.length === 0) return [];
      const taken = rows.map(({ id }) => ({ jobId: id, attempt: randomUUID() }));
      for (const { attempt } of taken) {
        attempted.push(attempt);
        known.add(attempt);
      }
      const history = await takeAttempts(tx.db, workerId, taken);
      const attempts = new Map(taken.map(({ jobId, attempt }) => [jobId, attempt]));
      return rows
        .sort((a, b) => b.priority - a.priority || a.createdOn.getTime() - b.createdOn.getTime())
        .map(({ id, data }) => ({ id, task: data, attempt: attempts.get(id)!, ...history.get(id)! }));
    });
  return {
    fetch: async (limit, queue = 'publishing') => {
      const attempted: string[] = [];
      try {
        return await take(limit, queue, attempted);
      } catch (error) {
        attempted.forEach((attempt) => known.delete(attempt));
        throw error;
      }
    },
    finish: async (jobs, write) => {
      await inTransaction(pool, async (tx) => {
        const held = await heldOf(tx, jobs);
        if (held.length === 0) return;
        await write(tx, held);
        await endAttempts(
          tx.db,
          held.map(({ id }) => id),
        );
        await completeJobs(boss, tx, held);
      });
      forget(jobs);
    },
    whileHeld: (job, write) =>
      inTransaction(pool, async (tx) => {
        if ((await heldOf(tx, [job])).length === 0) return false;
        await write(tx);
        return true;
      }),
    giveBack: async (jobs, reason, counted) => {
      await inTransaction(pool, async (tx) => {
        const ids = (await heldOf(tx, jobs)).map(({ id }) => id);
        await yieldAttempts(tx.db, ids, counted ? 'failure' : undefined);
        await failJobs(boss, tx, ids, reason);
      });
      forget(jobs);
    },
    reclaim: async () => {
      let count = await releaseUnknown();
      for (const lost of await lostWorkers(pool, workerId, leaseSeconds)) {
        count += await inTransaction(pool, async (tx) => {
          const ids = await removeWorker(tx.db, lost);
          await failJobs(boss, tx, ids, lost.crashed ? 'its worker crashed' : 'its worker had no heartbeat');
          return ids.length;
        });
      }
      return count;
    },
  };
}

/** Of some jobs those that are still held by the attempts that took them; they stay so to the end of the transaction. */
async function heldOf(tx: Transaction, jobs: readonly LeasedJob[]): Promise<LeasedJob[]> {
  const held = await heldAttempts(
    tx.db,
    jobs.map(({ attempt }) => attempt),
  );
  return jobs.filter(({ attempt }) => held.has(attempt));
}
