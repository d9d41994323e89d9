import { Router } from 'express';
import { presenceEndedSchema, presenceSchema, ROUTES } from '@folvex/contract';
import { endPresence, peopleAt, peopleByProject, recordPresence } from '../data/presence';
import { notFound } from '../errors';
import type { Services } from '../work/services';
import { bodyOf, handler, parameter } from './answers';

/**
 * Who has a project open. Windows report and ask every few seconds: a stream of events would occupy one of the few
 * connections that a browser opens to a server, for each of its windows.
 */
export function presenceRoutes({ db }: Services): Router {
  const router = Router();
  router.get(
    ROUTES.everyPresence,
    handler(async (_request, response) => void response.json(await peopleByProject(db))),
  );
  router.post(
    ROUTES.presence,
    handler(async (request, response) => {
      const project = parameter(request, 'project');
      if (!(await recordPresence(db, project, bodyOf(request, presenceSchema)))) throw notFound('The project');
      response.json(await peopleAt(db, project));
    }),
  );
  router.post(
    ROUTES.presenceEnded,
    handler(async (request, response) => {
      await endPresence(db, parameter(request, 'project'), bodyOf(request, presenceEndedSchema).window);
      response.status(204).end();
    }),
  );
  return router;
}
