import type { Request, Response, Router } from 'express';
import { ROUTES, runDeliverySchema, type AtDestination, type RecipientPageKey } from '@folvex/contract';
import type { Destination } from '@folvex/core';
import { deliveryById, finishDelivery, renewDelivery } from '../data/deliveries';
import { inTransaction } from '../data/database';
import { closeRecipientPage, recipientPageOf, type PageOfDelivery } from '../data/recipient-pages';
import { runInfo } from '../data/run-infos';
import { notFound, Refused } from '../errors';
import { authorOf } from '../work/access/caller';
import { mailOf, pageLink, passwordOf } from '../work/deliveries/recipient-page';
import { lookForRun, startDelivery } from '../work/deliveries/start-delivery';
import { announceDelivery } from '../work/webhooks/announce';
import type { Services } from '../work/services';
import { bodyOf, handler, parameter } from './answers';
import { callerOf, guardedRouter, setSubject } from './guarded-router';
import { refuseAlone } from './sessions';

/** Sends runs to destinations, and ends or repeats that; tells the link of a recipient's page, and closes it. */
export function deliveryRoutes(services: Services): Router {
  const { connection, db, office, queue, sealer } = services;
  const router = guardedRouter(services);
  const answerRun = async (request: Request, response: Response, status: number): Promise<void> => {
    const info = await runInfo(db, parameter(request, 'run'));
    setSubject(request, info!.packageName);
    response.status(status).json(info);
  };
  /** Id of the delivery of a request; it is reached through its run only. */
  const deliveryOf = async (request: Request): Promise<string> => {
    const id = parameter(request, 'delivery');
    if ((await deliveryById(db, id))?.delivery.runId !== parameter(request, 'run')) throw notFound('The delivery');
    return id;
  };
  /** The page of its recipient. */
  const pageOf = async (request: Request): Promise<PageOfDelivery> => {
    const page = await recipientPageOf(db, await deliveryOf(request));
    if (!page) throw notFound('The page');
    setSubject(request, mailOf(page).to);
    return page;
  };
  router.post(
    ROUTES.runDestination,
    handler(async (request, response) => {
      const { destination } = bodyOf(request, runDeliverySchema);
      const found = await lookForRun(services, parameter(request, 'run'), destination as Destination);
      if (!found) throw notFound('The run');
      response.json(found satisfies AtDestination);
    }),
  );
  router.post(
    ROUTES.deliveries,
    handler(async (request, response) => {
      const { destination } = bodyOf(request, runDeliverySchema);
      const by = authorOf(callerOf(request))?.name ?? null;
      if (!(await startDelivery(services, parameter(request, 'run'), destination as Destination, by)))
        throw notFound('The run');
      await answerRun(request, response, 201);
    }),
  );
  router.post(
    ROUTES.deliveryAgain,
    handler(async (request, response) => {
      const id = await deliveryOf(request);
      await inTransaction(connection.pool, async (tx) => {
        const renewals = await renewDelivery(tx.db, id);
        if (renewals === undefined)
          throw new Refused(409, 'delivery.open', 'This delivery is still going on, or everything has arrived.');
        await queue.addDelivery(tx, { id, renewals });
      });
      await answerRun(request, response, 200);
    }),
  );
  router.post(
    ROUTES.deliveryCancel,
    handler(async (request, response) => {
      const id = await deliveryOf(request);
      await inTransaction(connection.pool, async (tx) => {
        if (!(await finishDelivery(tx.db, { id }, 'cancelled')))
          throw new Refused(409, 'delivery.over', 'This delivery has ended already.');
        await announceDelivery(tx, queue, id);
      });
      await answerRun(request, response, 200);
    }),
  );
  router.get(
    ROUTES.recipientPageKey,
    handler(async (request, response) => {
      refuseAlone(services);
      const page = await pageOf(request);
      const link = pageLink({ officeUrl: office!.url, sealer }, page.deliveryId);
      response.json({ link, password: passwordOf(services, page) } satisfies RecipientPageKey);
    }),
  );
  router.delete(
    ROUTES.recipientPageKey,
    handler(async (request, response) => {
      const { deliveryId, runId } = await pageOf(request);
      if (!(await closeRecipientPage(db, deliveryId))) throw notFound('The page');
      response.json(await runInfo(db, runId));
    }),
  );
  return router.router;
}
