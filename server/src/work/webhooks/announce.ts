import { randomUUID } from 'node:crypto';
import type { WebhookEvent, WebhookMessage, WebhookTopic } from '@folvex/contract';
import type { Issue } from '@folvex/core';
import { databaseTime } from '../../data/clock';
import type { Database, Transaction } from '../../data/database';
import { deliveryById, outcomesOf } from '../../data/deliveries';
import { issuesOf } from '../../data/issues';
import { projectFacts } from '../../data/projects';
import { runById, runFilesOf } from '../../data/runs';
import { insertWebhookCall, webhooksFor } from '../../data/webhooks';
import type { Queue } from '../queue/queue';

/** What a message says beyond its project. */
type Happened = Omit<WebhookMessage['data'], 'project'>;

/** Tells the webhooks of a project that a run ended, once the transaction is committed. */
export async function announceRun(tx: Transaction, queue: Queue, runId: string): Promise<void> {
  const run = await runById(tx.db, runId);
  if (!run || run.state === 'waiting' || run.state === 'running') return;
  await announce(tx, queue, run.projectId, `run.${run.state}`, () => runIn(tx.db, runId));
}

/** Tells them that a delivery ended. */
export async function announceDelivery(tx: Transaction, queue: Queue, deliveryId: string): Promise<void> {
  const found = await deliveryById(tx.db, deliveryId);
  if (!found) return;
  const { delivery, projectId } = found;
  const { state, destination, location, problem } = delivery;
  if (state === 'waiting' || state === 'sending') return;
  await announce(tx, queue, projectId, `delivery.${state}`, async () => {
    const byPosition = [...(await outcomesOf(tx.db, deliveryId))].sort(([one], [other]) => one - other);
    const receipts = byPosition.map(([, outcome]) => outcome);
    const told = { id: deliveryId, kind: destination.kind, location, problem: problem?.sentence ?? null, receipts };
    return { ...(await runIn(tx.db, delivery.runId)), delivery: told };
  });
}

/** Tells them that a run was issued. */
export async function announceIssue(tx: Transaction, queue: Queue, projectId: string, issue: Issue): Promise<void> {
  await announce(tx, queue, projectId, 'issue.made', async () => {
    const { number, date, purpose, recipients } = issue;
    const superseded = (await issuesOf(tx.db, projectId)).find(({ id }) => id === issue.supersedes);
    const told = { number, date, purpose, recipients, ...(superseded && { supersedes: superseded.number }) };
    return { ...(await runIn(tx.db, issue.runId)), issue: told };
  });
}

/** A message as it is signed and sent. */
export async function messageBody(
  db: Database,
  projectId: string,
  type: WebhookEvent,
  { at, happened = {} }: { at: Date; happened?: Happened },
): Promise<string> {
  const { number, name } = (await projectFacts(db, projectId))!.facts;
  const data = { project: { id: projectId, number, name }, ...happened };
  return JSON.stringify({ type, timestamp: at.toISOString(), data } satisfies WebhookMessage);
}

async function announce(
  tx: Transaction,
  queue: Queue,
  projectId: string,
  event: Exclude<WebhookEvent, 'webhook.test'>,
  tell: () => Promise<Happened>,
): Promise<void> {
  const [topic] = event.split('.') as [WebhookTopic];
  const told = await webhooksFor(tx.db, projectId, topic);
  if (told.length === 0) return;
  const at = new Date(await databaseTime(tx.db));
  const body = await messageBody(tx.db, projectId, event, { at, happened: await tell() });
  for (const webhook of told) {
    const call = { id: randomUUID(), projectId, webhookId: webhook.id, event, body, state: 'waiting' } as const;
    await insertWebhookCall(tx.db, call, at);
    await queue.addCall(tx, call.id);
  }
}

async function runIn(db: Database, runId: string): Promise<Happened> {
  const run = (await runById(db, runId))!;
  const files = await runFilesOf(db, runId);
  const { packageId, packageName, startedBy, problem } = run;
  return {
    run: {
      id: runId,
      package: { id: packageId, name: packageName },
      ...{ startedBy, problem: problem?.sentence ?? null },
      files: files.map(({ path, bytes, pages, hash }) => ({ path, bytes, pages, sha256: hash })),
    },
  };
}
