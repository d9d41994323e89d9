import type { Delivered } from '@folvex/core';
import type { DeliveryEnd } from './delivery-payloads';

/** What webhooks can be about, in words. */
export const WEBHOOK_TOPICS = { run: 'Runs', delivery: 'Deliveries', issue: 'Issues' } as const;
export type WebhookTopic = keyof typeof WEBHOOK_TOPICS;

/** What happened; its topic comes before the dot. `webhook.test`: nothing, somebody tests the webhook. */
export type WebhookEvent = `run.${DeliveryEnd}` | `delivery.${DeliveryEnd}` | 'issue.made' | 'webhook.test';

/** An address of another program that receives a message when something happens in a project. Its secret is not in here. */
export interface Webhook {
  id: string;
  name: string;
  /** `https://…`, or `http://…` within one's own network. */
  address: string;
  topics: WebhookTopic[];
  /** The latest calls, the latest first. */
  calls: WebhookCall[];
}

/** What is set of one. */
export type WebhookChange = Pick<Webhook, 'name' | 'address' | 'topics'>;

/** The webhooks of a project after a change. */
export interface WebhooksChanged {
  webhooks: Webhook[];
  /** The new secret of the one that was added or got one, `whsec_` and Base64: it cannot be asked for later. */
  secret?: string;
}

export type WebhookCallState = 'waiting' | 'done' | 'failed';

/** A message to a webhook, and what became of it. */
export interface WebhookCall {
  /** The same in every attempt, so that a receiver knows what it has already. */
  id: string;
  event: WebhookEvent;
  state: WebhookCallState;
  /** What came of the latest attempt; null: there was none yet. */
  answer: string | null;
  createdAt: string;
  /** Null: it is not tried again by itself. */
  nextAttemptAt: string | null;
}

/** As many of the latest calls of a webhook are kept, and listed. */
export const MAX_WEBHOOK_CALLS = 20;

/** The body of a message, as JSON. */
export interface WebhookMessage {
  type: WebhookEvent;
  /** When it happened, ISO 8601, UTC. */
  timestamp: string;
  data: {
    project: { id: string; number: string; name: string };
    run?: WebhookRun;
    delivery?: WebhookDelivery;
    issue?: WebhookIssue;
  };
}

/** The run that something happened to. */
export interface WebhookRun {
  id: string;
  package: { id: string; name: string };
  startedBy: string | null;
  /** What is wrong with it; null: nothing. */
  problem: string | null;
  files: { path: string; bytes: number; pages: number; sha256: string }[];
}

export interface WebhookDelivery {
  id: string;
  kind: string;
  /** Where its destination is, for people; null: it was not reached. */
  location: string | null;
  problem: string | null;
  /** What became of the files of the run, in their order; of some perhaps nothing yet. */
  receipts: Delivered[];
}

export interface WebhookIssue {
  number: number;
  date: string;
  purpose: string;
  recipients: string[];
  /** The number of the issue that it supersedes. */
  supersedes?: number;
}
