import { randomUUID } from 'node:crypto';
import type { Request, Response, Router } from 'express';
import { ROUTES, webhookSchema, type Webhook, type WebhookChange, type WebhooksChanged } from '@folvex/contract';
import { ProblemError } from '@folvex/core';
import { databaseTime } from '../data/clock';
import { inTransaction } from '../data/database';
import {
  insertWebhookCall,
  removeWebhook,
  renewWebhookCall,
  saveWebhook,
  webhookById,
  webhookCallById,
  webhookInfos,
  webhookSecretAbout,
  type WebhookRow,
} from '../data/webhooks';
import { notFound, Refused } from '../errors';
import type { Services } from '../work/services';
import { messageBody } from '../work/webhooks/announce';
import { postMessage } from '../work/webhooks/post-message';
import { newWebhookSecret } from '../work/webhooks/signature';
import { bodyOf, handler, parameter } from './answers';
import { guardedRouter, setSubject } from './guarded-router';

/** Other programs that are told what happens in a project. A secret goes out once, to whoever set it up. */
export function webhookRoutes(services: Services): Router {
  const { connection, db, queue, sealer } = services;
  const router = guardedRouter(services);
  const keyOf = (request: Request) => ({
    projectId: parameter(request, 'project'),
    id: parameter(request, 'webhook'),
  });
  const webhookOf = async (request: Request): Promise<WebhookRow> => {
    const row = await webhookById(db, keyOf(request));
    if (!row) throw notFound('The webhook');
    setSubject(request, row.name);
    return row;
  };
  const answer = async (request: Request, response: Response, secret?: string): Promise<void> => {
    const webhooks = await webhookInfos(db, parameter(request, 'project'));
    response.json({ webhooks, ...(secret !== undefined && { secret }) } satisfies WebhooksChanged);
  };
  router.get(
    ROUTES.webhooks,
    handler(async (request, response) => {
      response.json((await webhookInfos(db, parameter(request, 'project'))) satisfies Webhook[]);
    }),
  );
  router.put(
    ROUTES.webhook,
    handler(async (request, response) => {
      const key = keyOf(request);
      const set = bodyOf(request, webhookSchema) as WebhookChange;
      if (!URL.canParse(set.address)) {
        const sentence = `${set.address} is not an address that can be reached.`;
        throw new ProblemError({ code: 'webhook.address', sentence, place: {} });
      }
      setSubject(request, set.name);
      const before = await webhookById(db, key);
      const secret = before ? undefined : newWebhookSecret();
      const sealedSecret = before?.sealedSecret ?? sealer.seal(secret!, webhookSecretAbout(key));
      await saveWebhook(db, { ...key, ...set, sealedSecret });
      await answer(request, response, secret);
    }),
  );
  router.delete(
    ROUTES.webhook,
    handler(async (request, response) => {
      await removeWebhook(db, await webhookOf(request));
      await answer(request, response);
    }),
  );
  router.post(
    ROUTES.webhookSecret,
    handler(async (request, response) => {
      const row = await webhookOf(request);
      const secret = newWebhookSecret();
      await saveWebhook(db, { ...row, sealedSecret: sealer.seal(secret, webhookSecretAbout(row)) });
      await answer(request, response, secret);
    }),
  );
  router.post(
    ROUTES.webhookTest,
    handler(async (request, response) => {
      const row = await webhookOf(request);
      const at = new Date(await databaseTime(db));
      const body = await messageBody(db, row.projectId, 'webhook.test', { at });
      // Sent at once, past the queue, and only once: whoever tests an address waits for the answer.
      const id = randomUUID();
      const { isReceived, answer: came } = await postMessage(sealer, row, { id, body });
      const call = { id, projectId: row.projectId, webhookId: row.id, event: 'webhook.test', body } as const;
      await insertWebhookCall(db, { ...call, state: isReceived ? 'done' : 'failed', attempts: 1, answer: came }, at);
      await answer(request, response);
    }),
  );
  router.post(
    ROUTES.webhookCallAgain,
    handler(async (request, response) => {
      const row = await webhookOf(request);
      const id = parameter(request, 'call');
      const found = await webhookCallById(db, id);
      if (found?.call.projectId !== row.projectId || found.webhook.id !== row.id) throw notFound('The call');
      await inTransaction(connection.pool, async (tx) => {
        if (!(await renewWebhookCall(tx.db, row, id)))
          throw new Refused(409, 'webhook.waiting', 'This message is already waiting to be sent.');
        await queue.addCall(tx, id);
      });
      await answer(request, response);
    }),
  );
  return router.router;
}
