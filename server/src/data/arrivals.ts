import { and, desc, eq, isNull, max, or, sql } from 'drizzle-orm';
import { MAX_ARRIVALS, type ArrivalInfo, type Arrivals } from '@folvex/contract';
import type { Inbox } from '@folvex/core';
import { NOW } from './clock';
import type { Database } from './database';
import { arrivals, inboxes } from './inbox-schema';
import { projects } from './schema';

export type ArrivalRow = typeof arrivals.$inferSelect;
type InboxState = Pick<typeof inboxes.$inferSelect, 'location' | 'problem' | 'polledAt'>;

/** An inbox of a project. */
export interface WatchedInbox {
  projectId: string;
  inbox: Inbox;
}

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

export async function addArrival(db: Database, row: Omit<typeof arrivals.$inferInsert, 'changedAt'>): Promise<void> {
  await db.insert(arrivals).values({ ...row, changedAt: NOW });
}

/** Changes an arrival whose state is still the one given; undefined where it is not. */
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

/** Keeps the state of an inbox; `isChanged`: what is shown of it has changed, whatever its state says. */
export async function saveInboxState(
  db: Database,
  { projectId, inbox: { id } }: WatchedInbox,
  state: InboxState,
  isChanged: boolean,
): Promise<void> {
  const isOther = sql`(${inboxes.location}, ${inboxes.problem}) is distinct from (excluded.location, excluded.problem)`;
  const changedAt = isChanged ? NOW : sql<Date>`case when ${isOther} then now() else ${inboxes.changedAt} end`;
  await db
    .insert(inboxes)
    .values({ projectId, id, ...state, changedAt: NOW })
    .onConflictDoUpdate({ target: [inboxes.projectId, inboxes.id], set: { ...state, changedAt } });
}

/** The inboxes of a project, and its arrivals, the latest first: all that wait for a decision, and the latest others. */
export async function arrivalsOf(db: Database, projectId: string): Promise<Arrivals> {
  const latest = db
    .select({ id: arrivals.id })
    .from(arrivals)
    .where(eq(arrivals.projectId, projectId))
    .orderBy(desc(arrivals.seenAt), desc(arrivals.path))
    .limit(MAX_ARRIVALS);
  const [polled, listed] = await Promise.all([
    db.select().from(inboxes).where(eq(inboxes.projectId, projectId)),
    db
      .select()
      .from(arrivals)
      .where(
        and(eq(arrivals.projectId, projectId), or(eq(arrivals.state, 'waiting'), sql`${arrivals.id} in ${latest}`)),
      )
      .orderBy(desc(arrivals.seenAt), desc(arrivals.path)),
  ]);
  return {
    inboxes: polled.map(({ id, location, problem, polledAt }) => ({
      ...{ id, where: location, problem },
      polledAt: polledAt.toISOString(),
    })),
    arrivals: listed.map(arrivalInfo),
  };
}

/** When an arrival of a project, or the state of an inbox, last changed; null: there is none. */
export async function arrivalsChangedAt(db: Database, projectId: string): Promise<string | null> {
  const [[arrival], [inbox]] = await Promise.all([
    db
      .select({ at: max(arrivals.changedAt) })
      .from(arrivals)
      .where(eq(arrivals.projectId, projectId)),
    db
      .select({ at: max(inboxes.changedAt) })
      .from(inboxes)
      .where(eq(inboxes.projectId, projectId)),
  ]);
  const times = [arrival?.at, inbox?.at].flatMap((at) => (at ? [at.getTime()] : []));
  return times.length > 0 ? new Date(Math.max(...times)).toISOString() : null;
}

export function arrivalInfo(row: ArrivalRow): ArrivalInfo {
  const { id, inboxName, path, bytes, seenAt, state, offered, drawingId, version, problem, decidedBy } = row;
  return {
    ...{ id, inbox: inboxName, path, bytes, at: seenAt.toISOString(), state },
    ...{ drawing: drawingId, version, offered, problem, by: decidedBy },
  };
}
