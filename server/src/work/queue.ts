import PgBoss from 'pg-boss';
import type pg from 'pg';

export type QueueName = 'sheet' | 'assemble';

export interface SheetJob {
  runId: string;
  position: number;
}

export interface Job<T> {
  id: string;
  data: T;
  /** How often it was begun before. */
  retries: number;
}

/** The queue of publishing jobs, which lives in PostgreSQL. */
export interface Queue {
  addSheets(jobs: readonly SheetJob[], client: pg.ClientBase): Promise<void>;
  addAssembly(runId: string): Promise<void>;
  fetch<T extends object>(name: QueueName): Promise<Job<T> | undefined>;
  complete(name: QueueName, id: string): Promise<void>;
  fail(name: QueueName, id: string, reason: string): Promise<void>;
  close(): Promise<void>;
}

/** A job whose worker shows no sign of life for so long is given to another. */
const EXPIRES_SECONDS = 2;
const HEARTBEAT_MS = 500;
const MOST_RETRIES = 8;

/**
 * Opens the queue. pg-boss has no sign of life for running jobs, so each fetched job's start is set to now twice a
 * second while it runs; a job whose worker died is then taken up by another after a few seconds, and a long job of a
 * living worker is not run twice.
 */
export async function openQueue(url: string, pool: pg.Pool): Promise<Queue> {
  const boss = new PgBoss({
    connectionString: url,
    max: 4,
    maintenanceIntervalSeconds: 1,
    monitorStateIntervalSeconds: 60,
  });
  boss.on('error', () => undefined);
  await boss.start();
  const options = { expireInSeconds: EXPIRES_SECONDS, retryLimit: MOST_RETRIES, retryDelay: 0 };
  for (const name of ['sheet', 'assemble'] as const)
    await boss.createQueue(name, { name, policy: 'standard', ...options });
  const active = new Set<string>();
  const beat = setInterval(() => {
    if (active.size === 0) return;
    const query = `update pgboss.job set started_on = now() where id = any($1::uuid[]) and state = 'active'`;
    pool.query(query, [[...active]]).catch(() => undefined);
  }, HEARTBEAT_MS);
  return {
    addSheets: async (jobs, client) => {
      const db = { executeSql: (text: string, values: unknown[]) => client.query(text, values) };
      await boss.insert(
        jobs.map((data) => ({ name: 'sheet', data, ...options })),
        { db },
      );
    },
    addAssembly: async (runId) => {
      await boss.send('assemble', { runId }, options);
    },
    fetch: async <T extends object>(name: QueueName) => {
      const [job] = await boss.fetch<T>(name, { batchSize: 1, includeMetadata: true });
      if (!job) return undefined;
      active.add(job.id);
      return { id: job.id, data: job.data, retries: job.retryCount };
    },
    complete: async (name, id) => {
      active.delete(id);
      await boss.complete(name, id);
    },
    fail: async (name, id, reason) => {
      active.delete(id);
      await boss.fail(name, id, { reason });
    },
    close: async () => {
      clearInterval(beat);
      await boss.stop({ graceful: false, wait: true });
    },
  };
}
