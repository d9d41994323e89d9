import type { Request, Response, Router } from 'express';
import { ROUTES, runDeliverySchema, type AtDestination } from '@folvex/contract';
import type { Destination } from '@folvex/core';
import { deliveryById, finishDelivery, renewDelivery } from '../data/deliveries';
import { inTransaction } from '../data/database';
import { runInfo } from '../data/run-infos';
import { notFound, Refused } from '../errors';
import { authorOf } from '../work/access/caller';
import { lookForRun, startDelivery } from '../work/deliveries/start-delivery';
import type { Services } from '../work/services';
import { bodyOf, handler, parameter } from './answers';
import { callerOf, guardedRouter, setSubject } from './guarded-router';

/** Sends runs to destinations, and ends or repeats that. */
export function deliveryRoutes(services: Services): Router {
  const { connection, db, queue } = services;
  const router = guardedRouter(services);
  const answerRun = async (request: Request, response: Response, status: number): Promise<void> => {
    const info = await runInfo(db, parameter(request, 'run'));
    setSubject(request, info!.packageName);
    response.status(status).json(info);
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
      const id = await deliveryOf(services, request);
      await inTransaction(connection.pool, async (tx) => {
        if (!(await renewDelivery(tx.db, id)))
          throw new Refused(409, 'delivery.open', 'This delivery is still going on, or everything has arrived.');
        await queue.addDelivery(tx, id);
      });
      await answerRun(request, response, 200);
    }),
  );
  router.post(
    ROUTES.deliveryCancel,
    handler(async (request, response) => {
      if (!(await finishDelivery(db, await deliveryOf(services, request), 'cancelled')))
        throw new Refused(409, 'delivery.over', 'This delivery has ended already.');
      await answerRun(request, response, 200);
    }),
  );
  return router.router;
}

/** Id of the delivery of a request; it is reached through its run only. */
export async function deliveryOf({ db }: Services, request: Request): Promise<string> {
  const id = parameter(request, 'delivery');
  if ((await deliveryById(db, id))?.delivery.runId !== parameter(request, 'run')) throw notFound('The delivery');
  return id;
}
