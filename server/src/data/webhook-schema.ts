import { foreignKey, index, integer, pgTable, primaryKey, text, timestamp } from 'drizzle-orm/pg-core';
import type { WebhookCallState, WebhookEvent, WebhookTopic } from '@folvex/contract';
import { projects } from './schema';

/** Addresses of other programs that are told what happens in a project. */
export const webhooks = pgTable(
  'webhooks',
  {
    projectId: text('project_id')
      .notNull()
      .references(() => projects.id),
    id: text('id').notNull(),
    name: text('name').notNull(),
    address: text('address').notNull(),
    topics: text('topics').array().$type<WebhookTopic[]>().notNull(),
    /** The secret that messages are signed with, sealed with a key that is not in the database. */
    sealedSecret: text('sealed_secret').notNull(),
  },
  (t) => [primaryKey({ columns: [t.projectId, t.id] })],
);

/** Messages to webhooks, and what became of them. */
export const webhookCalls = pgTable(
  'webhook_calls',
  {
    id: text('id').primaryKey(),
    projectId: text('project_id').notNull(),
    webhookId: text('webhook_id').notNull(),
    event: text('event').$type<WebhookEvent>().notNull(),
    /** The JSON that is signed and sent, byte for byte. */
    body: text('body').notNull(),
    state: text('state').$type<WebhookCallState>().notNull(),
    /** How many attempts there were. */
    attempts: integer('attempts').notNull().default(0),
    /** What came of the latest attempt. */
    answer: text('answer'),
    createdAt: timestamp('created_at', { withTimezone: true }).notNull(),
    nextAttemptAt: timestamp('next_attempt_at', { withTimezone: true }),
  },
  (t) => [
    foreignKey({ columns: [t.projectId, t.webhookId], foreignColumns: [webhooks.projectId, webhooks.id] }).onDelete(
      'cascade',
    ),
    index('webhook_calls_webhook').on(t.projectId, t.webhookId, t.createdAt),
  ],
);
