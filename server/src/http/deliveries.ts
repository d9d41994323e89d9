import type { Router } from 'express';
import { ROUTES, runDeliverySchema, type AtDestination } from '@folvex/contract';
import type { Destination } from '@folvex/core';
import { deliveryById, finishDelivery, renewDelivery } from '../data/deliveries';
import { inTransaction } from '../data/database';
import { runInfo } from '../data/run-infos';
import { notFound, Refused } from '../errors';
import { lookForRun, startDelivery } from '../work/deliveries/start-delivery';
import type { Services } from '../work/services';
import { bodyOf, handler, parameter } from './answers';
import { callerOf, guardedRouter, setSubject } from './guarded-router';
import { authorOf } from '../work/access/caller';

/** Sending what was published: anywhere, again, or no further. */
export function deliveryRoutes(services: Services): Router {
  const { connection, db, queue } = services;
  const router = guardedRouter(services);
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
      const id = parameter(request, 'run');
      const { destination } = bodyOf(request, runDeliverySchema);
      const by = authorOf(callerOf(request))?.name ?? null;
      if (!(await startDelivery(services, id, destination as Destination, by))) throw notFound('The run');
      const info = await runInfo(db, id);
      setSubject(request, info!.packageName);
      response.status(201).json(info);
    }),
  );
  router.post(
    ROUTES.deliveryAgain,
    handler(async (request, response) => {
      const [run, id] = [parameter(request, 'run'), parameter(request, 'delivery')];
      await refuseOther(run, id);
      await inTransaction(connection.pool, async (tx) => {
        if (!(await renewDelivery(tx.db, id)))
          throw new Refused(409, 'delivery.open', 'This delivery is not over, or everything has arrived.');
        await queue.addDelivery(tx, id);
      });
      const info = await runInfo(db, run);
      setSubject(request, info!.packageName);
      response.json(info);
    }),
  );
  router.post(
    ROUTES.deliveryCancel,
    handler(async (request, response) => {
      const [run, id] = [parameter(request, 'run'), parameter(request, 'delivery')];
      await refuseOther(run, id);
      await finishDelivery(db, id, 'cancelled');
      const info = await runInfo(db, run);
      setSubject(request, info!.packageName);
      response.json(info);
    }),
  );
  /** A delivery is reached through its run only. */
  async function refuseOther(run: string, id: string): Promise<void> {
    if ((await deliveryById(db, id))?.delivery.runId !== run) throw notFound('The delivery');
  }
  return router.router;
}
