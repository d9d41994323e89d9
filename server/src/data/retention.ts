import { and, eq, inArray, isNotNull, lt, notInArray, or, sql, type SQL } from 'drizzle-orm';
import type pg from 'pg';
import type { Database } from './database';
import {
  artifacts,
  drawings,
  earlierVersions,
  edits,
  groups,
  invitations,
  issues,
  members,
  packages,
  presence,
  projects,
  runFiles,
  runs,
  runSheets,
  sheets,
  transferServers,
} from './schema';

/** How long things are kept, days. */
export interface Retention {
  /** What was removed and could be restored until then. */
  removedDays: number;
  /** Runs that were not issued; undefined: for ever. */
  runDays: number | undefined;
  /** What was made once and is not used: it is made again when it is. */
  artifactDays: number;
}

/** What was given up, by kind. */
export interface GivenUp {
  projects: number;
  drawings: number;
  runs: number;
  artifacts: number;
}

const before = (days: number): SQL => sql`now() - make_interval(days => ${days})`;
/** Key of the advisory lock under which content is swept, and under which it is backed up. */
const SWEEP_LOCK = 7_261_703;

/** Waits until nobody else sweeps or backs up; until the connection ends nobody else does then. */
export async function lockSweep(client: pg.ClientBase): Promise<void> {
  await client.query('set statement_timeout = 0');
  await client.query('select pg_advisory_lock($1)', [SWEEP_LOCK]);
}

/** The same without waiting; false where somebody else does. */
export async function tryLockSweep(client: pg.ClientBase): Promise<boolean> {
  await client.query('set statement_timeout = 0');
  const { rows } = await client.query<{ locked: boolean }>('select pg_try_advisory_lock($1) as locked', [SWEEP_LOCK]);
  return rows[0]!.locked;
}

export async function unlockSweep(client: pg.ClientBase): Promise<void> {
  await client.query('select pg_advisory_unlock($1)', [SWEEP_LOCK]);
  await client.query('reset statement_timeout');
}

/** Gives up rows that are past their time, each kind as a whole or not at all. Issued runs, and projects with any, stay. */
export async function giveUpOld(db: Database, { removedDays, runDays, artifactDays }: Retention): Promise<GivenUp> {
  const issued = db.select({ id: issues.runId }).from(issues);
  const counts = await db.transaction(async (tx) => {
    const oldRuns = await tx
      .select({ id: runs.id })
      .from(runs)
      .where(
        and(
          notInArray(runs.state, ['waiting', 'running']),
          notInArray(runs.id, issued),
          or(
            lt(runs.removedAt, before(removedDays)),
            runDays === undefined ? undefined : lt(runs.createdAt, before(runDays)),
          ),
        ),
      );
    const oldProjects = await tx
      .select({ id: projects.id })
      .from(projects)
      .where(
        and(
          lt(projects.removedAt, before(removedDays)),
          notInArray(projects.id, db.select({ id: issues.projectId }).from(issues)),
        ),
      );
    const gone = oldProjects.map(({ id }) => id);
    const ofProjects =
      gone.length > 0 ? await tx.select({ id: runs.id }).from(runs).where(inArray(runs.projectId, gone)) : [];
    const runIds = [...new Set([...oldRuns, ...ofProjects].map(({ id }) => id))];
    if (runIds.length > 0) {
      await tx.delete(runFiles).where(inArray(runFiles.runId, runIds));
      await tx.delete(runSheets).where(inArray(runSheets.runId, runIds));
      await tx.delete(runs).where(inArray(runs.id, runIds));
    }
    // Undone edits may have brought back a view of a drawing after it was removed.
    const shown = sql`exists (select 1 from ${sheets} where ${sheets.projectId} = ${drawings.projectId} and position(${drawings.id} in ${sheets.sheet}::text) > 0)`;
    const oldDrawings = await tx
      .select({ id: drawings.id })
      .from(drawings)
      .where(
        or(
          and(isNotNull(drawings.removedAt), lt(drawings.removedAt, before(removedDays)), sql`not ${shown}`),
          gone.length > 0 ? inArray(drawings.projectId, gone) : undefined,
        ),
      );
    const drawingIds = oldDrawings.map(({ id }) => id);
    if (drawingIds.length > 0) {
      await tx.delete(earlierVersions).where(inArray(earlierVersions.drawingId, drawingIds));
      await tx.delete(drawings).where(inArray(drawings.id, drawingIds));
    }
    for (const table of [edits, sheets, packages, groups, members, presence, invitations, transferServers])
      if (gone.length > 0) await tx.delete(table).where(inArray(table.projectId, gone));
    if (gone.length > 0) await tx.delete(projects).where(inArray(projects.id, gone));
    return { projects: gone.length, drawings: drawingIds.length, runs: runIds.length };
  });
  const unused = await db
    .delete(artifacts)
    .where(lt(artifacts.usedAt, before(artifactDays)))
    .returning({ key: artifacts.key });
  return { ...counts, artifacts: unused.length };
}

/** Notes that artifacts are used; once a day is enough. */
export async function noteUse(db: Database, kind: typeof artifacts.$inferSelect.kind, keys: string[]): Promise<void> {
  if (keys.length === 0) return;
  const stale = and(eq(artifacts.kind, kind), inArray(artifacts.key, keys), lt(artifacts.usedAt, before(1)));
  await db
    .update(artifacts)
    .set({ usedAt: sql`now()` })
    .where(stale);
}
