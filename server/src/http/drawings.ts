import { randomUUID } from 'node:crypto';
import { Router } from 'express';
import { drawingChangeSchema, ROUTES } from '@folvex/contract';
import { addDrawing, drawingByHash, drawingById, drawingInfo, projectFacts, setDrawingUnit } from '../data/projects';
import { bodyOf, handler, notFound, parameter } from './answers';
import type { Services } from './services';
import { receiveFile } from './upload';
import { ProblemError } from '@folvex/core';

export function drawingRoutes({ db, store, press }: Services): Router {
  const router = Router();
  router.post(
    ROUTES.drawings,
    handler(async (request, response) => {
      const projectId = parameter(request, 'project');
      if (!(await projectFacts(db, projectId))) throw notFound('The project');
      const { name, hash, bytes } = await receiveFile(request, store);
      const inspected = await press.inspect({ name, hash, path: store.path(hash) });
      if (!inspected.ok) throw new ProblemError(inspected.problem);
      const { facts, miniature } = inspected.value;
      const stored = miniature && (await store.put(miniature));
      const row = { id: randomUUID(), projectId, name, hash, bytes, unit: null, facts, miniature: stored };
      response.status(201).json(drawingInfo(await addDrawing(db, row)));
    }),
  );
  router.patch(
    ROUTES.drawing,
    handler(async (request, response) => {
      const { unit } = bodyOf(request, drawingChangeSchema);
      const row = await setDrawingUnit(db, parameter(request, 'drawing'), unit);
      if (!row) throw notFound('The drawing');
      response.json(drawingInfo(row));
    }),
  );
  router.get(
    ROUTES.miniature,
    handler(async (request, response) => {
      const row = await drawingById(db, parameter(request, 'drawing'));
      if (!row?.miniature) throw notFound('The miniature');
      response.setHeader('Cache-Control', 'private, max-age=31536000, immutable');
      response.type('application/octet-stream').send(await store.read(row.miniature));
    }),
  );
  router.get(
    ROUTES.picture,
    handler(async (request, response) => {
      const row = await drawingByHash(db, parameter(request, 'drawing'));
      const file = row && { name: row.name, hash: row.hash, path: store.path(row.hash) };
      const picture = file && (await press.picture({ file, index: Number(parameter(request, 'index')) }));
      if (!picture) throw notFound('The picture');
      response.setHeader('Cache-Control', 'private, max-age=31536000, immutable');
      response.type(picture.type).send(Buffer.from(picture.bytes));
    }),
  );
  return router;
}
