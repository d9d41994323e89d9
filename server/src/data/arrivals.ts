import { and, desc, eq, isNull, max, sql } from 'drizzle-orm';
import type { ArrivalInfo, Arrivals } from '@folvex/contract';
import type { Inbox } from '@folvex/core';
import { NOW } from './clock';
import type { Database } from './database';
import { arrivals, inboxes } from './inbox-schema';
import { projects } from './schema';

export type ArrivalRow = typeof arrivals.$inferSelect;
type InboxState = Pick<typeof inboxes.$inferSelect, 'location' | 'problem' | 'lookedAt'>;

/** An inbox of a project. */
export interface WatchedInbox {
  projectId: string;
  inbox: Inbox;
}

/** As many of the latest arrivals are listed. */
const MAX_LISTED = 200;

/** Every inbox of projects that were not removed. */
export async function watchedInboxes(db: Database): Promise<WatchedInbox[]> {
  const rows = await db
    .select({ projectId: projects.id, facts: projects.facts })
    .from(projects)
    .where(and(isNull(projects.removedAt), sql`${projects.facts}->'value'->'inboxes' is not null`));
  return rows.flatMap(({ projectId, facts: { inboxes: own = [] } }) => own.map((inbox) => ({ projectId, inbox })));
}

/** The latest arrival of each path in an inbox. */
export async function latestArrivals(
  db: Database,
  projectId: string,
  inboxId: string,
): Promise<Map<string, ArrivalRow>> {
  const rows = await db
    .selectDistinctOn([arrivals.path])
    .from(arrivals)
    .where(and(eq(arrivals.projectId, projectId), eq(arrivals.inboxId, inboxId)))
    .orderBy(arrivals.path, desc(arrivals.seenAt));
  return new Map(rows.map((row) => [row.path, row]));
}

export async function addArrival(db: Database, row: typeof arrivals.$inferInsert): Promise<void> {
  await db.insert(arrivals).values(row);
}

/** Changes an arrival that is in one of some states; undefined where it is not any more. */
export async function changeArrival(
  db: Database,
  { id, state }: Pick<ArrivalRow, 'id' | 'state'>,
  set: Partial<ArrivalRow>,
): Promise<ArrivalRow | undefined> {
  const [row] = await db
    .update(arrivals)
    .set({ ...set, changedAt: NOW })
    .where(and(eq(arrivals.id, id), eq(arrivals.state, state)))
    .returning();
  return row;
}

/** Forgets a file that was removed before all of it was there. */
export async function forgetArrival(db: Database, id: string): Promise<void> {
  await db.delete(arrivals).where(eq(arrivals.id, id));
}

export async function arrivalById(db: Database, projectId: string, id: string): Promise<ArrivalRow | undefined> {
  return (
    await db
      .select()
      .from(arrivals)
      .where(and(eq(arrivals.projectId, projectId), eq(arrivals.id, id)))
  )[0];
}

/** Keeps how an inbox was found. */
export async function saveInboxState(
  db: Database,
  { projectId, inbox: { id } }: WatchedInbox,
  state: InboxState,
): Promise<void> {
  const isOther = sql`(${inboxes.location}, ${inboxes.problem}) is distinct from (excluded.location, excluded.problem)`;
  const changedAt = sql`case when ${isOther} then excluded.changed_at else ${inboxes.changedAt} end`;
  await db
    .insert(inboxes)
    .values({ projectId, id, ...state, changedAt: state.lookedAt })
    .onConflictDoUpdate({ target: [inboxes.projectId, inboxes.id], set: { ...state, changedAt } });
}

/** What came into the inboxes of a project, the latest first, and how these were found. */
export async function arrivalsOf(db: Database, projectId: string): Promise<Arrivals> {
  const [found, came] = await Promise.all([
    db.select().from(inboxes).where(eq(inboxes.projectId, projectId)),
    db
      .select()
      .from(arrivals)
      .where(eq(arrivals.projectId, projectId))
      .orderBy(desc(arrivals.seenAt), desc(arrivals.path))
      .limit(MAX_LISTED),
  ]);
  return {
    inboxes: found.map(({ id, location, problem, lookedAt }) => ({
      ...{ id, where: location, problem },
      lookedAt: lookedAt.toISOString(),
    })),
    arrivals: came.map(arrivalInfo),
  };
}

/** When something last changed in what came into the inboxes of a project, or in how these were found; null: there is none. */
export async function arrivalsChangedAt(db: Database, projectId: string): Promise<string | null> {
  const [[came], [found]] = await Promise.all([
    db
      .select({ at: max(arrivals.changedAt) })
      .from(arrivals)
      .where(eq(arrivals.projectId, projectId)),
    db
      .select({ at: max(inboxes.changedAt) })
      .from(inboxes)
      .where(eq(inboxes.projectId, projectId)),
  ]);
  const times = [came?.at, found?.at].flatMap((at) => (at ? [at.getTime()] : []));
  return times.length > 0 ? new Date(Math.max(...times)).toISOString() : null;
}

export function arrivalInfo(row: ArrivalRow): ArrivalInfo {
  const { id, inboxName, path, bytes, seenAt, state, hash, drawingId, version, problem, decidedBy } = row;
  const isOpen = state === 'waiting' && hash !== null;
  return {
    ...{ id, inbox: inboxName, path, bytes, at: seenAt.toISOString(), state },
    ...{ drawing: drawingId, version, problem, by: decidedBy },
    offered: isOpen ? { name: fileNameOf(path), hash, bytes } : null,
  };
}

/** The name of a file without the folders that it is in. */
export function fileNameOf(path: string): string {
  return path.slice(path.lastIndexOf('/') + 1);
}
