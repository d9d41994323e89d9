import { date, index, integer, pgTable, primaryKey, serial, text, timestamp } from 'drizzle-orm/pg-core';
import type { Delivered, DeliveryState } from '@folvex/contract';
import type { Destination, Problem } from '@folvex/core';
import type { PlotRecord } from '../model/plot-jobs';
import { runs } from './schema';
import { json } from './storable';
import { stored } from './stored';

/** The sending of the files of runs to one destination each. */
export const deliveries = pgTable(
  'deliveries',
  {
    id: text('id').primaryKey(),
    runId: text('run_id')
      .notNull()
      .references(() => runs.id),
    destination: stored<Destination>('destination', 'destination').notNull(),
    /** Where that is, for people; null until the first attempt. */
    location: text('location'),
    startedBy: text('started_by'),
    state: text('state').$type<DeliveryState>().notNull(),
    /** How many attempts in a row ended with the destination away and nothing sent. */
    attempts: integer('attempts').notNull().default(0),
    nextAttemptAt: timestamp('next_attempt_at', { withTimezone: true }),
    problem: json<Problem>('problem'),
    /** How often what did not arrive was sent again by hand. */
    renewals: integer('renewals').notNull().default(0),
    /** What a plotter was sent; null: it is none, or nothing yet. */
    plot: json<PlotRecord>('plot'),
    createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
    finishedAt: timestamp('finished_at', { withTimezone: true }),
  },
  (t) => [index('deliveries_run').on(t.runId)],
);

/** Receipts: what became of each file of a delivery. */
export const deliveryFiles = pgTable(
  'delivery_files',
  {
    deliveryId: text('delivery_id')
      .notNull()
      .references(() => deliveries.id),
    /** Of the file in its run. */
    position: integer('position').notNull(),
    outcome: json<Delivered>('outcome').notNull(),
    at: timestamp('at', { withTimezone: true }).notNull().defaultNow(),
  },
  (t) => [primaryKey({ columns: [t.deliveryId, t.position] })],
);

/** The pages that recipients of emails download their files from, one for a delivery. */
export const recipientPages = pgTable('recipient_pages', {
  deliveryId: text('delivery_id')
    .primaryKey()
    .references(() => deliveries.id),
  /** Its password, sealed with a key that is not in the database; null: it asks for none. */
  sealedPassword: text('sealed_password'),
  /** The last day on which it is open, YYYY-MM-DD. */
  lastDay: date('last_day').notNull(),
  expiresAt: timestamp('expires_at', { withTimezone: true }).notNull(),
  /** When it was closed before; null: it was not. */
  closedAt: timestamp('closed_at', { withTimezone: true }),
});

/** What recipients did on their pages. */
export const recipientVisits = pgTable(
  'recipient_visits',
  {
    id: serial('id').primaryKey(),
    deliveryId: text('delivery_id')
      .notNull()
      .references(() => recipientPages.deliveryId),
    at: timestamp('at', { withTimezone: true }).notNull().defaultNow(),
    what: text('what').$type<'opened' | 'downloaded'>().notNull(),
    /** Of the file in its run; null: all of them, or none. */
    position: integer('position'),
  },
  (t) => [index('recipient_visits_page').on(t.deliveryId)],
);
