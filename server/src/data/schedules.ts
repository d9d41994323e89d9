import { and, desc, eq, isNotNull, isNull, notExists, sql } from 'drizzle-orm';
import type { PgColumn } from 'drizzle-orm/pg-core';
import type { ScheduleOutcome } from '@folvex/contract';
import type { SheetPackage } from '@folvex/core';
import type { Database } from './database';
import { drawings, edits, packages, projects, schedules } from './schema';

/** How far the schedule of a package is. */
export type ScheduleState = Pick<typeof schedules.$inferSelect, 'settings' | 'handledAt' | 'outcome'>;

/** A package that publishes by itself. */
export interface ScheduledPackage {
  projectId: string;
  pack: SheetPackage;
  /** Null: nobody has looked at it yet. */
  state: ScheduleState | null;
}

const IS_SCHEDULED = isNotNull(sql`${packages.pack}->'value'->'publishes'`);

/** Every package that publishes by itself, in projects that were not removed. */
export async function scheduledPackages(db: Database): Promise<ScheduledPackage[]> {
  const rows = await db
    .select({ projectId: packages.projectId, pack: packages.pack, state: schedules })
    .from(packages)
    .innerJoin(projects, and(eq(projects.id, packages.projectId), isNull(projects.removedAt)))
    .leftJoin(schedules, isOf(packages.projectId, packages.id))
    .where(IS_SCHEDULED);
  return rows;
}

/** Forgets the schedules of packages that no longer publish by themselves. */
export async function forgetSchedules(db: Database): Promise<void> {
  const scheduled = db
    .select({ one: sql`1` })
    .from(packages)
    .where(and(isOf(packages.projectId, packages.id), IS_SCHEDULED));
  await db.delete(schedules).where(notExists(scheduled));
}

/** Keeps how far the schedule of a package is. */
export async function saveSchedule(
  db: Database,
  key: { projectId: string; packageId: string },
  state: ScheduleState,
): Promise<void> {
  await db
    .insert(schedules)
    .values({ ...key, ...state })
    .onConflictDoUpdate({ target: [schedules.projectId, schedules.packageId], set: state });
}

function isOf(projectId: PgColumn | string, packageId: PgColumn | string) {
  return and(eq(schedules.projectId, projectId), eq(schedules.packageId, packageId));
}

/** What came of the schedule of a package last; null: it was not due yet. */
export async function scheduleOutcome(
  db: Database,
  projectId: string,
  packageId: string,
): Promise<ScheduleOutcome | null> {
  const [row] = await db.select().from(schedules).where(isOf(projectId, packageId));
  return row?.outcome ?? null;
}

/** Adds to the outcome of a schedule why it could not be emailed to somebody. `run`: of that outcome; null: none was started. */
export async function noteUntold(
  db: Database,
  { projectId, packageId, run }: { projectId: string; packageId: string; run: string | null },
  sentence: string,
): Promise<void> {
  const all = sql`jsonb_build_object('untold', concat_ws(' ', ${schedules.outcome}->>'untold', ${sentence}::text))`;
  // Another outcome may have come since.
  const isSame = sql`${schedules.outcome}->>'run' is not distinct from ${run}::text`;
  await db
    .update(schedules)
    .set({ outcome: sql`${schedules.outcome} || ${all}` })
    .where(and(isOf(projectId, packageId), isSame));
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
