import compression from 'compression';
import express, { type Router, type Express, type Request, type Response } from 'express';
import helmet from 'helmet';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { ROUTES, type Health } from '@folvex/contract';
import { listProjects } from '../data/projects';
import { notFound } from '../errors';
import { arrivalRoutes } from './arrivals';
import { auditRoutes } from './audit';
import { answerErrors, handler, storableBody } from './answers';
import { guardedRouter } from './guarded-router';
import { deliveryRoutes } from './deliveries';
import { drawingContentRoutes } from './drawing-content';
import { drawingRoutes } from './drawings';
import { frameRoutes } from './frames';
import { healthRoutes } from './health';
import { issueRoutes } from './issues';
import { memberRoutes } from './members';
import { openIdRoutes } from './open-id';
import { ownRequestsOnly } from './own-requests';
import { packageRoutes } from './packages';
import { presenceRoutes } from './presence';
import { projectRoutes } from './projects';
import { recipientPageRoutes } from './recipient-pages';
import { removalRoutes } from './removal';
import { requestLog } from './request-log';
import { runRoutes } from './runs';
import type { Services } from '../work/services';
import { sessionsIn } from './session-store';
import { sessionRoutes } from './sessions';
import { settingsRoutes } from './settings';
import { sheetRoutes } from './sheets';
import { tokenRoutes } from './tokens';
import { storageRoutes } from './storage';
import { transferServerRoutes } from './transfer-servers';
import { typefaceRoutes } from './typefaces';
import { webhookRoutes } from './webhooks';

/**
 * The server's interface and, where `webFolder` is given, the built pages. `names`: the host names
 * that it answers to besides loopback ones.
 */
export function createApp(services: Services, webFolder?: string, names: ReadonlySet<string> = new Set()): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(helmet({ contentSecurityPolicy: { directives: POLICY }, strictTransportSecurity: false }));
  app.use(requestLog(services.log));
  // A trusted proxy says who asked, and whether by TLS.
  app.set('trust proxy', ['loopback', ...(services.office?.proxies ?? [])]);
  app.use(ownRequestsOnly(names));
  app.use(healthRoutes(services));
  if (services.office) app.use('/api', sessionsIn(services.connection, services.office));
  // What grows large is JSON and packed pages; a stream of events is sent line by line and not held back.
  app.use(compression({ filter: isCompressible }));
  app.use(express.json({ limit: '2mb' }), storableBody);
  app.use(
    commonRoutes(services),
    sessionRoutes(services),
    openIdRoutes(services),
    memberRoutes(services),
    tokenRoutes(services),
    auditRoutes(services),
    projectRoutes(services),
    presenceRoutes(services),
    settingsRoutes(services),
    typefaceRoutes(services),
    drawingRoutes(services),
    arrivalRoutes(services),
    sheetRoutes(services),
    packageRoutes(services),
    removalRoutes(services),
    transferServerRoutes(services),
    webhookRoutes(services),
    storageRoutes(services),
  );
  app.use(
    drawingContentRoutes(services),
    frameRoutes(services),
    runRoutes(services),
    deliveryRoutes(services),
    recipientPageRoutes(services),
    issueRoutes(services),
  );
  app.use('/api', (_request, _response, next) => next(notFound('That address')));
  if (webFolder) {
    app.use(express.static(webFolder, { index: false, maxAge: '1h' }));
    app.get('/{*path}', (_request, response) => {
      response.setHeader('Cache-Control', 'no-cache');
      response.sendFile(join(webFolder, 'index.html'), { dotfiles: 'allow' });
    });
  }
  app.use(answerErrors());
  return app;
}

/** Texts as the library has it, and packed pages, which are numbers; not what is packed already, nor events. */
function isCompressible(request: Request, response: Response): boolean {
  const type = String(response.getHeader('Content-Type') ?? '');
  if (type.startsWith('text/event-stream')) return false;
  return type.startsWith('application/octet-stream') || compression.filter(request, response);
}

const POLICY = {
  defaultSrc: ["'self'"],
  scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
  styleSrc: ["'self'", "'unsafe-inline'"],
  workerSrc: ["'self'", 'blob:'],
  imgSrc: ["'self'", 'data:', 'blob:'],
  fontSrc: ["'self'", 'data:'],
  connectSrc: ["'self'"],
  upgradeInsecureRequests: null,
};

/** Whether the server is well, and what can be asked of it. */
function commonRoutes(services: Services): Router {
  const { db } = services;
  const router = guardedRouter(services);
  router.get(
    ROUTES.health,
    handler(async (_request, response) => {
      response.json({ ok: true, projects: (await listProjects(db)).length } satisfies Health);
    }),
  );
  const description = createRequire(import.meta.url).resolve('@folvex/contract/openapi.json');
  router.get(ROUTES.openApi, (_request, response) => response.sendFile(description, { dotfiles: 'allow' }));
  return router.router;
}
