import PgBoss from 'pg-boss';
import type pg from 'pg';

/** A sheet or a file of a run. */
export interface SheetJob {
  runId: string;
  position: number;
}

export type Work = ({ kind: 'sheet' | 'proof' } & SheetJob) | { kind: 'assemble'; runId: string };

export interface Job {
  id: string;
  work: Work;
  /** How often it was begun before. */
  retries: number;
}

/** The queue of publishing jobs, which lives in PostgreSQL. */
export interface Queue {
  addSheets(jobs: readonly SheetJob[], client: pg.ClientBase): Promise<void>;
  addAssembly(runId: string): Promise<void>;
  /** Has a file of a run read again. */
  addProof(file: SheetJob): Promise<void>;
  /** The most pressing job that nobody has. */
  fetch(): Promise<Job | undefined>;
  complete(id: string): Promise<void>;
  fail(id: string, reason: string): Promise<void>;
  close(): Promise<void>;
}

const NAME = 'publishing';
/**
 * What ends a run goes first, then sheets, and last what nobody waits for. Sheets of small runs go before those of large
 * ones: who needs one sheet does not wait for three hundred.
 */
const PRIORITY = { assemble: 3, smallRun: 2, sheet: 1, proof: 0 } as const;
const SMALL_RUN = 10;
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
  await boss.createQueue(NAME, { name: NAME, policy: 'standard', ...options });
  const add = async (work: Work, priority: number): Promise<void> => {
    await boss.send(NAME, work, { ...options, priority });
  };
  const active = new Set<string>();
  const beat = setInterval(() => {
    if (active.size === 0) return;
    const query = `update pgboss.job set started_on = now() where id = any($1::uuid[]) and state = 'active'`;
    pool.query(query, [[...active]]).catch(() => undefined);
  }, HEARTBEAT_MS);
  return {
    addSheets: async (jobs, client) => {
      const priority = jobs.length <= SMALL_RUN ? PRIORITY.smallRun : PRIORITY.sheet;
      const db = { executeSql: (text: string, values: unknown[]) => client.query(text, values) };
      const works = jobs.map((job): Work => ({ kind: 'sheet', ...job }));
      await boss.insert(
        works.map((data) => ({ name: NAME, data, priority, ...options })),
        { db },
      );
    },
    addAssembly: (runId) => add({ kind: 'assemble', runId }, PRIORITY.assemble),
    addProof: (file) => add({ kind: 'proof', ...file }, PRIORITY.proof),
    fetch: async () => {
      const [job] = await boss.fetch<Work>(NAME, { batchSize: 1, includeMetadata: true });
      if (!job) return undefined;
      active.add(job.id);
      return { id: job.id, work: job.data, retries: job.retryCount };
    },
    complete: async (id) => {
      active.delete(id);
      await boss.complete(NAME, id);
    },
    fail: async (id, reason) => {
      active.delete(id);
      await boss.fail(NAME, id, { reason });
    },
    close: async () => {
      clearInterval(beat);
      await boss.stop({ graceful: false, wait: true });
    },
  };
}
