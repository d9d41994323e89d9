import { Router } from 'express';
import { removedSchema, ROUTES } from '@folvex/contract';
import { drawingInfoOf } from '../data/drawings';
import { listProjects } from '../data/projects';
import { runInfo } from '../data/run-infos';
import { removeDrawing, removeProject, removeRun } from '../work/removal';
import type { Services } from '../work/services';
import { bodyOf, handler, parameter } from './answers';

/** Projects, drawings and runs are removed, and restored. */
export function removalRoutes(services: Services): Router {
  const { db } = services;
  const router = Router();
  router.put(
    ROUTES.projectRemoved,
    handler(async (request, response) => {
      await removeProject(services, parameter(request, 'project'), bodyOf(request, removedSchema).removed);
      response.json(await listProjects(db));
    }),
  );
  router.put(
    ROUTES.drawingRemoved,
    handler(async (request, response) => {
      const id = parameter(request, 'drawing');
      await removeDrawing(services, id, bodyOf(request, removedSchema).removed);
      response.json(await drawingInfoOf(db, id));
    }),
  );
  router.put(
    ROUTES.runRemoved,
    handler(async (request, response) => {
      const id = parameter(request, 'run');
      await removeRun(services, id, bodyOf(request, removedSchema).removed);
      response.json(await runInfo(db, id));
    }),
  );
  return router;
}
