import type { Router } from 'express';
import { ROUTES } from '@folvex/contract';
import { ProblemError } from '@folvex/core';
import type { FoundChanges } from '@folvex/press';
import { drawingById, projectsWithContent } from '../data/drawings';
import { findArtifact, saveArtifacts } from '../data/artifacts';
import { isHash } from '../files/store';
import { SOURCE_HASHES } from '../model/sources';
import { spaceView } from '../work/drawings/space-view';
import { notFound } from '../errors';
import { handler, parameter } from './answers';
import { guardedRouter } from './guarded-router';
import type { Services } from '../work/services';

const FOREVER = 'private, max-age=31536000, immutable';

/** The content of drawings: their pictures, and what differs between versions. */
export function drawingContentRoutes(services: Services): Router {
  const { db, store, press } = services;
  const router = guardedRouter(services);
  const fileOf = async (hash: string, name: string) => {
    if (!isHash(hash) || !(await store.has(hash))) throw notFound('The file');
    return { name, hash, path: await store.localFile(hash) };
  };
  router.get(
    ROUTES.picture,
    handler(async (request, response) => {
      const file = await fileOf(parameter(request, 'content'), 'drawing');
      const picture = await press.picture({ file, index: Number(parameter(request, 'index')) });
      if (!picture) throw notFound('The picture');
      response.setHeader('Cache-Control', FOREVER);
      response.type(picture.type).send(Buffer.from(picture.bytes));
    }),
  );
  const changes = async (drawing: string, from: string, to: string): Promise<{ facts: string; picture: string }> => {
    const row = await drawingById(db, drawing);
    if (!row) throw notFound('The drawing');
    // A hash alone gives nobody a right to a content.
    for (const hash of [from, to])
      if (!(await projectsWithContent(db, hash)).includes(row.projectId)) throw notFound('The file');
    const key = `${SOURCE_HASHES.changes} ${from} ${to}`;
    const [facts, picture] = [await findArtifact(db, 'changes', key), await findArtifact(db, 'changes-picture', key)];
    if (facts && picture !== undefined) return { facts, picture };
    const [before, after] = [await fileOf(from, row.name), await fileOf(to, row.name)];
    const found = await press.changes({ before, after });
    if (!found.ok) throw new ProblemError(found.problem);
    const made = await keep(found.value);
    await saveArtifacts(db, [
      { kind: 'changes', key, hash: made.facts },
      { kind: 'changes-picture', key, hash: made.picture },
    ]);
    return made;
  };
  const keep = async ({ changes: facts, picture }: FoundChanges): Promise<{ facts: string; picture: string }> => ({
    facts: await store.put(Buffer.from(JSON.stringify(facts))),
    picture: picture ? await store.put(picture) : '',
  });
  const parameters = ['drawing', 'from', 'to'] as const;
  router.get(
    ROUTES.changes,
    handler(async (request, response) => {
      const [drawing, from, to] = parameters.map((name) => parameter(request, name)) as [string, string, string];
      const { facts } = await changes(drawing, from, to);
      response.type('application/json').send(await store.read(facts));
    }),
  );
  router.get(
    ROUTES.changesPicture,
    handler(async (request, response) => {
      const [drawing, from, to] = parameters.map((name) => parameter(request, name)) as [string, string, string];
      const { picture } = await changes(drawing, from, to);
      if (!picture) throw notFound('The picture');
      response.setHeader('Cache-Control', FOREVER);
      response.type('application/octet-stream').send(await store.read(picture));
    }),
  );
  const spaceOf = async (drawing: string, space: number) => {
    const row = await drawingById(db, drawing);
    if (!row) throw notFound('The drawing');
    return spaceView({ db, store, press }, row, space);
  };
  router.get(
    ROUTES.space,
    handler(async (request, response) => {
      const { info } = await spaceOf(parameter(request, 'drawing'), Number(parameter(request, 'space')));
      response.type('application/json').send(await store.read(info));
    }),
  );
  router.get(
    ROUTES.spacePage,
    handler(async (request, response) => {
      const { page } = await spaceOf(parameter(request, 'drawing'), Number(parameter(request, 'space')));
      if (!page) throw notFound('The page');
      response.setHeader('ETag', `"${page}"`);
      response.setHeader('Cache-Control', 'private, no-cache');
      if (request.headers['if-none-match'] === `"${page}"`) return void response.status(304).end();
      response.type('application/octet-stream').send(await store.read(page));
    }),
  );
  router.get(
    ROUTES.spaceEntity,
    handler(async (request, response) => {
      const row = await drawingById(db, parameter(request, 'drawing'));
      if (!row) throw notFound('The drawing');
      const [space, index] = ['space', 'index'].map((name) => Number(parameter(request, name))) as [number, number];
      const found = await press.entity({ file: await fileOf(row.hash, row.name), space, index });
      if (!found.ok) throw new ProblemError(found.problem);
      if (!found.value) throw notFound('The entity');
      response.json(found.value);
    }),
  );
  return router.router;
}
