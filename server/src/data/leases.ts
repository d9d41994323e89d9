import { eq, inArray, sql } from 'drizzle-orm';
import type pg from 'pg';
import type { Database } from './database';
import { jobAttempts, workers } from './schema';

/** How earlier attempts at a job ended. */
export interface AttemptHistory {
  crashes: number;
  failures: number;
}

/** A worker that is gone, or has no heartbeat. */
export interface LostWorker {
  id: string;
  /** True where its process is gone; false where it only stalls. */
  crashed: boolean;
}

/** Namespace of the advisory locks that workers hold as long as their connection lives. */
const WORKER_LOCKS = 7_261_702;
/** A connection may be replaced (the database restarted): only after this time is a worker without its lock a dead one. */
const CRASH_GRACE_SECONDS = 4;

/** Registers a worker and takes its lock on this connection; to be called again whenever the connection was replaced. */
export async function registerWorker(client: pg.ClientBase, id: string, host: string, pid: number): Promise<void> {
  await showAlive(client, id, host, pid);
  await client.query(`select pg_try_advisory_lock(${WORKER_LOCKS}, hashtext($1))`, [id]);
}

/** Records that a worker is alive; registers it again where others took it for lost meanwhile. */
export async function showAlive(client: pg.ClientBase, id: string, host: string, pid: number): Promise<void> {
  await client.query(
    `insert into workers (id, host, pid) values ($1, $2, $3) on conflict (id) do update set seen_at = now()`,
    [id, host, pid],
  );
}

export async function forgetWorker(client: pg.ClientBase, id: string): Promise<void> {
  await client.query('delete from workers where id = $1', [id]);
}

/**
 * Whether a worker is registered; it stays registered until the transaction ends. One that has only just started, or was
 * given up as lost, is not, and must not take jobs: if it died, nobody would notice.
 */
export async function isRegistered(db: Database, id: string): Promise<boolean> {
  return (await db.select({ id: workers.id }).from(workers).where(eq(workers.id, id)).for('key share')).length > 0;
}

/** Takes jobs for a worker under new attempts; returns how earlier attempts ended, by job. */
export async function takeAttempts(
  db: Database,
  workerId: string,
  taken: readonly { jobId: string; attempt: string }[],
): Promise<Map<string, AttemptHistory>> {
  const rows = await db
    .insert(jobAttempts)
    .values(taken.map((one) => ({ ...one, workerId })))
    .onConflictDoUpdate({
      target: jobAttempts.jobId,
      set: { workerId, attempt: sql`excluded.attempt` },
    })
    .returning();
  return new Map(rows.map(({ jobId, crashes, failures }) => [jobId, { crashes, failures }]));
}

/** Those of some attempts that still hold their job; locked to the end of the transaction. */
export async function heldAttempts(db: Database, attempts: readonly string[]): Promise<Set<string>> {
  if (attempts.length === 0) return new Set();
  const rows = await db
    .select({ attempt: jobAttempts.attempt })
    .from(jobAttempts)
    .where(inArray(jobAttempts.attempt, [...attempts]))
    .for('update');
  return new Set(rows.map(({ attempt }) => attempt!));
}

/** The attempts by which a worker holds jobs, with the jobs' ids. */
export async function attemptsOf(pool: pg.Pool, workerId: string): Promise<{ jobId: string; attempt: string }[]> {
  const { rows } = await pool.query<{ jobId: string; attempt: string }>(
    `select job_id as "jobId", attempt from job_attempts where worker_id = $1`,
    [workerId],
  );
  return rows;
}

/** Forgets jobs that are done. */
export async function endAttempts(db: Database, jobIds: readonly string[]): Promise<void> {
  await db.delete(jobAttempts).where(inArray(jobAttempts.jobId, [...jobIds]));
}

/** Lets jobs go, so that their attempts hold them no longer. */
export async function yieldAttempts(db: Database, jobIds: readonly string[], outcome?: 'failure'): Promise<void> {
  if (jobIds.length === 0) return;
  const failures = outcome === 'failure' ? { failures: sql`${jobAttempts.failures} + 1` } : {};
  await db
    .update(jobAttempts)
    .set({ workerId: null, attempt: null, ...failures })
    .where(inArray(jobAttempts.jobId, [...jobIds]));
}

/**
 * The workers other than `own` whose jobs others may take: those whose connection is gone, those without a heartbeat for
 * `leaseSeconds`, which is far longer than a healthy machine ever stalls, and those that ended while they held jobs.
 */
export async function lostWorkers(pool: pg.Pool, own: string, leaseSeconds: number): Promise<LostWorker[]> {
  const { rows } = await pool.query<{ id: string; silent: boolean; lock: number; settled: boolean }>(
    `select id, hashtext(id) as lock, seen_at < now() - make_interval(secs => $2) as silent,
            now() - pg_postmaster_start_time() > make_interval(secs => $3) as settled
     from workers where id <> $1 and seen_at < now() - make_interval(secs => $3)`,
    [own, leaseSeconds, CRASH_GRACE_SECONDS],
  );
  const lost: LostWorker[] = [];
  for (const { id, lock, silent, settled } of rows) {
    const crashed = settled && (await isLockFree(pool, lock));
    if (crashed || silent) lost.push({ id, crashed });
  }
  return [...lost, ...(await endedWorkers(pool))];
}

async function endedWorkers(pool: pg.Pool): Promise<LostWorker[]> {
  const { rows } = await pool.query<{ id: string }>(
    `select distinct worker_id as id from job_attempts
     where worker_id is not null and not exists (select from workers where id = worker_id)`,
  );
  return rows.map(({ id }) => ({ id, crashed: false }));
}

async function isLockFree(pool: pg.Pool, lock: number): Promise<boolean> {
  const { rows } = await pool.query<{ held: boolean }>(
    `select exists (select from pg_locks where locktype = 'advisory' and granted
       and classid = $1::int8::oid and objid = ($2::int8 & 4294967295)::oid) as held`,
    [WORKER_LOCKS, lock],
  );
  return !rows[0]!.held;
}

/** Removes a lost worker and lets its jobs go; returns their ids. None where another process did so already. */
export async function removeWorker(db: Database, { id, crashed }: LostWorker): Promise<string[]> {
  await db.delete(workers).where(eq(workers.id, id));
  const crashes = crashed ? { crashes: sql`${jobAttempts.crashes} + 1` } : {};
  const rows = await db
    .update(jobAttempts)
    .set({ workerId: null, attempt: null, ...crashes })
    .where(eq(jobAttempts.workerId, id))
    .returning({ jobId: jobAttempts.jobId });
  return rows.map(({ jobId }) => jobId);
}
