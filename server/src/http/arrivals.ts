import type { Router } from 'express';
import { arrivalAnswerSchema, ROUTES } from '@folvex/contract';
import { arrivalsOf } from '../data/arrivals';
import { projectFacts } from '../data/projects';
import { notFound } from '../errors';
import { answerArrival } from '../work/inboxes/answer-arrival';
import type { Services } from '../work/services';
import { refuseFullProject } from '../work/storage';
import { bodyOf, handler, parameter } from './answers';
import { guardedRouter, inProject, setSubject } from './guarded-router';

/** What arrived in the inboxes of a project, and decisions on it. */
export function arrivalRoutes(services: Services): Router {
  const { db } = services;
  const router = guardedRouter(services);
  router.get(
    ROUTES.arrivals,
    handler(async (request, response) => {
      const projectId = parameter(request, 'project');
      if (!(await projectFacts(db, projectId))) throw notFound('The project');
      response.json(await arrivalsOf(db, projectId));
    }),
  );
  router.post(
    ROUTES.arrival,
    handler(async (request, response) => {
      const { project: projectId, by } = inProject(request);
      const { as, password } = bodyOf(request, arrivalAnswerSchema);
      if (as !== 'decline') await refuseFullProject(services, projectId);
      const of = { projectId, id: parameter(request, 'arrival'), by };
      const answered = await answerArrival(services, of, { as, ...(password !== undefined && { password }) });
      setSubject(request, `${answered.arrival.inbox}: ${answered.arrival.path}, ${answered.arrival.state}`);
      response.json(answered);
    }),
  );
  return router.router;
}
