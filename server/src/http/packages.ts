import { randomUUID } from 'node:crypto';
import { join } from 'node:path';
import { Router } from 'express';
import {
  destinationAskedSchema,
  newPackageSchema,
  packageChangeSchema,
  packageWith,
  ROUTES,
  type AtDestination,
  type PackageChange,
} from '@folvex/contract';
import { isExtraPage, legalPath, resolvePackage, STANDARD_NAMES, type SheetPackage } from '@folvex/core';
import { edit } from '../data/edits';
import { thereAlready } from '../files/destination';
import { packageById, projectFacts, sheetsOf } from '../data/projects';
import { refuseChanged, wordsOf } from '../work/package-fields';
import { pageOf } from '../work/sheet-page';
import { bodyOf, handler, notFound, parameter } from './answers';
import type { Services } from './services';

export function packageRoutes(services: Services): Router {
  const { db, deliveryFolder } = services;
  const router = Router();
  router.post(
    ROUTES.packages,
    handler(async (request, response) => {
      const projectId = parameter(request, 'project');
      const { name, like } = bodyOf(request, newPackageSchema);
      const project = await projectFacts(db, projectId);
      if (!project) throw notFound('The project');
      const recipe = project.recipes[0]?.id ?? '';
      const model = like ? await packageById(db, projectId, like) : undefined;
      if (like && !model) throw notFound('The package');
      const blank = { recipe, order: [], bundling: 'one' as const, names: STANDARD_NAMES };
      const pack: SheetPackage = { ...(model ?? blank), id: randomUUID(), name };
      await edit(db, projectId, `package ${name}`, [], { pack: { before: null, after: pack } });
      response.status(201).json(pack);
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
      const changed = packageWith(pack, change);
      await edit(db, projectId, `${wordsOf(pack, changed)} of ${pack.name}`, [], {
        pack: { before: pack, after: changed },
      });
      response.json(changed);
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
    ROUTES.atDestination,
    handler(async (request, response) => {
      const { folder, paths } = bodyOf(request, destinationAskedSchema);
      // Whatever is asked for lies below the folder that is delivered to.
      const root = join(deliveryFolder, legalPath(folder));
      const told: AtDestination = {
        root,
        paths: thereAlready(
          root,
          paths.filter((path) => legalPath(path) === path),
        ),
      };
      response.json(told);
    }),
  );
  return router;
}
