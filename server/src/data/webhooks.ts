import { and, arrayContains, asc, desc, eq, ne, notInArray, sql } from 'drizzle-orm';
import { MAX_WEBHOOK_CALLS, type Webhook, type WebhookCall, type WebhookTopic } from '@folvex/contract';
import { NOW } from './clock';
import type { Database } from './database';
import { webhookCalls, webhooks } from './webhook-schema';

export type WebhookRow = typeof webhooks.$inferSelect;
export type WebhookCallRow = typeof webhookCalls.$inferSelect;

type WebhookKey = Pick<WebhookRow, 'projectId' | 'id'>;

/** What the sealed secret of one is bound to: another row cannot use it. */
export function webhookSecretAbout({ projectId, id }: WebhookKey): string {
  return `webhook ${projectId} ${id}`;
}

/** The webhooks of a project with their latest calls, without their secrets. */
export async function webhookInfos(db: Database, projectId: string): Promise<Webhook[]> {
  const rows = await db.select().from(webhooks).where(eq(webhooks.projectId, projectId)).orderBy(asc(webhooks.name));
  return Promise.all(
    rows.map(async ({ id, name, address, topics }) => {
      const calls = await latestCalls(db, { projectId, id });
      return { id, name, address, topics, calls: calls.map(callInfo) };
    }),
  );
}

export async function webhookById(db: Database, key: WebhookKey): Promise<WebhookRow | undefined> {
  return (await db.select().from(webhooks).where(isWebhook(key)))[0];
}

/** The webhooks of a project that are told of a topic. */
export function webhooksFor(db: Database, projectId: string, topic: WebhookTopic): Promise<WebhookRow[]> {
  return db
    .select()
    .from(webhooks)
    .where(and(eq(webhooks.projectId, projectId), arrayContains(webhooks.topics, [topic])));
}

export async function saveWebhook(db: Database, row: WebhookRow): Promise<void> {
  await db
    .insert(webhooks)
    .values(row)
    .onConflictDoUpdate({ target: [webhooks.projectId, webhooks.id], set: row });
}

/** Removes one with its calls; false where there is none. */
export async function removeWebhook(db: Database, key: WebhookKey): Promise<boolean> {
  return (await db.delete(webhooks).where(isWebhook(key)).returning()).length > 0;
}

export type NewWebhookCall = Pick<WebhookCallRow, 'id' | 'projectId' | 'webhookId' | 'event' | 'body' | 'state'> &
  Partial<Pick<WebhookCallRow, 'attempts' | 'answer'>>;

/** Writes a call; of its webhook only the latest calls are kept, and those that wait. */
export async function insertWebhookCall(db: Database, call: NewWebhookCall, createdAt: Date): Promise<void> {
  await db.insert(webhookCalls).values({ ...call, createdAt });
  const key = { projectId: call.projectId, id: call.webhookId };
  const kept = (await latestCalls(db, key)).map(({ id }) => id);
  await db
    .delete(webhookCalls)
    .where(and(isCallOf(key), ne(webhookCalls.state, 'waiting'), notInArray(webhookCalls.id, kept)));
}

/** A call with its webhook; undefined where either is gone. */
export async function webhookCallById(
  db: Database,
  id: string,
): Promise<{ call: WebhookCallRow; webhook: WebhookRow } | undefined> {
  const [found] = await db
    .select({ call: webhookCalls, webhook: webhooks })
    .from(webhookCalls)
    .innerJoin(webhooks, and(eq(webhooks.projectId, webhookCalls.projectId), eq(webhooks.id, webhookCalls.webhookId)))
    .where(eq(webhookCalls.id, id));
  return found;
}

/** Notes what came of an attempt; `seconds`: when there is another one. */
export async function saveAttempt(
  db: Database,
  id: string,
  { state, answer, seconds }: { state: WebhookCallRow['state']; answer: string; seconds?: number | undefined },
): Promise<void> {
  const nextAttemptAt = seconds === undefined ? null : sql<Date>`${NOW} + make_interval(secs => ${seconds})`;
  const attempts = sql`${webhookCalls.attempts} + 1`;
  await db.update(webhookCalls).set({ state, answer, attempts, nextAttemptAt }).where(eq(webhookCalls.id, id));
}

/** Has a call that is over made again; false where it is not over, or not a call of this webhook. */
export async function renewWebhookCall(db: Database, key: WebhookKey, id: string): Promise<boolean> {
  const renewed = await db
    .update(webhookCalls)
    .set({ state: 'waiting', attempts: 0, nextAttemptAt: null })
    .where(and(eq(webhookCalls.id, id), isCallOf(key), ne(webhookCalls.state, 'waiting')))
    .returning({ id: webhookCalls.id });
  return renewed.length > 0;
}

function latestCalls(db: Database, key: WebhookKey): Promise<WebhookCallRow[]> {
  return db
    .select()
    .from(webhookCalls)
    .where(isCallOf(key))
    .orderBy(desc(webhookCalls.createdAt), desc(webhookCalls.id))
    .limit(MAX_WEBHOOK_CALLS);
}

function callInfo({ id, event, state, answer, createdAt, nextAttemptAt }: WebhookCallRow): WebhookCall {
  const times = { createdAt: createdAt.toISOString(), nextAttemptAt: nextAttemptAt?.toISOString() ?? null };
  return { id, event, state, answer, ...times };
}

function isWebhook({ projectId, id }: WebhookKey) {
  return and(eq(webhooks.projectId, projectId), eq(webhooks.id, id));
}

function isCallOf({ projectId, id }: WebhookKey) {
  return and(eq(webhookCalls.projectId, projectId), eq(webhookCalls.webhookId, id));
}
