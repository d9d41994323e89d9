import { randomUUID } from 'node:crypto';
import { Router } from 'express';
import { newPackageSchema, packageChangeSchema, ROUTES, type PackageChange } from '@folvex/contract';
import { STANDARD_NAMES, type SheetPackage } from '@folvex/core';
import { addPackage, packageById, projectFacts, savePackage } from '../data/projects';
import { bodyOf, handler, notFound, parameter } from './answers';
import type { Services } from './services';

export function packageRoutes({ db }: Services): Router {
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
      await addPackage(db, projectId, pack);
      response.status(201).json(pack);
    }),
  );
  router.patch(
    ROUTES.package,
    handler(async (request, response) => {
      const projectId = parameter(request, 'project');
      const { tiles, beside, ...change } = bodyOf(request, packageChangeSchema) as PackageChange;
      const pack = await packageById(db, projectId, parameter(request, 'package'));
      if (!pack) throw notFound('The package');
      const changed: SheetPackage = { ...pack, ...change, ...(tiles && { tiles }), ...(beside && { beside }) };
      if (tiles === null) delete changed.tiles;
      if (beside === null) delete changed.beside;
      await savePackage(db, projectId, changed);
      response.json(changed);
    }),
  );
  return router;
}
