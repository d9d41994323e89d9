import { and, asc, eq, inArray, isNotNull, notInArray, sql } from 'drizzle-orm';
import type { PgUpdateSetSource } from 'drizzle-orm/pg-core';
import {
  DELIVERY_OVER,
  type Delivered,
  type DeliveryInfo,
  type DeliveryReceipt,
  type PaperTaken,
  type RecipientPage,
} from '@folvex/contract';
import { hasArrived, type Destination, type Problem } from '@folvex/core';
import { inChunks } from './chunks';
import { progressOf, type PlotRecord } from '../model/plot-jobs';
import { NOW } from './clock';
import type { Database } from './database';
import { notify } from './notifications';
import { recipientPagesOf, type VisitedPage } from './recipient-pages';
import { deliveries, deliveryFiles } from './delivery-schema';
import { runs } from './schema';

export type DeliveryRow = typeof deliveries.$inferSelect;

/** One round of a delivery: once it is sent again, a worker of an earlier round can no longer change it. */
export type DeliveryTurn = Pick<DeliveryRow, 'id' | 'renewals'>;

/** A delivery that is to be made. */
export type NewDelivery = Pick<DeliveryRow, 'id' | 'runId' | 'startedBy'> & { destination: Destination };

export async function insertDelivery(db: Database, delivery: NewDelivery): Promise<void> {
  // Several of one run are written in one transaction, in which `now()` stands still; they keep their order.
  const createdAt = sql<Date>`clock_timestamp()`;
  await db.insert(deliveries).values({ ...delivery, state: 'waiting', createdAt });
  await notify(db, 'run_changed', delivery.runId);
}

/** A delivery with the project of its run; undefined where there is none. */
export async function deliveryById(
  db: Database,
  id: string,
): Promise<{ delivery: DeliveryRow; projectId: string } | undefined> {
  const [found] = await db
    .select({ delivery: deliveries, projectId: runs.projectId })
    .from(deliveries)
    .innerJoin(runs, eq(runs.id, deliveries.runId))
    .where(eq(deliveries.id, id));
  return found;
}

/** What became of the files of a delivery so far, by their positions in the run. */
export async function outcomesOf(db: Database, id: string): Promise<ReadonlyMap<number, Delivered>> {
  const rows = await db.select().from(deliveryFiles).where(eq(deliveryFiles.deliveryId, id));
  return new Map(rows.map(({ position, outcome }) => [position, outcome]));
}

/** Marks a delivery as being sent; `location`: where its destination is, for people. */
export function beginDelivery(db: Database, turn: DeliveryTurn, location: string): Promise<boolean> {
  return change(db, turn, { state: 'sending', location, problem: null, nextAttemptAt: null });
}

/** Ends a delivery; false where it is over already. */
export function finishDelivery(
  db: Database,
  turn: Pick<DeliveryRow, 'id'> & Partial<DeliveryTurn>,
  state: 'done' | 'failed' | 'cancelled',
  problem: Problem | null = null,
): Promise<boolean> {
  return change(db, turn, { state, problem, nextAttemptAt: null, finishedAt: NOW });
}

/** Keeps what a plotter was sent, and how far it is. */
export function savePlot(db: Database, turn: DeliveryTurn, plot: PlotRecord): Promise<boolean> {
  return change(db, turn, { plot });
}

/** Has a delivery wait for its next attempt. */
export function postponeDelivery(
  db: Database,
  turn: DeliveryTurn,
  { attempts, seconds, problem }: { attempts: number; seconds: number; problem: Problem | null },
): Promise<boolean> {
  const nextAttemptAt = sql<Date>`now() + make_interval(secs => ${seconds})`;
  return change(db, turn, { state: 'waiting', attempts, problem, nextAttemptAt });
}

/**
 * Writes receipts by the positions of their files; what has arrived is kept even where the delivery was cancelled, or
 * sent again, meanwhile. False in that case, or where it is not there any more: then nothing more is sent.
 */
export async function saveReceipts(
  db: Database,
  { id, renewals }: DeliveryTurn,
  receipts: readonly (readonly [position: number, outcome: Delivered])[],
): Promise<boolean> {
  const [row] = await db.select().from(deliveries).where(eq(deliveries.id, id)).for('update');
  if (!row) return false;
  const isOpen = row.state === 'sending' && row.renewals === renewals;
  const kept = receipts.filter(([, outcome]) => isOpen || 'path' in outcome);
  const rows = kept.map(([position, outcome]) => ({ deliveryId: id, position, outcome }));
  await inChunks(rows, (some) => db.insert(deliveryFiles).values(some).onConflictDoNothing());
  await notify(db, 'run_changed', row.runId);
  return isOpen;
}

/**
 * Has a delivery that failed or was cancelled send what did not arrive; resolves with how often that was done, undefined
 * where it did neither.
 */
export async function renewDelivery(db: Database, id: string): Promise<number | undefined> {
  const renewed = await db
    .update(deliveries)
    .set({ state: 'waiting', attempts: 0, problem: null, finishedAt: null, renewals: sql`renewals + 1` })
    .where(and(eq(deliveries.id, id), inArray(deliveries.state, ['failed', 'cancelled'])))
    .returning({ runId: deliveries.runId, renewals: deliveries.renewals });
  if (renewed.length === 0) return undefined;
  await db
    .delete(deliveryFiles)
    .where(and(eq(deliveryFiles.deliveryId, id), sql`${deliveryFiles.outcome} ? 'problem'`));
  await notify(db, 'run_changed', renewed[0]!.runId);
  return renewed[0]!.renewals;
}

/** Deliveries of runs, the oldest first, by the ids of the runs. */
export async function deliveriesOf(
  db: Database,
  runIds: readonly string[],
): Promise<ReadonlyMap<string, DeliveryInfo[]>> {
  const rows = await db
    .select()
    .from(deliveries)
    .where(inArray(deliveries.runId, [...runIds]))
    .orderBy(asc(deliveries.createdAt), asc(deliveries.id));
  if (rows.length === 0) return new Map();
  const ids = rows.map(({ id }) => id);
  const [files, pages] = await Promise.all([
    db.select().from(deliveryFiles).where(inArray(deliveryFiles.deliveryId, ids)).orderBy(asc(deliveryFiles.position)),
    recipientPagesOf(db, ids),
  ]);
  const infos = new Map<string, DeliveryInfo[]>();
  for (const { id, runId, destination, location, startedBy, state, problem, plot, ...times } of rows) {
    const receipts = files
      .filter(({ deliveryId }) => deliveryId === id)
      .map(({ position, outcome, at }) => ({ file: position, outcome, at: at.toISOString() }));
    const info = {
      ...{ id, destination, location, startedBy, state, problem, receipts },
      page: pageInfo(pages.get(id), receipts),
      plot: plot && progressOf(plot),
      createdAt: times.createdAt.toISOString(),
      finishedAt: times.finishedAt?.toISOString() ?? null,
      nextAttemptAt: times.nextAttemptAt?.toISOString() ?? null,
    };
    infos.set(runId, [...(infos.get(runId) ?? []), info]);
  }
  return infos;
}

/** What plotters have printed of a project, in deliveries that are complete, by the ids of the plotters. */
export async function printedPaper(db: Database, projectId: string): Promise<ReadonlyMap<string, PaperTaken>> {
  const sum = (key: keyof PaperTaken) => sql<number | null>`sum((${deliveries.plot}->>${key})::float8)`;
  const server = sql<string>`${deliveries.destination}->'value'->>'server'`;
  const rows = await db
    .select({ server, rollM: sum('rollM'), areaM2: sum('areaM2'), cost: sum('cost') })
    .from(deliveries)
    .innerJoin(runs, eq(runs.id, deliveries.runId))
    .where(and(eq(runs.projectId, projectId), eq(deliveries.state, 'done'), isNotNull(deliveries.plot)))
    .groupBy(server);
  return new Map(
    rows.map(({ server: id, rollM, areaM2, cost }) => [id, { rollM: rollM ?? 0, areaM2: areaM2 ?? 0, cost }]),
  );
}

function pageInfo(page: VisitedPage | undefined, receipts: readonly DeliveryReceipt[]): RecipientPage | null {
  if (!page) return null;
  const shown = receipts.filter(({ outcome }) => hasArrived(outcome)).map(({ file }) => file);
  const all = page.downloaded.includes(null) ? shown : [];
  return { ...page, downloaded: all.length > 0 ? all : page.downloaded.filter((file) => file !== null) };
}

/** Changes a delivery that is not over, and was not sent again since; false where it is, or was. */
async function change(
  db: Database,
  { id, renewals }: Pick<DeliveryRow, 'id'> & Partial<DeliveryTurn>,
  set: PgUpdateSetSource<typeof deliveries>,
): Promise<boolean> {
  const isOpen = notInArray(deliveries.state, [...DELIVERY_OVER]);
  const isTurn = renewals === undefined ? undefined : eq(deliveries.renewals, renewals);
  const changed = await db
    .update(deliveries)
    .set(set)
    .where(and(eq(deliveries.id, id), isOpen, isTurn))
    .returning({ runId: deliveries.runId });
  if (changed.length > 0) await notify(db, 'run_changed', changed[0]!.runId);
  return changed.length > 0;
}
