import type { Request, Router } from 'express';
import { removedSchema, ROUTES } from '@folvex/contract';
import { drawingInfoOf } from '../data/drawings';
import { listProjects } from '../data/projects';
import { runInfo } from '../data/run-infos';
import { removeDrawing, removeProject, removeRun } from '../work/removal';
import { mayIn } from '../work/access/caller';
import type { Services } from '../work/services';
import { bodyOf, handler, parameter } from './answers';
import { callerOf, guardedRouter } from './guarded-router';

type Remove = (services: Services, id: string, removed: boolean) => Promise<void>;

/** Projects, drawings and runs are removed, and restored. */
export function removalRoutes(services: Services): Router {
  const { db } = services;
  const router = guardedRouter(services);
  /** `answer`: how the thing, or the list it belongs to, is afterwards. */
  const route = (
    path: string,
    kind: string,
    remove: Remove,
    answer: (id: string, request: Request) => Promise<unknown>,
  ): void => {
    router.put(
      path,
      handler(async (request, response) => {
        const id = parameter(request, kind);
        await remove(services, id, bodyOf(request, removedSchema).removed);
        response.json(await answer(id, request));
      }),
    );
  };
  route(ROUTES.projectRemoved, 'project', removeProject, async (_id, request) => {
    const caller = callerOf(request);
    return (await listProjects(db)).filter(({ id }) => mayIn(caller, id, 'reader'));
  });
  route(ROUTES.drawingRemoved, 'drawing', removeDrawing, (id) => drawingInfoOf(db, id));
  route(ROUTES.runRemoved, 'run', removeRun, (id) => runInfo(db, id));
  return router.router;
}
