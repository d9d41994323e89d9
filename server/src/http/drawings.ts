import type { Router } from 'express';
import { drawingChangeSchema, offerAnswerSchema, ROUTES, type DrawingChange, type OfferAnswer } from '@folvex/contract';
import { drawingById, drawingInfoOf, changeDrawing } from '../data/drawings';
import { projectFacts } from '../data/projects';
import { refuseTakenName } from '../work/drawings/names';
import { answerOffer, mergeComments, receiveDrawing } from '../work/drawings/receive';
import { spaceView } from '../work/drawings/space-view';
import { refuseFullProject } from '../work/storage';
import { notFound } from '../errors';
import { bodyOf, handler, parameter } from './answers';
import { guardedRouter, setSubject } from './guarded-router';
import type { Services } from '../work/services';
import { receiveDrawingFile } from './upload';

/** Drawings that come in, what is decided about them, and their miniatures. */
export function drawingRoutes(services: Services): Router {
  const { db, store } = services;
  const router = guardedRouter(services);
  router.post(
    ROUTES.drawings,
    handler(async (request, response) => {
      const projectId = parameter(request, 'project');
      if (!(await projectFacts(db, projectId))) throw notFound('The project');
      await refuseFullProject(services, projectId);
      const file = await receiveDrawingFile(request, store);
      const newerOf = typeof request.query['newerOf'] === 'string' ? request.query['newerOf'] : undefined;
      setSubject(request, file.name);
      const received = await receiveDrawing(services, projectId, file, newerOf);
      response.status(received.outcome === 'added' ? 201 : 200).json(received);
      // Whoever drops a drawing usually looks at it next. What goes wrong is reported when it is asked for.
      if (received.outcome === 'added')
        await spaceView(services, { ...received.drawing, projectId }, 0).catch(() => undefined);
    }),
  );
  router.post(
    ROUTES.offers,
    handler(async (request, response) => {
      const projectId = parameter(request, 'project');
      if (!(await projectFacts(db, projectId))) throw notFound('The project');
      await refuseFullProject(services, projectId);
      const answer = bodyOf(request, offerAnswerSchema) as OfferAnswer;
      setSubject(request, answer.offered.name);
      response.json(await answerOffer(services, projectId, answer));
    }),
  );
  router.get(
    ROUTES.drawing,
    handler(async (request, response) => {
      const info = await drawingInfoOf(db, parameter(request, 'drawing'));
      if (!info) throw notFound('The drawing');
      response.json(info);
    }),
  );
  router.patch(
    ROUTES.drawing,
    handler(async (request, response) => {
      const change = bodyOf(request, drawingChangeSchema) as DrawingChange;
      const id = parameter(request, 'drawing');
      if (change.name !== undefined) await refuseTakenName(services, id, change.name);
      const info = (await changeDrawing(db, id, change)) && (await drawingInfoOf(db, id));
      if (!info) throw notFound('The drawing');
      setSubject(request, info.name);
      response.json(info);
    }),
  );
  router.post(
    ROUTES.commentsMerged,
    handler(async (request, response) => {
      const row = await drawingById(db, parameter(request, 'drawing'));
      if (!row) throw notFound('The drawing');
      await refuseFullProject(services, row.projectId);
      response.json(await mergeComments(services, row));
    }),
  );
  router.get(
    ROUTES.miniature,
    handler(async (request, response) => {
      const row = await drawingById(db, parameter(request, 'drawing'));
      if (!row?.miniature) throw notFound('The miniature');
      // The address is the same for every version: the browser asks whether it still holds.
      response.setHeader('ETag', `"${row.miniature}"`);
      response.setHeader('Cache-Control', 'private, no-cache');
      if (request.headers['if-none-match'] === `"${row.miniature}"`) return void response.status(304).end();
      response.type('application/octet-stream').send(await store.read(row.miniature));
    }),
  );
  return router.router;
}
