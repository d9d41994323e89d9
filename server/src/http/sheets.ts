import { randomUUID } from 'node:crypto';
import { Router } from 'express';
import {
  newSheetSchema,
  ROUTES,
  sheetChangeSchema,
  sheetsRemovedSchema,
  type NewSheet,
  type SheetChange,
} from '@folvex/contract';
import { numberAndTitle, ProblemError, STANDARD_RECIPE, type Sheet } from '@folvex/core';
import { drawingById, drawingSources } from '../data/drawings';
import { addSheet, addSheets, projectFacts, removeSheets, saveSheet, sheetById, sheetsOf } from '../data/projects';
import { madeBefore, rememberMade } from '../data/runs';
import { inputHash, sheetTask } from '../work/sheet-task';
import { bodyOf, handler, notFound, parameter, Refused } from './answers';
import type { Services } from './services';

export function sheetRoutes(services: Services): Router {
  const { db } = services;
  const router = Router();
  router.post(
    ROUTES.sheets,
    handler(async (request, response) => {
      const projectId = parameter(request, 'project');
      const wanted = bodyOf(request, newSheetSchema) as NewSheet;
      const sheet = newSheet(wanted);
      // Composing it once says at once what is wrong with it, before it is kept.
      await pageOf(services, projectId, sheet);
      await addSheet(db, projectId, sheet);
      response.status(201).json(sheet);
    }),
  );
  router.post(
    ROUTES.layoutSheets,
    handler(async (request, response) => {
      const projectId = parameter(request, 'project');
      const drawing = await drawingById(db, parameter(request, 'drawing'));
      if (!drawing || drawing.projectId !== projectId) throw notFound('The drawing');
      const taken = await sheetsOf(db, projectId);
      const made: Sheet[] = [];
      for (const { name, paper } of drawing.facts.layouts) {
        const known = taken.some(({ from }) => from?.drawing === drawing.id && from.layout === name);
        if (known || !paper) continue;
        const sheet = sheetFromLayout(drawing.id, name, paper);
        await pageOf(services, projectId, sheet);
        made.push(sheet);
      }
      await addSheets(db, projectId, made);
      response.status(201).json(made);
    }),
  );
  router.post(
    ROUTES.sheetsRemoved,
    handler(async (request, response) => {
      const { ids } = bodyOf(request, sheetsRemovedSchema);
      const held = await removeSheets(db, parameter(request, 'project'), ids);
      if (held !== undefined) {
        const sentence = `Sheet ${held} stands in a package; take it out there first.`;
        throw new Refused(409, 'sheet.in-package', sentence, { sheet: held });
      }
      response.json({ ids });
    }),
  );
  router.patch(
    ROUTES.sheet,
    handler(async (request, response) => {
      const projectId = parameter(request, 'project');
      const change = bodyOf(request, sheetChangeSchema) as SheetChange;
      const sheet = await sheetById(db, projectId, parameter(request, 'sheet'));
      if (!sheet) throw notFound('The sheet');
      const { hold, ...fields } = change;
      let changed: Sheet = { ...sheet, ...fields };
      if (hold) {
        const drawing = await drawingById(db, hold.drawing);
        if (!drawing || drawing.projectId !== projectId) throw notFound('The drawing');
        changed = holding(changed, hold.drawing, hold.held ? drawing.version : undefined);
      }
      await saveSheet(db, projectId, changed);
      response.json(changed);
    }),
  );
  router.get(
    ROUTES.sheetWarnings,
    handler(async (request, response) => {
      const projectId = parameter(request, 'project');
      const sheet = await sheetById(db, projectId, parameter(request, 'sheet'));
      if (!sheet) throw notFound('The sheet');
      const { warnings } = await pageOf(services, projectId, sheet);
      response.type('application/json').send(await services.store.read(warnings));
    }),
  );
  router.get(
    ROUTES.sheetPage,
    handler(async (request, response) => {
      const projectId = parameter(request, 'project');
      const sheet = await sheetById(db, projectId, parameter(request, 'sheet'));
      if (!sheet) throw notFound('The sheet');
      const { page: hash } = await pageOf(services, projectId, sheet);
      response.setHeader('ETag', `"${hash}"`);
      response.setHeader('Cache-Control', 'private, no-cache');
      if (request.headers['if-none-match'] === `"${hash}"`) return void response.status(304).end();
      response.type('application/octet-stream').send(await services.store.read(hash));
    }),
  );
  return router;
}

/** Hashes of the packed page of a sheet and of its warnings as JSON, made when they are not in the store yet. */
async function pageOf(
  { db, store, press }: Services,
  projectId: string,
  sheet: Sheet,
): Promise<{ page: string; warnings: string }> {
  const project = await projectFacts(db, projectId);
  if (!project) throw notFound('The project');
  const task = sheetTask(store, project.facts, sheet, STANDARD_RECIPE, await drawingSources(db, projectId));
  const key = inputHash(task);
  const [page, warnings] = [await madeBefore(db, 'page', key), await madeBefore(db, 'page-warnings', key)];
  if (page && warnings && (await store.has(page)) && (await store.has(warnings))) return { page, warnings };
  const composed = await press.makePage(task);
  if (!composed.ok) throw new ProblemError(composed.problem);
  const made = {
    page: await store.put(composed.value.page),
    warnings: await store.put(Buffer.from(JSON.stringify(composed.value.warnings))),
  };
  await rememberMade(db, 'page', key, made.page);
  await rememberMade(db, 'page-warnings', key, made.warnings);
  return made;
}

/** A sheet whose views of a drawing are held at a version, or follow it. */
function holding(sheet: Sheet, drawing: string, version: number | undefined): Sheet {
  const held = <T extends { drawing: string; held?: number }>(shown: T): T => {
    if (shown.drawing !== drawing) return shown;
    const next = { ...shown };
    delete next.held;
    if (version !== undefined) next.held = version;
    return next;
  };
  return { ...sheet, views: sheet.views.map(held), ...(sheet.from && { from: held(sheet.from) }) };
}

/** A sheet that takes a layout over as it is; number and title come from the layout's name. */
function sheetFromLayout(drawing: string, layout: string, paper: { width: number; height: number }): Sheet {
  return {
    id: randomUUID(),
    ...numberAndTitle(layout),
    group: '',
    paper: { size: [paper.width, paper.height] },
    frame: 'none',
    titleBlock: undefined,
    revision: undefined,
    views: [],
    from: { drawing, layout },
  };
}

/** A sheet that shows all of a drawing's model, or a window of it, centred, in a frame with a title block. */
function newSheet({ drawing, number, title, group, paper, scale, window }: NewSheet): Sheet {
  return {
    id: randomUUID(),
    number,
    title,
    group,
    paper,
    frame: 'iso5457',
    titleBlock: { fields: {} },
    revision: undefined,
    views: [
      {
        id: 'v1',
        drawing,
        space: 'model',
        window: window ?? 'extents',
        scale,
        at: 'centre',
        layersOff: [],
        label: '',
      },
    ],
  };
}
