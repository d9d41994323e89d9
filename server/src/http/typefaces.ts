import type { Router, Request, Response } from 'express';
import { ROUTES } from '@folvex/contract';
import { SHIPPED_FONTS, type ShippedFont } from '@folvex/core';
import { fontFile } from '@folvex/press';
import { drawingById } from '../data/drawings';
import { settingsOf } from '../data/settings';
import { notFound } from '../errors';
import { typefacePath } from '../work/projects/typeface-files';
import { refuseFullProject } from '../work/storage';
import { addTypefaces } from '../work/projects/typefaces';
import type { Services } from '../work/services';
import { handler, parameter } from './answers';
import { inProject, guardedRouter } from './guarded-router';
import { receiveFile, type UploadLimit } from './upload';

/** Files of typefaces for all languages of East Asia have some 30 MB. */
const LIMIT: UploadLimit = {
  bytes: 100_000_000,
  sentence: (name) => `${name} is larger than 100 MB; choose a file with fewer typefaces.`,
};

/** The typefaces that ship, and those of projects: they come in, and browsers paint with them. */
export function typefaceRoutes(services: Services): Router {
  const { db, store } = services;
  const router = guardedRouter(services);
  router.get(ROUTES.font, (request, response, next) => {
    const id = parameter(request, 'font') as ShippedFont;
    if (!SHIPPED_FONTS.includes(id)) return next(notFound('The typeface'));
    response.setHeader('Cache-Control', FOREVER);
    response.type('font/ttf').sendFile(fontFile(id), { dotfiles: 'allow' });
  });
  router.post(
    ROUTES.typefaces,
    handler(async (request, response) => {
      const projectId = parameter(request, 'project');
      if (!(await settingsOf(db, projectId))) throw notFound('The project');
      await refuseFullProject(services, projectId);
      const file = await receiveFile(request, LIMIT, (stream, check) => store.receive(stream, check));
      response.status(201).json(await addTypefaces(services, inProject(request), file));
    }),
  );
  const sendOwn = async (projectId: string, request: Request, response: Response): Promise<void> => {
    const settings = await settingsOf(db, projectId);
    const path = settings && (await typefacePath(store, settings.project, parameter(request, 'font')));
    if (!path) throw notFound('The typeface');
    response.setHeader('Cache-Control', FOREVER);
    response.type('font/otf').sendFile(path, { dotfiles: 'allow' });
  };
  router.get(
    ROUTES.ownFont,
    handler((request, response) => sendOwn(parameter(request, 'project'), request, response)),
  );
  router.get(
    ROUTES.drawingFont,
    handler(async (request, response) => {
      const drawing = await drawingById(db, parameter(request, 'drawing'));
      if (!drawing) throw notFound('The drawing');
      await sendOwn(drawing.projectId, request, response);
    }),
  );
  return router.router;
}

/** The address of a typeface names its content. */
const FOREVER = 'private, max-age=31536000, immutable';
