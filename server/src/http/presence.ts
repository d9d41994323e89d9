import type { Router } from 'express';
import { presenceEndedSchema, presenceSchema, ROUTES, type ProjectNews } from '@folvex/contract';
import { arrivalsChangedAt } from '../data/arrivals';
import { endPresence, peopleAt, peopleByProject, recordPresence } from '../data/presence';
import { latestRunsOf } from '../data/runs';
import { notFound } from '../errors';
import { mayIn } from '../work/access/caller';
import type { Services } from '../work/services';
import { bodyOf, handler, parameter } from './answers';
import { callerOf, guardedRouter } from './guarded-router';

/**
 * Who has a project open, and what is new in it. Windows report and ask every few seconds: a stream of events would occupy one of the few
 * connections that a browser opens to a server, for each of its windows.
 */
export function presenceRoutes(services: Services): Router {
  const { db } = services;
  const router = guardedRouter(services);
  router.get(
    ROUTES.everyPresence,
    handler(async (request, response) => {
      const caller = callerOf(request);
      const people = Object.entries(await peopleByProject(db)).filter(([project]) => mayIn(caller, project, 'reader'));
      response.json(Object.fromEntries(people));
    }),
  );
  router.post(
    ROUTES.presence,
    handler(async (request, response) => {
      const project = parameter(request, 'project');
      const { account } = callerOf(request);
      const reported = bodyOf(request, presenceSchema);
      // Who is signed in is who they are, whatever the browser says.
      const presence = account ? { ...reported, id: account.id, name: account.name } : reported;
      if (!(await recordPresence(db, project, presence))) throw notFound('The project');
      const [people, latestRuns, changedAt] = await Promise.all([
        peopleAt(db, project),
        latestRunsOf(db, project),
        arrivalsChangedAt(db, project),
      ]);
      response.json({ people, latestRuns, arrivalsChangedAt: changedAt } satisfies ProjectNews);
    }),
  );
  router.post(
    ROUTES.presenceEnded,
    handler(async (request, response) => {
      await endPresence(db, parameter(request, 'project'), bodyOf(request, presenceEndedSchema).window);
      response.status(204).end();
    }),
  );
  return router.router;
}
