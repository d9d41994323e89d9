import { and, eq, inArray, lt, not, notInArray, or, sql, type SQL } from 'drizzle-orm';
import type { PgColumn, PgTable } from 'drizzle-orm/pg-core';
import type pg from 'pg';
import type { Database } from './database';
import { invitations, members } from './access-schema';
import { deliveries, deliveryFiles, recipientPages, recipientVisits } from './delivery-schema';
import { arrivals, inboxes } from './inbox-schema';
import { webhooks } from './webhook-schema';
import {
  artifacts,
  drawings,
  earlierVersions,
  edits,
  groups,
  issues,
  offeredFiles,
  packages,
  presence,
  projects,
  runFiles,
  runs,
  runSheets,
  schedules,
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

/** How many rows were deleted, by kind. */
export interface Purged {
  projects: number;
  drawings: number;
  runs: number;
  artifacts: number;
}

type Queries = Pick<Database, 'select' | 'delete'>;

/** Tables whose rows go with their project, besides those of drawings and runs. */
const OF_PROJECTS = [
  ...[edits, sheets, packages, schedules, groups, transferServers, offeredFiles, inboxes, arrivals, webhooks],
  ...[members, presence, invitations],
] as const;

const before = (days: number): SQL => sql`now() - make_interval(days => ${days})`;
/** A file that was sent waits for an answer this long, days. */
const OFFER_DAYS = 7;
/** Key of the advisory lock under which content is swept, and under which it is backed up. */
const SWEEP_LOCK = 7_261_703;

/** Waits until no other process sweeps or backs up, and keeps others from it until `unlockSweep` or the connection's end. */
export async function lockSweep(client: pg.ClientBase): Promise<void> {
  await client.query('set statement_timeout = 0');
  await client.query('select pg_advisory_lock($1)', [SWEEP_LOCK]);
}

/** The same without waiting; false where another process does. */
export async function tryLockSweep(client: pg.ClientBase): Promise<boolean> {
  await client.query('set statement_timeout = 0');
  const { rows } = await client.query<{ locked: boolean }>('select pg_try_advisory_lock($1) as locked', [SWEEP_LOCK]);
  return rows[0]!.locked;
}

export async function unlockSweep(client: pg.ClientBase): Promise<void> {
  await client.query('select pg_advisory_unlock($1)', [SWEEP_LOCK]);
  await client.query('reset statement_timeout');
}

/** Deletes rows that are past their time. Issued runs, and projects with any, stay. */
export async function purge(db: Database, { removedDays, runDays, artifactDays }: Retention): Promise<Purged> {
  const deleted = await db.transaction(async (tx) => {
    const gone = await projectsToPurge(tx, removedDays);
    const purged = {
      runs: await purgeRuns(tx, gone, { removedDays, runDays }),
      drawings: await purgeDrawings(tx, gone, removedDays),
      projects: gone.length,
    };
    if (gone.length > 0) {
      for (const table of OF_PROJECTS) await tx.delete(table).where(inArray(table.projectId, gone));
      await tx.delete(projects).where(inArray(projects.id, gone));
    }
    return purged;
  });
  await db.delete(offeredFiles).where(lt(offeredFiles.at, before(OFFER_DAYS)));
  const unused = await db
    .delete(artifacts)
    .where(lt(artifacts.usedAt, before(artifactDays)))
    .returning({ key: artifacts.key });
  return { ...deleted, artifacts: unused.length };
}

async function projectsToPurge(tx: Queries, removedDays: number): Promise<string[]> {
  const withIssues = tx.select({ id: issues.projectId }).from(issues);
  const rows = await tx
    .select({ id: projects.id })
    .from(projects)
    .where(and(lt(projects.removedAt, before(removedDays)), notInArray(projects.id, withIssues)));
  return rows.map(({ id }) => id);
}

/** Deletes old runs, and those of projects that go; returns how many. */
async function purgeRuns(
  tx: Queries,
  gone: readonly string[],
  { removedDays, runDays }: Omit<Retention, 'artifactDays'>,
): Promise<number> {
  const isOld = or(
    lt(runs.removedAt, before(removedDays)),
    runDays === undefined ? undefined : lt(runs.createdAt, before(runDays)),
  );
  const issued = tx.select({ id: issues.runId }).from(issues);
  const isOver = notInArray(runs.state, ['waiting', 'running']);
  const rows = await tx
    .select({ id: runs.id })
    .from(runs)
    .where(or(and(isOver, notInArray(runs.id, issued), isOld), inArray(runs.projectId, [...gone])));
  const ids = rows.map(({ id }) => id);
  if (ids.length === 0) return 0;
  const sent = tx.select({ id: deliveries.id }).from(deliveries).where(inArray(deliveries.runId, ids));
  await tx.delete(recipientVisits).where(inArray(recipientVisits.deliveryId, sent));
  await tx.delete(recipientPages).where(inArray(recipientPages.deliveryId, sent));
  await tx.delete(deliveryFiles).where(inArray(deliveryFiles.deliveryId, sent));
  await tx.delete(deliveries).where(inArray(deliveries.runId, ids));
  await tx.delete(runFiles).where(inArray(runFiles.runId, ids));
  await tx.delete(runSheets).where(inArray(runSheets.runId, ids));
  await tx.delete(runs).where(inArray(runs.id, ids));
  return ids.length;
}

/** Deletes drawings that were removed long ago, and those of projects that go; returns how many. */
async function purgeDrawings(tx: Queries, gone: readonly string[], removedDays: number): Promise<number> {
  // An edit that was undone may have brought a use of it back since.
  const isUsed = (table: PgTable, project: PgColumn, document: PgColumn): SQL =>
    sql`exists (select 1 from ${table} where ${project} = ${drawings.projectId} and position(${drawings.id} in ${document}::text) > 0)`;
  const unused = [
    isUsed(sheets, sheets.projectId, sheets.sheet),
    isUsed(packages, packages.projectId, packages.pack),
    isUsed(projects, projects.id, projects.facts),
  ].map(not);
  const rows = await tx
    .select({ id: drawings.id })
    .from(drawings)
    .where(or(and(lt(drawings.removedAt, before(removedDays)), ...unused), inArray(drawings.projectId, [...gone])));
  const ids = rows.map(({ id }) => id);
  if (ids.length === 0) return 0;
  await tx.delete(earlierVersions).where(inArray(earlierVersions.drawingId, ids));
  await tx.delete(drawings).where(inArray(drawings.id, ids));
  return ids.length;
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
