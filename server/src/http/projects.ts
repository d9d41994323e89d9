import { createWriteStream } from 'node:fs';
import { randomUUID } from 'node:crypto';
import { pipeline } from 'node:stream/promises';
import type { Request, Router } from 'express';
import { newProjectSchema, ROUTES, type NewProject } from '@folvex/contract';
import type { JobFile } from '@folvex/core';
import { setRole } from '../data/accounts';
import { insertProject, listProjects, projectInfo } from '../data/projects';
import { settingsOf } from '../data/settings';
import { notFound, Refused } from '../errors';
import { mayIn } from '../work/access/caller';
import { exportProject } from '../work/projects/export-project';
import { importArchive } from '../work/projects/import-archive';
import type { Services } from '../work/services';
import { bodyOf, handler, parameter, sendArchive } from './answers';
import { callerOf, guardedRouter, requireRole, setSubject } from './guarded-router';
import { receiveFile, type UploadLimit } from './upload';

const ARCHIVE_LIMIT: UploadLimit = {
  bytes: 2 * 1024 ** 3,
  sentence: (name) => `${name} is larger than 2 GB and was not taken; export a project with fewer drawings.`,
};

/** Projects: listed, opened, created, exported and imported as archives. */
export function projectRoutes(services: Services): Router {
  const { db } = services;
  const router = guardedRouter(services);
  /** Whoever creates a project leads it. */
  const created = async (request: Request, id: string) => {
    const { account } = callerOf(request);
    if (account) await setRole(db, id, account.id, 'lead');
    const summary = (await listProjects(db)).find((one) => one.id === id)!;
    setSubject(request, [summary.number, summary.name].filter(Boolean).join(' '));
    return summary;
  };
  router.get(
    ROUTES.projects,
    handler(async (request, response) => {
      const caller = callerOf(request);
      response.json((await listProjects(db)).filter(({ id }) => mayIn(caller, id, 'reader')));
    }),
  );
  router.get(
    ROUTES.project,
    handler(async (request, response) => {
      const info = await projectInfo(db, parameter(request, 'project'));
      if (!info) throw notFound('The project');
      response.json(info);
    }),
  );
  router.post(
    ROUTES.projects,
    handler(async (request, response) => {
      const { number, name, like } = bodyOf(request, newProjectSchema) as NewProject;
      if (like !== undefined) requireRole(request, like, 'reader');
      const model = like === undefined ? undefined : await settingsOf(db, like);
      if (like !== undefined && !model) throw notFound('The project whose settings are wanted');
      const blank = { number, name: name.trim(), client: '', fields: {} };
      const project: JobFile['project'] = { ...model?.project, ...blank };
      const id = randomUUID();
      const { groups = [], recipes = [] } = model ?? {};
      await insertProject(db, id, { project, drawings: [], groups, recipes, sheets: [], packages: [] }, []);
      response.status(201).json(await created(request, id));
    }),
  );
  router.post(
    ROUTES.projectImport,
    handler(async (request, response) => {
      // Cancelled, or the page was closed: nobody waits for the project any more.
      const gone = new AbortController();
      response.on('close', () => gone.abort(new Refused(400, 'upload.aborted', 'The import was cancelled.')));
      const receive = (file: string) =>
        receiveFile(request, ARCHIVE_LIMIT, async (stream, check) => {
          await pipeline(stream, createWriteStream(file));
          check();
        });
      const id = await importArchive(services, receive, gone.signal);
      response.status(201).json(await created(request, id));
    }),
  );
  router.get(
    ROUTES.projectZip,
    handler(async (request, response) => {
      const exported = await exportProject(services, parameter(request, 'project'));
      if (!exported) throw notFound('The project');
      sendArchive(response, exported.archive, exported.name);
    }),
  );
  return router.router;
}
