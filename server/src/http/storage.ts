import type { Router } from 'express';
import { ROUTES } from '@folvex/contract';
import { storageInfo } from '../work/storage';
import type { Services } from '../work/services';
import { handler, parameter } from './answers';
import { guardedRouter } from './guarded-router';

/** What a project uses of the store. */
export function storageRoutes(services: Services): Router {
  const router = guardedRouter(services);
  router.get(
    ROUTES.storage,
    handler(async (request, response) => {
      response.json(await storageInfo(services, parameter(request, 'project')));
    }),
  );
  return router.router;
}
