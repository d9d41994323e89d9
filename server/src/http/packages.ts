import { randomUUID } from 'node:crypto';
import type { Router } from 'express';
import {
  destinationQuerySchema,
  newPackageSchema,
  packageChangeSchema,
  packageWith,
  ROUTES,
  SENDING_FIELDS,
  type LookedAtDestination,
  type PackageChange,
  type ScheduleInfo,
} from '@folvex/contract';
import {
  isExtraPage,
  legalPath,
  resolvePackage,
  scheduledTimes,
  STANDARD_NAMES,
  type Destination,
  type SheetPackage,
} from '@folvex/core';
import { databaseTime } from '../data/clock';
import { scheduleOutcome } from '../data/schedules';
import { packageById, projectFacts, sheetsOf } from '../data/projects';
import { lookOrSay } from '../work/destinations';
import { makeEdit } from '../work/edits';
import { refuseChanged, wordsOf } from '../work/packages/package-fields';
import { pageOf } from '../work/sheets/sheet-page';
import { notFound } from '../errors';
import { bodyOf, handler, parameter } from './answers';
import { inProject, guardedRouter, requireRole } from './guarded-router';
import type { Services } from '../work/services';

/** How many of the next times of a schedule are told. */
const SHOWN_TIMES = 3;

export function packageRoutes(services: Services): Router {
  const { db } = services;
  const router = guardedRouter(services);
  router.post(
    ROUTES.packages,
    handler(async (request, response) => {
      const projectId = parameter(request, 'project');
      const { name, like: modelId } = bodyOf(request, newPackageSchema);
      const project = await projectFacts(db, projectId);
      if (!project) throw notFound('The project');
      const recipe = project.recipes[0]?.id ?? '';
      const model = modelId ? await packageById(db, projectId, modelId) : undefined;
      if (modelId && !model) throw notFound('The package');
      const blank: Omit<SheetPackage, 'id' | 'name'> = { recipe, order: [], bundling: 'one', names: STANDARD_NAMES };
      // A copy publishes by hand until somebody says otherwise.
      const { publishes: _, ...like } = model ?? blank;
      const pack: SheetPackage = { ...like, id: randomUUID(), name };
      const edit = { words: `package ${name}`, pack: { before: null, after: pack } };
      response.status(201).json(await makeEdit(services, inProject(request), edit));
    }),
  );
  router.get(
    ROUTES.schedule,
    handler(async (request, response) => {
      const [project, id] = [parameter(request, 'project'), parameter(request, 'package')];
      const pack = await packageById(db, project, id);
      if (!pack) throw notFound('The package');
      const { zone, quietMinutes } = services.schedules;
      const next = scheduledTimes(pack, { after: await databaseTime(db), zone, count: SHOWN_TIMES });
      const last = await scheduleOutcome(db, project, id);
      const times = next.map((ms) => new Date(ms).toISOString());
      response.json({ next: times, zone, quietMinutes, last } satisfies ScheduleInfo);
    }),
  );
  router.delete(
    ROUTES.package,
    handler(async (request, response) => {
      const projectId = parameter(request, 'project');
      const pack = await packageById(db, projectId, parameter(request, 'package'));
      if (!pack) throw notFound('The package');
      const edit = { words: `removal of ${pack.name}`, pack: { before: pack, after: null } };
      response.json(await makeEdit(services, inProject(request), edit));
    }),
  );
  router.patch(
    ROUTES.package,
    handler(async (request, response) => {
      const projectId = parameter(request, 'project');
      const change = bodyOf(request, packageChangeSchema) as PackageChange;
      const pack = await packageById(db, projectId, parameter(request, 'package'));
      if (!pack) throw notFound('The package');
      refuseChanged(pack, change);
      if (SENDING_FIELDS.some((field) => field in change)) requireRole(request, projectId, 'lead');
      const changed = packageWith(pack, change);
      const words = `${wordsOf(pack, changed)} of ${pack.name}`;
      response.json(await makeEdit(services, inProject(request), { words, pack: { before: pack, after: changed } }));
    }),
  );
  router.get(
    ROUTES.addedPageFacts,
    handler(async (request, response) => {
      const projectId = parameter(request, 'project');
      const [pack, project] = [
        await packageById(db, projectId, parameter(request, 'package')),
        await projectFacts(db, projectId),
      ];
      if (!pack || !project) throw notFound('The package');
      // Pages that are left out this time are shown too.
      const { sheets } = resolvePackage({ ...pack, pages: {} }, await sheetsOf(db, projectId), project.facts);
      const page = parameter(request, 'page');
      const added = isExtraPage(pack, page) && sheets.find(({ id }) => id === page);
      if (!added) throw notFound('The page');
      const { facts } = await pageOf(services, projectId, added);
      response.type('application/json').send(await services.store.read(facts));
    }),
  );
  router.post(
    ROUTES.atDestinations,
    handler(async (request, response) => {
      const { destinations, paths } = bodyOf(request, destinationQuerySchema);
      const project = parameter(request, 'project');
      const legal = paths.filter((path) => legalPath(path) === path);
      const looked = (destinations as Destination[]).map((one) => lookOrSay(services, project, one, legal));
      response.json((await Promise.all(looked)) satisfies LookedAtDestination[]);
    }),
  );
  return router.router;
}
