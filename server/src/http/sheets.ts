import { randomUUID } from 'node:crypto';
import type { Router } from 'express';
import {
  composedSheetsSchema,
  manyChangeSchema,
  newSheetSchema,
  ROUTES,
  sheetChangeSchema,
  sheetsRemovedSchema,
  type ManyChange,
  type NewSheet,
  type SheetChange,
} from '@folvex/contract';
import { sheetFromLayout, type Sheet } from '@folvex/core';
import { today } from '@folvex/press';
import { drawingById } from '../data/drawings';
import { changesDestination, historyOf } from '../data/edits';
import { sheetById, sheetsOf } from '../data/projects';
import { groupsOf } from '../data/settings';
import { makeEdit, stepHistory } from '../work/edits';
import { changeSheets, duplicateSheet, changeInWords } from '../work/sheets/many-sheets';
import { newSheet } from '../work/sheets/new-sheets';
import { withHeldVersion, COMPOSED_FIELDS, refuseChanged, withFields, wordsOf } from '../work/sheets/sheet-fields';
import { composeSheets, pageOf, SheetPages } from '../work/sheets/sheet-page';
import { notFound } from '../errors';
import { bodyOf, handler, parameter } from './answers';
import { guardedRouter, inProject, requireRole } from './guarded-router';
import type { Services } from '../work/services';

export function sheetRoutes(services: Services): Router {
  const { db } = services;
  const router = guardedRouter(services);
  router.post(
    ROUTES.sheets,
    handler(async (request, response) => {
      const projectId = parameter(request, 'project');
      const wanted = bodyOf(request, newSheetSchema) as NewSheet;
      const group = (await groupsOf(db, projectId)).find(({ id }) => id === wanted.group);
      const sheet = newSheet(wanted, group?.sheets);
      // Composing it once says at once what is wrong with it, before it is kept.
      await pageOf(services, projectId, sheet);
      const edit = { words: `sheet ${sheet.number}`, sheets: [{ before: null, after: sheet }] };
      response.status(201).json(await makeEdit(services, inProject(request), edit));
    }),
  );
  router.post(
    ROUTES.layoutSheets,
    handler(async (request, response) => {
      const projectId = parameter(request, 'project');
      const drawing = await drawingById(db, parameter(request, 'drawing'));
      if (!drawing || drawing.projectId !== projectId) throw notFound('The drawing');
      const taken = await sheetsOf(db, projectId);
      const pages = await SheetPages.of(services, projectId);
      const made: Sheet[] = [];
      for (const { name, paper, fields } of drawing.facts.layouts) {
        const known = taken.some(({ from }) => from?.drawing === drawing.id && from.layout === name);
        if (known || !paper) continue;
        const sheet = sheetFromLayout(randomUUID(), { drawing: drawing.id, name, paper, fields }, today());
        await pages.make(sheet);
        made.push(sheet);
      }
      const words = `${made.length} sheets from the layouts of ${drawing.name}`;
      const sheets = made.map((after) => ({ before: null, after }));
      response.status(201).json(await makeEdit(services, inProject(request), { words, sheets }));
    }),
  );
  router.post(
    ROUTES.sheetsChanged,
    handler(async (request, response) => {
      const projectId = parameter(request, 'project');
      const { ids, set } = bodyOf(request, manyChangeSchema) as ManyChange;
      const meant = (await sheetsOf(db, projectId)).filter(({ id }) => ids.includes(id));
      const sheets = await changeSheets(services, projectId, meant, set);
      response.json(await makeEdit(services, inProject(request), { words: changeInWords(set, sheets.length), sheets }));
    }),
  );
  router.post(
    ROUTES.sheetCopies,
    handler(async (request, response) => {
      const projectId = parameter(request, 'project');
      const all = await sheetsOf(db, projectId);
      const sheet = all.find(({ id }) => id === parameter(request, 'sheet'));
      if (!sheet) throw notFound('The sheet');
      const copy = duplicateSheet(sheet, randomUUID(), all);
      const edit = { words: `copy of ${sheet.number}`, sheets: [{ before: null, after: copy }] };
      response.status(201).json(await makeEdit(services, inProject(request), edit));
    }),
  );
  router.post(
    ROUTES.sheetsRemoved,
    handler(async (request, response) => {
      const projectId = parameter(request, 'project');
      const { ids } = bodyOf(request, sheetsRemovedSchema);
      const gone = (await sheetsOf(db, projectId)).filter(({ id }) => ids.includes(id));
      const words = gone.length === 1 ? `removal of ${gone[0]!.number}` : `removal of ${gone.length} sheets`;
      const sheets = gone.map((before) => ({ before, after: null }));
      response.json(await makeEdit(services, inProject(request), { words, sheets }));
    }),
  );
  router.patch(
    ROUTES.sheet,
    handler(async (request, response) => {
      const projectId = parameter(request, 'project');
      const { hold, was, ...fields } = bodyOf(request, sheetChangeSchema) as SheetChange;
      const sheet = await sheetById(db, projectId, parameter(request, 'sheet'));
      if (!sheet) throw notFound('The sheet');
      if (was) refuseChanged(sheet, was);
      let changed = withFields(sheet, fields);
      if (hold) {
        const drawing = await drawingById(db, hold.drawing);
        if (!drawing || drawing.projectId !== projectId) throw notFound('The drawing');
        changed = withHeldVersion(changed, hold.drawing, hold.held ? drawing.version : undefined);
      }
      // What cannot be made is not kept.
      if (COMPOSED_FIELDS.some((field) => field in fields)) await pageOf(services, projectId, changed);
      const edit = {
        words: `${wordsOf(fields, hold)} of ${sheet.number}`,
        sheets: [{ before: sheet, after: changed }],
      };
      response.json(await makeEdit(services, inProject(request), edit));
    }),
  );
  router.get(
    ROUTES.history,
    handler(async (request, response) => {
      response.json(await historyOf(db, parameter(request, 'project')));
    }),
  );
  for (const way of ['undo', 'redo'] as const) {
    router.post(
      ROUTES[way],
      handler(async (request, response) => {
        const within = inProject(request);
        if (await changesDestination(db, within.project, way)) requireRole(request, within.project, 'lead');
        response.json(await stepHistory(services, within, way));
      }),
    );
  }
  router.post(
    ROUTES.composedSheets,
    handler(async (request, response) => {
      const projectId = parameter(request, 'project');
      const wanted = new Set(bodyOf(request, composedSheetsSchema).ids);
      const sheets = (await sheetsOf(db, projectId)).filter(({ id }) => wanted.has(id));
      response.json(await composeSheets(services, projectId, sheets));
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
  return router.router;
}
