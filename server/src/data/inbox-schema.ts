import { bigint, index, integer, pgTable, primaryKey, text, timestamp } from 'drizzle-orm/pg-core';
import type { ArrivalState } from '@folvex/contract';
import type { Problem } from '@folvex/core';
import { projects } from './schema';
import { json } from './storable';

/** How the inboxes of projects were found when they were last looked into. */
export const inboxes = pgTable(
  'inboxes',
  {
    projectId: text('project_id')
      .notNull()
      .references(() => projects.id),
    id: text('id').notNull(),
    /** Where it is, for people; null: it could not be opened. */
    location: text('location'),
    problem: json<Problem>('problem'),
    lookedAt: timestamp('looked_at', { withTimezone: true }).notNull(),
    /** When it was last found otherwise than before. */
    changedAt: timestamp('changed_at', { withTimezone: true }).notNull(),
  },
  (t) => [primaryKey({ columns: [t.projectId, t.id] })],
);

/** Files that came into inboxes, each as it was at one time: one that is written anew comes in again. */
export const arrivals = pgTable(
  'arrivals',
  {
    id: text('id').primaryKey(),
    projectId: text('project_id')
      .notNull()
      .references(() => projects.id),
    inboxId: text('inbox_id').notNull(),
    inboxName: text('inbox_name').notNull(),
    path: text('path').notNull(),
    bytes: bigint('bytes', { mode: 'number' }).notNull(),
    writtenAt: timestamp('written_at', { withTimezone: true }).notNull(),
    /** When it was first seen with this size and time. */
    seenAt: timestamp('seen_at', { withTimezone: true }).notNull(),
    state: text('state').$type<ArrivalState>().notNull(),
    /** SHA-256 of its content; null: that was not fetched, or is not wanted. */
    hash: text('hash'),
    drawingId: text('drawing_id'),
    version: integer('version'),
    problem: json<Problem>('problem'),
    decidedBy: text('decided_by'),
    changedAt: timestamp('changed_at', { withTimezone: true }).notNull(),
  },
  (t) => [
    index('arrivals_path').on(t.projectId, t.inboxId, t.path),
    index('arrivals_changed').on(t.projectId, t.changedAt),
  ],
);
