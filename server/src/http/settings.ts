import { randomUUID } from 'node:crypto';
import { Router } from 'express';
import {
  newProjectSchema,
  ROUTES,
  settingsChangeSchema,
  settingsWith,
  type NewProject,
  type SettingsChange,
} from '@folvex/contract';
import { sameValue, type JobFile, type ProjectSettings } from '@folvex/core';
import { insertProject, listProjects, sheetById } from '../data/projects';
import { settingsOf } from '../data/settings';
import { makeEdit } from '../work/edits';
import { exportProject } from '../work/projects/export-project';
import { importArchive } from '../work/projects/import-archive';
import { settingsEditInWords } from '../work/projects/settings-words';
import { blockPage } from '../work/sheets/block-page';
import { notFound, Refused } from '../errors';
import { bodyOf, handler, parameter } from './answers';
import type { Services } from '../work/services';
import { receiveFile } from './upload';

/** Largest archive of a project that is taken, bytes. */
const MAX_ARCHIVE_BYTES = 2 * 1024 ** 3;

/** New projects, projects as archives, and the settings of projects. */
export function settingsRoutes(services: Services): Router {
  const { db, store } = services;
  const router = Router();
  router.post(
    ROUTES.projects,
    handler(async (request, response) => {
      const { number, name, like } = bodyOf(request, newProjectSchema) as NewProject;
      const model = like === undefined ? undefined : await settingsOf(db, like);
      if (like !== undefined && !model) throw notFound('The project whose settings are wanted');
      const blank = { number, name: name.trim(), client: '', fields: {} };
      const project: JobFile['project'] = { ...model?.project, ...blank };
      const id = randomUUID();
      const { groups = [], recipes = [] } = model ?? {};
      await insertProject(db, id, { project, drawings: [], groups, recipes, sheets: [], packages: [] }, []);
      response.status(201).json((await listProjects(db)).find((one) => one.id === id)!);
    }),
  );
  router.post(
    ROUTES.projectImport,
    handler(async (request, response) => {
      const { name, hash } = await receiveFile(request, store, MAX_ARCHIVE_BYTES);
      const id = await importArchive(services, { path: store.path(hash), name });
      response.status(201).json((await listProjects(db)).find((one) => one.id === id)!);
    }),
  );
  router.get(
    ROUTES.projectZip,
    handler(async (request, response) => {
      const exported = await exportProject(services, parameter(request, 'project'));
      if (!exported) throw notFound('The project');
      const name = encodeURIComponent(`${exported.name}.zip`);
      response.setHeader('Content-Disposition', `attachment; filename*=UTF-8''${name}`);
      response.type('application/zip');
      exported.zip.outputStream.pipe(response);
    }),
  );
  router.patch(
    ROUTES.settings,
    handler(async (request, response) => {
      const projectId = parameter(request, 'project');
      const { was, ...change } = bodyOf(request, settingsChangeSchema) as SettingsChange;
      const before = await settingsOf(db, projectId);
      if (!before) throw notFound('The project');
      if (was) refuseChanged(before, was);
      const after = settingsWith(before, change);
      response.json(
        await makeEdit(services, projectId, { words: settingsEditInWords(before, after), settings: { before, after } }),
      );
    }),
  );
  router.get(
    ROUTES.templatePage,
    handler(async (request, response) => {
      const projectId = parameter(request, 'project');
      const [sheet, settings] = await Promise.all([
        sheetById(db, projectId, parameter(request, 'sheet')),
        settingsOf(db, projectId),
      ]);
      if (!sheet || !settings) throw notFound('The sheet');
      response.setHeader('Cache-Control', 'private, no-cache');
      const page = await blockPage(services, projectId, sheet, parameter(request, 'template'), settings.project);
      response.type('application/octet-stream').send(page);
    }),
  );
  return router;
}

/** Refuses a change to settings that no longer are what the person saw. */
function refuseChanged(now: ProjectSettings, { project: own = {}, ...lists }: Omit<SettingsChange, 'was'>): void {
  const seen: [unknown, unknown][] = [
    ...Object.entries(own).map(([key, value]): [unknown, unknown] => [now.project[key as keyof typeof own], value]),
    ...Object.entries(lists).map(([key, value]): [unknown, unknown] => [now[key as 'groups' | 'recipes'], value]),
  ];
  if (seen.every(([is, was]) => sameValue(filled(is), filled(was)))) return;
  const sentence = 'Somebody else changed the settings in the meantime; they are shown as they are now.';
  throw new Refused(409, 'settings.changed', sentence);
}

/** An empty value and a missing one mean the same. */
function filled(value: unknown): unknown {
  return value === '' || (Array.isArray(value) && value.length === 0) ? undefined : value;
}
