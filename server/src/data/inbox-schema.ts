import { bigint, index, integer, pgTable, primaryKey, text, timestamp } from 'drizzle-orm/pg-core';
import type { ArrivalState, OfferedFile } from '@folvex/contract';
import type { Problem } from '@folvex/core';
import { projects } from './schema';
import { json } from './storable';

/** The inboxes of projects as they were when they were last polled. */
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
    polledAt: timestamp('polled_at', { withTimezone: true }).notNull(),
    /** When something about it, or in the list of its arrivals, last changed without an arrival having changed. */
    changedAt: timestamp('changed_at', { withTimezone: true }).notNull(),
  },
  (t) => [primaryKey({ columns: [t.projectId, t.id] })],
);

/** Files that arrived in inboxes. One that is written again arrives again. */
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
    /** Its content, while it waits for a decision; null: none is kept. */
    offered: json<OfferedFile>('offered'),
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
