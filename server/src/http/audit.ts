import type { Router } from 'express';
import { AUDIT_EVENTS, AUDIT_PAGE, ROUTES } from '@folvex/contract';
import { auditRows } from '../data/audit';
import { csvOf } from '../work/csv';
import type { Services } from '../work/services';
import { handler } from './answers';
import { guardedRouter } from './guarded-router';

const MAX_CSV_ROWS = 100_000;

/** Who did what and when: read, never changed. */
export function auditRoutes(services: Services): Router {
  const { db } = services;
  const router = guardedRouter(services);
  router.get(
    ROUTES.audit,
    handler(async (request, response) => {
      const { before, project } = request.query;
      const projectId = typeof project === 'string' && project !== '' ? project : undefined;
      response.json(await auditRows(db, { limit: AUDIT_PAGE, before: Number(before) || undefined, projectId }));
    }),
  );
  router.get(
    ROUTES.auditCsv,
    handler(async (_request, response) => {
      const rows = await auditRows(db, { limit: MAX_CSV_ROWS });
      const cells = rows.map(({ at, name, event, project, subject }) => [
        ...[at, name ?? '', AUDIT_EVENTS[event], project ?? '', subject],
      ]);
      response.attachment('Audit.csv');
      response.type('text/csv; charset=utf-8').send(csvOf([['Time (UTC)', 'Who', 'What', 'Project', 'Of'], ...cells]));
    }),
  );
  return router.router;
}
