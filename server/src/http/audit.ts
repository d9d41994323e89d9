import type { Response, Router } from 'express';
import { AUDIT_EVENTS, AUDIT_PAGE, ROUTES, type AuditRow } from '@folvex/contract';
import { auditRows } from '../data/audit';
import type { Database } from '../data/database';
import { csvOf } from '../work/csv';
import type { Services } from '../work/services';
import { handler } from './answers';
import { guardedRouter } from './guarded-router';

/** Rows that are read at once for the CSV, which has all of them. */
const CSV_PAGE = 5000;

/** Who did what and when: read, never changed. */
export function auditRoutes(services: Services): Router {
  const { db } = services;
  const router = guardedRouter(services);
  router.get(
    ROUTES.audit,
    handler(async (request, response) => {
      response.json(await auditRows(db, AUDIT_PAGE, Number(request.query['before']) || undefined));
    }),
  );
  router.get(
    ROUTES.auditCsv,
    handler(async (_request, response) => {
      response.attachment('Audit.csv').type('text/csv; charset=utf-8');
      await writeCsv(db, response);
      response.end();
    }),
  );
  return router.router;
}

async function writeCsv(db: Database, response: Response): Promise<void> {
  response.write(csvOf([['Time (UTC)', 'Who', 'What', 'Project', 'Subject']]));
  let oldest: number | undefined;
  do {
    const rows = await auditRows(db, CSV_PAGE, oldest);
    if (rows.length > 0) response.write(csvOf(rows.map(cellsOf)));
    oldest = rows.at(-1)?.id;
  } while (oldest !== undefined && !response.destroyed);
}

function cellsOf({ at, name, event, project, subject }: AuditRow): string[] {
  return [at, name ?? '', AUDIT_EVENTS[event], project ?? '', subject];
}
