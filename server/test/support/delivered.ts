import type { Express } from 'express';
import request from 'supertest';
import { isDeliveryOver, path, ROUTES, type DeliveryInfo, type RunInfo } from '@folvex/contract';
import { until } from './harness';

/** A run once it is done and all its deliveries, of which it must have some, are over. */
export function delivered(app: Express, run: string): Promise<RunInfo> {
  return until(
    async () => (await request(app).get(path(ROUTES.run, { run }))).body as RunInfo,
    ({ state, deliveries }) => state === 'done' && deliveries.length > 0 && deliveries.every(isDeliveryOver),
  );
}

/** What became of each file of a delivery, in the order of the files. */
export function outcomesOf({ receipts }: DeliveryInfo) {
  return receipts.map(({ outcome }) => outcome);
}
