import type { Router } from 'express';
import { ROUTES, settingsChangeSchema, settingsWith, type SettingsChange } from '@folvex/contract';
import { paperOf, sameValue, type ProjectSettings } from '@folvex/core';
import { testSheetPdf } from '@folvex/press';
import type { Database } from '../data/database';
import { projectsWithTypeface, sheetById } from '../data/projects';
import { settingsOf } from '../data/settings';
import { mayIn, type Caller } from '../work/access/caller';
import { makeEdit } from '../work/edits';
import { settingsEditInWords } from '../work/projects/settings-words';
import { blockPage } from '../work/sheets/block-page';
import { notFound, Refused } from '../errors';
import { bodyOf, handler, parameter } from './answers';
import { callerOf, guardedRouter, inProject, requireRole } from './guarded-router';
import type { Services } from '../work/services';

/** The settings of projects. */
export function settingsRoutes(services: Services): Router {
  const { db } = services;
  const router = guardedRouter(services);
  router.patch(
    ROUTES.settings,
    handler(async (request, response) => {
      const projectId = parameter(request, 'project');
      const { was, ...change } = bodyOf(request, settingsChangeSchema) as SettingsChange;
      const before = await settingsOf(db, projectId);
      if (!before) throw notFound('The project');
      if (was) refuseChanged(before, was);
      const after = settingsWith(before, change);
      if (!sameValue(setByLeads(before), setByLeads(after))) requireRole(request, projectId, 'lead');
      await refuseForeignTypefaces(db, callerOf(request), before, after);
      response.json(
        await makeEdit(services, inProject(request), {
          words: settingsEditInWords(before, after),
          settings: { before, after },
        }),
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
  router.get(
    ROUTES.testSheet,
    handler(async (request, response) => {
      const settings = await settingsOf(db, parameter(request, 'project'));
      if (!settings) throw notFound('The project');
      const name = parameter(request, 'paper');
      const paper = paperOf(name, 'landscape', settings.project.papers);
      if (!paper) throw notFound('The paper');
      response.setHeader(
        'Content-Disposition',
        `inline; filename*=UTF-8''${encodeURIComponent(`Test sheet ${name}.pdf`)}`,
      );
      response.type('application/pdf').send(Buffer.from(await testSheetPdf(paper, name)));
    }),
  );
  return router.router;
}

/** Who somebody is decides where packages are sent; an inbox, what comes in without anybody looking. */
function setByLeads({ project: { people = [], inboxes = [] } }: ProjectSettings): unknown {
  return { people, inboxes };
}

/** Typefaces come by uploads, or from projects that the person may see: a hash alone gives nobody a right to a content. */
async function refuseForeignTypefaces(
  db: Database,
  caller: Caller,
  before: ProjectSettings,
  after: ProjectSettings,
): Promise<void> {
  const own = new Set((before.project.typefaces ?? []).map(({ hash }) => hash));
  for (const { name, hash } of after.project.typefaces ?? []) {
    if (!hash || own.has(hash)) continue;
    const holders = await projectsWithTypeface(db, hash);
    if (holders.some((project) => mayIn(caller, project, 'reader'))) continue;
    throw new Refused(422, 'typeface.unknown', `The typeface ${name} is not on the server; upload its file.`);
  }
}

/** Refuses a change to settings that no longer are what the person saw. */
function refuseChanged(
  now: ProjectSettings,
  { project: own = {}, ...lists }: NonNullable<SettingsChange['was']>,
): void {
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
