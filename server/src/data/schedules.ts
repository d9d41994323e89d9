import { and, desc, eq, isNotNull, isNull, sql } from 'drizzle-orm';
import type pg from 'pg';
import type { ScheduleOutcome } from '@folvex/contract';
import type { SheetPackage } from '@folvex/core';
import type { Database } from './database';
import { drawings, edits, packages, projects, runs, runSheets, schedules } from './schema';

/** A package that publishes by itself, and how far that is. */
export interface ScheduledPackage {
  projectId: string;
  pack: SheetPackage;
  /** Null: nobody has looked at it yet. */
  handledAt: Date | null;
}

/** Every package that publishes by itself, in projects that were not removed. */
export async function scheduledPackages(db: Database): Promise<ScheduledPackage[]> {
  return db
    .select({ projectId: packages.projectId, pack: packages.pack, handledAt: schedules.handledAt })
    .from(packages)
    .innerJoin(projects, and(eq(projects.id, packages.projectId), isNull(projects.removedAt)))
    .leftJoin(schedules, and(eq(schedules.projectId, packages.projectId), eq(schedules.packageId, packages.id)))
    .where(isNotNull(sql`${packages.pack}->'value'->'publishes'`));
}

/** Keeps until when the schedule of a package was seen to, and what came of it, if it was due. */
export async function saveSchedule(
  db: Database,
  key: { projectId: string; packageId: string },
  handled: { handledAt: Date; outcome?: ScheduleOutcome | null },
): Promise<void> {
  await db
    .insert(schedules)
    .values({ ...key, ...handled })
    .onConflictDoUpdate({ target: [schedules.projectId, schedules.packageId], set: handled });
}

/** What came of the schedule of a package last; null: it was not due yet. */
export async function scheduleOutcome(
  db: Database,
  projectId: string,
  packageId: string,
): Promise<ScheduleOutcome | null> {
  const [row] = await db
    .select()
    .from(schedules)
    .where(and(eq(schedules.projectId, projectId), eq(schedules.packageId, packageId)));
  return row?.outcome ?? null;
}

/** When something of a project changed last: an edit, or a newer version of a drawing. Undefined: nothing ever did. */
export async function lastChangeOf(db: Database, projectId: string): Promise<Date | undefined> {
  const [edited] = await db
    .select({ at: edits.at })
    .from(edits)
    .where(eq(edits.projectId, projectId))
    .orderBy(desc(edits.id))
    .limit(1);
  const [replaced] = await db
    .select({ at: drawings.versionAt })
    .from(drawings)
    .where(eq(drawings.projectId, projectId))
    .orderBy(desc(drawings.versionAt))
    .limit(1);
  const times = [edited?.at, replaced?.at].flatMap((at) => (at ? [at.getTime()] : []));
  return times.length > 0 ? new Date(Math.max(...times)) : undefined;
}

/** What identifies the sheets of a package's latest run that is done or goes on, in their order; undefined: there is none. */
export async function inputHashesOfLatestRun(
  db: Database,
  projectId: string,
  packageId: string,
): Promise<(string | null)[] | undefined> {
  const [run] = await db
    .select({ id: runs.id })
    .from(runs)
    .where(
      and(
        eq(runs.projectId, projectId),
        eq(runs.packageId, packageId),
        sql`${runs.state} in ('waiting', 'running', 'done')`,
      ),
    )
    .orderBy(desc(runs.createdAt))
    .limit(1);
  if (!run) return undefined;
  const rows = await db
    .select({ inputHash: runSheets.inputHash })
    .from(runSheets)
    .where(eq(runSheets.runId, run.id))
    .orderBy(runSheets.position);
  return rows.map(({ inputHash }) => inputHash);
}

/** Key of the advisory lock under which schedules are run: one worker does it. */
const SCHEDULES_LOCK = 7_261_704;

/** Keeps other workers from running schedules until `unlockSchedules` or the connection's end; false where one does. */
export async function tryLockSchedules(client: pg.ClientBase): Promise<boolean> {
  const { rows } = await client.query<{ locked: boolean }>('select pg_try_advisory_lock($1) as locked', [
    SCHEDULES_LOCK,
  ]);
  return rows[0]!.locked;
}

export async function unlockSchedules(client: pg.ClientBase): Promise<void> {
  await client.query('select pg_advisory_unlock($1)', [SCHEDULES_LOCK]);
}
