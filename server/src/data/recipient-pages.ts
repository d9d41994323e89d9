import { eq, inArray, sql } from 'drizzle-orm';
import type { RecipientPage } from '@folvex/contract';
import type { Destination } from '@folvex/core';
import { NOW } from './clock';
import type { Database } from './database';
import { notify } from './notifications';
import { deliveries, recipientPages, recipientVisits } from './delivery-schema';
import { runs } from './schema';

/** A page with what it is of. */
export interface PageOfDelivery {
  deliveryId: string;
  runId: string;
  projectId: string;
  destination: Destination;
  sealedPassword: string | null;
  /** YYYY-MM-DD. */
  lastDay: string;
  expiresAt: Date;
  /** True while it can be opened: it has not ended, was not closed, and its run was not removed. */
  isOpen: boolean;
}

/**
 * Makes the page of a delivery, unless it has one; resolves with its last day, YYYY-MM-DD. It ends when that day has ended
 * everywhere, which is twelve hours after it does in UTC.
 */
export async function ensureRecipientPage(
  db: Database,
  { deliveryId, days, sealedPassword }: { deliveryId: string; days: number; sealedPassword: string | null },
): Promise<string> {
  const today = sql`(now() at time zone 'UTC')::date`;
  const lastDay = sql<string>`${today} + ${days}::int`;
  const expiresAt = sql<Date>`((${today} + ${days + 1}::int)::timestamp + interval '12 hours') at time zone 'UTC'`;
  await db.insert(recipientPages).values({ deliveryId, sealedPassword, lastDay, expiresAt }).onConflictDoNothing();
  return (await recipientPageOf(db, deliveryId))!.lastDay;
}

/** The page of a delivery; undefined where it has none. */
export async function recipientPageOf(db: Database, deliveryId: string): Promise<PageOfDelivery | undefined> {
  const [found] = await db
    .select({
      ...{ deliveryId: deliveries.id, runId: runs.id, projectId: runs.projectId, destination: deliveries.destination },
      ...{ sealedPassword: recipientPages.sealedPassword, lastDay: recipientPages.lastDay },
      expiresAt: recipientPages.expiresAt,
      isOpen: sql<boolean>`${recipientPages.closedAt} is null and ${recipientPages.expiresAt} > now() and ${runs.removedAt} is null`,
    })
    .from(recipientPages)
    .innerJoin(deliveries, eq(deliveries.id, recipientPages.deliveryId))
    .innerJoin(runs, eq(runs.id, deliveries.runId))
    .where(eq(recipientPages.deliveryId, deliveryId));
  return found;
}

/** Closes the page of a delivery; false where it has none that is open. */
export async function closeRecipientPage(db: Database, deliveryId: string): Promise<boolean> {
  const page = await recipientPageOf(db, deliveryId);
  if (!page?.isOpen) return false;
  await db.update(recipientPages).set({ closedAt: NOW }).where(eq(recipientPages.deliveryId, deliveryId));
  await notify(db, 'run_changed', page.runId);
  return true;
}

/** Keeps what a recipient did; `position`: of a file in its run, null for all of them. */
export async function addVisit(
  db: Database,
  { deliveryId, runId }: PageOfDelivery,
  visit: { what: 'opened' } | { what: 'downloaded'; position: number | null },
): Promise<void> {
  await db.insert(recipientVisits).values({ deliveryId, ...visit });
  await notify(db, 'run_changed', runId);
}

/** A page with the positions of the files that were downloaded from it; null among them: all files at once. */
export type VisitedPage = Omit<RecipientPage, 'downloaded'> & { downloaded: (number | null)[] };

/** The pages of deliveries, with what was done on them, by the ids of the deliveries. */
export async function recipientPagesOf(
  db: Database,
  deliveryIds: readonly string[],
): Promise<ReadonlyMap<string, VisitedPage>> {
  const rows = await db
    .select({
      page: recipientPages,
      openings: sql<number>`count(*) filter (where ${recipientVisits.what} = 'opened')::int`,
      openedAt: latest('opened'),
      downloadedAt: latest('downloaded'),
      downloaded: sql<
        (number | null)[] | null
      >`json_agg(distinct ${recipientVisits.position}) filter (where ${recipientVisits.what} = 'downloaded')`,
    })
    .from(recipientPages)
    .leftJoin(recipientVisits, eq(recipientVisits.deliveryId, recipientPages.deliveryId))
    .where(inArray(recipientPages.deliveryId, [...deliveryIds]))
    .groupBy(recipientPages.deliveryId);
  return new Map(
    rows.map(({ page, openings, openedAt, downloadedAt, downloaded }) => [
      page.deliveryId,
      {
        ...{ openings, openedAt, downloadedAt, downloaded: downloaded ?? [] },
        ...{ lastDay: page.lastDay, expiresAt: page.expiresAt.toISOString() },
        ...{ closedAt: page.closedAt?.toISOString() ?? null },
        hasPassword: page.sealedPassword !== null,
      },
    ]),
  );
}

/** When recipients last did something, ISO 8601; null: never. */
function latest(what: 'opened' | 'downloaded') {
  return sql<
    string | null
  >`to_char(max(${recipientVisits.at}) filter (where ${recipientVisits.what} = ${what}) at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"')`;
}
