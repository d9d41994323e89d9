import type { Request, Response, Router } from 'express';
import { recipientPageOpeningSchema, ROUTES, type Delivered, type RecipientPageContent } from '@folvex/contract';
import { recordAudit } from '../data/audit';
import { outcomesOf } from '../data/deliveries';
import { projectFacts } from '../data/projects';
import { addVisit, type PageOfDelivery } from '../data/recipient-pages';
import { runById, runFilesOf, type RunFileRow } from '../data/runs';
import { notFound, Refused } from '../errors';
import { isPagePassword, mailOf, pageByLink, passwordOf } from '../work/deliveries/recipient-page';
import type { Services } from '../work/services';
import { bodyOf, handler, parameter } from './answers';
import { guardedRouter, isLaterPart } from './guarded-router';
import { PasswordTries } from './password-tries';
import { sendRunFile, sendRunFiles } from './run-files';
import { refuseAlone } from './sessions';

/** Pages that a browser may have opened with passwords; the oldest is forgotten first. */
const MAX_OPENED = 20;

/** Pages that recipients of emails download files from. */
export function recipientPageRoutes(services: Services): Router {
  const { connection, db } = services;
  const router = guardedRouter(services);
  const tries = new PasswordTries(connection);
  /** The page of a link, which must be open. */
  const openPage = async (request: Request): Promise<PageOfDelivery> => {
    refuseAlone(services);
    const page = await pageByLink(services, parameter(request, 'link'));
    if (!page) {
      const sentence = 'This link is not valid. Copy all of it from the email, or ask the sender for a new one.';
      throw new Refused(404, 'page.unknown', sentence);
    }
    if (page.isOpen) return page;
    const sentence = `These files can no longer be downloaded here. Ask ${mailOf(page).from} to send them again.`;
    throw new Refused(410, 'page.ended', sentence);
  };
  /** The same, with its password stated before in this browser, if it has one. */
  const letIn = async (request: Request): Promise<PageOfDelivery> => {
    const page = await openPage(request);
    if (page.sealedPassword !== null && !hasOpened(request, page)) throw asksForPassword(page);
    return page;
  };
  const audit = (page: PageOfDelivery, event: `page.${'opened' | 'refused' | 'downloaded'}`, what = '') => {
    const subject = [mailOf(page).to, what].filter(Boolean).join(': ');
    return recordAudit(db, { by: null, event, projectId: page.projectId, subject });
  };
  const checkPassword = async (request: Request, page: PageOfDelivery, typed: string | undefined): Promise<void> => {
    const password = passwordOf(services, page);
    if (password === null || hasOpened(request, page)) return;
    if (typed === undefined) throw asksForPassword(page);
    const who = [`page ${page.deliveryId}`, request.ip ?? ''] as const;
    await tries.begin(...who);
    if (!isPagePassword(typed, password)) {
      await audit(page, 'page.refused');
      throw new Refused(403, 'page.password', `The password is wrong; ${mailOf(page).from} has the right one.`);
    }
    await tries.succeed(...who);
    request.session.openedPages = [...(request.session.openedPages ?? []), page.deliveryId].slice(-MAX_OPENED);
  };

  /** Keeps that files were downloaded, once all of them was sent; who asks for headers alone downloads nothing. */
  const onceSent = (
    request: Request,
    response: Response,
    page: PageOfDelivery,
    { position, what }: { position: number | null; what: string },
  ): void => {
    if (request.method === 'HEAD' || isLaterPart(request)) return;
    response.on('finish', () => {
      if (response.statusCode >= 300) return;
      Promise.all([addVisit(db, page, { what: 'downloaded', position }), audit(page, 'page.downloaded', what)]).catch(
        (err: unknown) => request.log.error({ err }, 'a download from a recipient’s page is not recorded'),
      );
    });
  };

  router.post(
    ROUTES.recipientPage,
    handler(async (request, response) => {
      const page = await openPage(request);
      await checkPassword(request, page, bodyOf(request, recipientPageOpeningSchema).password);
      await addVisit(db, page, { what: 'opened' });
      await audit(page, 'page.opened');
      response.json(await contentOf(services, page));
    }),
  );
  router.get(
    ROUTES.recipientFile,
    handler(async (request, response) => {
      const page = await letIn(request);
      const position = Number(parameter(request, 'index')) || 0;
      const file = (await filesOn(services, page)).find((one) => one.position === position);
      if (!file) throw notFound('The file');
      onceSent(request, response, page, { position, what: file.path });
      await sendRunFile(services, response, file, { disposition: 'attachment', cache: 'private, no-cache' });
    }),
  );
  router.get(
    ROUTES.recipientZip,
    handler(async (request, response) => {
      const page = await letIn(request);
      const run = await runById(db, page.runId);
      onceSent(request, response, page, { position: null, what: 'all files' });
      await sendRunFiles(services, response, run!, await filesOn(services, page));
    }),
  );
  return router.router;
}

function hasOpened(request: Request, { deliveryId }: PageOfDelivery): boolean {
  return request.session.openedPages?.includes(deliveryId) === true;
}

function asksForPassword(page: PageOfDelivery): Refused {
  return new Refused(403, 'page.password', `This page asks for a password; ${mailOf(page).from} has it.`);
}

/** The files on a page: those of its run that its recipient gets. */
async function filesOn({ db }: Services, { runId, deliveryId }: PageOfDelivery): Promise<RunFileRow[]> {
  const [files, outcomes] = await Promise.all([runFilesOf(db, runId), outcomesOf(db, deliveryId)]);
  const isLeftOut = (outcome: Delivered | undefined): boolean =>
    outcome !== undefined && 'how' in outcome && outcome.how === 'left out';
  return files.filter(({ position }) => !isLeftOut(outcomes.get(position)));
}

async function contentOf(services: Services, page: PageOfDelivery): Promise<RecipientPageContent> {
  const { db } = services;
  const [run, files, project] = await Promise.all([
    runById(db, page.runId),
    filesOn(services, page),
    projectFacts(db, page.projectId),
  ]);
  const { from, to } = mailOf(page);
  return {
    ...{ projectNumber: project!.facts.number, projectName: project!.facts.name, packageName: run!.packageName },
    ...{ publishedAt: run!.createdAt.toISOString(), from, to, lastDay: page.lastDay },
    files: files.map(({ position, path, bytes, pages }) => ({ position, path, bytes, pages })),
  };
}
