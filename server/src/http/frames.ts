import { randomUUID } from 'node:crypto';
import type { Router } from 'express';
import { newFrameSheetsSchema, ROUTES, type NewFrameSheets } from '@folvex/contract';
import { numbersFrom, planFrames, type FrameOrder, type FrameSheet, type LengthUnit, type Sheet } from '@folvex/core';
import type { FrameOnLayer } from '@folvex/press';
import { drawingById, type DrawingRow } from '../data/drawings';
import { makeEdit } from '../work/edits';
import { sheetsOf } from '../data/projects';
import { notFound, Refused } from '../errors';
import { bodyOf, handler, parameter } from './answers';
import { inProject, guardedRouter } from './guarded-router';
import type { Services } from '../work/services';

const ORDERS: readonly FrameOrder[] = ['rows', 'columns', 'text'];

/** The frame finder: closed rectangles of a drawing become sheets in one step. */
export function frameRoutes(services: Services): Router {
  const { db, store, press } = services;
  const router = guardedRouter(services);
  const framesOf = async ({ name, hash }: DrawingRow, unit: LengthUnit, order: FrameOrder) =>
    press.frames({ file: { name, hash, path: await store.localFile(hash) }, unit, order });
  const drawingOf = async (project: string, id: string): Promise<{ row: DrawingRow; unit: LengthUnit }> => {
    const row = await drawingById(db, id);
    if (!row || row.projectId !== project) throw notFound('The drawing');
    const unit = (row.unit ?? row.facts.unit) as LengthUnit | null;
    if (unit) return { row, unit };
    const sentence = `${row.name} does not say what unit it is drawn in; state it first.`;
    throw new Refused(422, 'drawing.unit', sentence, { file: row.name });
  };
  router.get(
    ROUTES.frames,
    handler(async (request, response) => {
      const { row, unit } = await drawingOf(parameter(request, 'project'), parameter(request, 'drawing'));
      const order = ORDERS.find((one) => one === parameter(request, 'order')) ?? 'rows';
      response.json(await framesOf(row, unit, order));
    }),
  );
  router.post(
    ROUTES.frameSheets,
    handler(async (request, response) => {
      const projectId = parameter(request, 'project');
      const wanted = bodyOf(request, newFrameSheetsSchema) as NewFrameSheets;
      const { row, unit } = await drawingOf(projectId, parameter(request, 'drawing'));
      const found = (await framesOf(row, unit, wanted.order)).find(({ layer }) => layer === wanted.layer);
      const frames = found?.frames ?? [];
      const planned = planFrames(frames, wanted.fit, unit, new Set(wanted.skipped));
      const numbers =
        wanted.order === 'text'
          ? planned.flatMap(({ at }) => frames[at]!.number ?? [])
          : numbersFrom(wanted.first, planned.length);
      if (numbers.length < planned.length) {
        const sentence = `Not every frame on ${wanted.layer} holds a number of its own; number them by rows or columns.`;
        throw new Refused(422, 'frames.numbers', sentence, { layer: wanted.layer });
      }
      const taken = new Set((await sheetsOf(db, projectId)).map(({ number }) => number.toLowerCase()));
      const doubled = numbers.find((number) => taken.has(number.toLowerCase()));
      if (doubled !== undefined) {
        const sentence = `Sheet ${doubled} already exists; start with a number that leaves room for ${planned.length}.`;
        throw new Refused(409, 'sheet.number', sentence);
      }
      const sheets = planned.map((one, i) => sheetOf(row.id, frames[one.at]!, one, numbers[i]!, wanted.group));
      const words = `${sheets.length} sheets from frames of ${row.name}`;
      const edits = sheets.map((after) => ({ before: null, after }));
      response.status(201).json(await makeEdit(services, inProject(request), { words, sheets: edits }));
    }),
  );
  return router.router;
}

/** A sheet whose edges are the frame. */
function sheetOf(
  drawing: string,
  { window, rotation }: FrameOnLayer,
  { paper, scale }: FrameSheet,
  number: string,
  group: string,
): Sheet {
  // In the middle, so that it stays there at another scale.
  const view = { id: 'v1', drawing, space: 'model', window, scale, at: 'centre' as const };
  return {
    id: randomUUID(),
    number,
    title: '',
    group,
    paper,
    frame: 'none',
    titleBlock: undefined,
    revision: undefined,
    views: [{ ...view, ...(rotation !== undefined && { rotation }), layersOff: [], label: '' }],
  };
}
