import type { Router, Request, Response } from 'express';
import { ROUTES, isRunSettled, runChangeSchema, runOptionsSchema, type RunOptions } from '@folvex/contract';
import { inTransaction } from '../data/database';
import { runInfo } from '../data/run-infos';
import { cancelRun, projectOfRun, renameRun, runById, runFileAt, runFilesOf } from '../data/runs';
import { reportCsv, reportWorkbook, runReport } from '../work/runs/run-report';
import { repeatRun, startRun } from '../work/runs/start-run';
import { announceRun } from '../work/webhooks/announce';
import { notFound } from '../errors';
import { bodyOf, handler, parameter } from './answers';
import { authorOf } from '../work/access/caller';
import { callerOf, guardedRouter, inProject, maySee, requireRole, setSubject } from './guarded-router';
import { sendRunFile, sendRunFiles } from './run-files';
import type { Services } from '../work/services';

/** A run that changes often is sent at most this often. */
const MIN_EVENT_INTERVAL_MS = 250;
/** Whether the reader still may see the run is looked up again this often, at the next event. */
const ROLE_CHECK_MS = 5000;
/** Sent at least this often while it goes on, in case a notification was lost. */
const MAX_EVENT_INTERVAL_MS = 10_000;
const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';

export function runRoutes(services: Services): Router {
  const { connection, db, queue, today } = services;
  const router = guardedRouter(services);
  router.post(
    ROUTES.runs,
    handler(async (request, response) => {
      const within = inProject(request);
      const options = (bodyOf(request, runOptionsSchema) as RunOptions | undefined) ?? {};
      if (options.pack && 'destinations' in options.pack) requireRole(request, within.project, 'lead');
      const started = await startRun(services, within, parameter(request, 'package'), today(), options);
      if (!started) throw notFound('The package');
      if ('findings' in started) return void response.status(409).json(started);
      const info = await runInfo(db, started.runId);
      setSubject(request, info!.packageName);
      response.status(201).json(info);
    }),
  );
  router.get(
    ROUTES.run,
    handler(async (request, response) => {
      const info = await runInfo(db, parameter(request, 'run'));
      if (!info) throw notFound('The run');
      response.json(info);
    }),
  );
  router.patch(
    ROUTES.run,
    handler(async (request, response) => {
      const id = parameter(request, 'run');
      await renameRun(db, id, bodyOf(request, runChangeSchema).name);
      const info = await runInfo(db, id);
      if (!info) throw notFound('The run');
      response.json(info);
    }),
  );
  router.post(
    ROUTES.runCancel,
    handler(async (request, response) => {
      const run = parameter(request, 'run');
      await inTransaction(connection.pool, async (tx) => {
        if (await cancelRun(tx.db, run)) await announceRun(tx, queue, run);
      });
      response.json(await runInfo(db, run));
    }),
  );
  router.post(
    ROUTES.runAgain,
    handler(async (request, response) => {
      const again = await repeatRun(services, parameter(request, 'run'), authorOf(callerOf(request)));
      if (!again) throw notFound('The run');
      response.status(201).json(await runInfo(db, again));
    }),
  );
  router.get(
    ROUTES.runReport,
    handler(async (request, response) => {
      const report = await runReport(db, parameter(request, 'run'));
      const format = parameter(request, 'format');
      if (!report || !['json', 'csv', 'xlsx'].includes(format)) throw notFound('The report');
      setSubject(request, `Report.${format}`);
      response.setHeader('Content-Disposition', `attachment; filename="Report.${format}"`);
      if (format === 'json') response.json(report);
      else if (format === 'csv') response.type('text/csv; charset=utf-8').send(reportCsv(report));
      else response.type(XLSX).send(Buffer.from(await reportWorkbook(report)));
    }),
  );
  router.get(
    ROUTES.runEvents,
    handler((request, response) => sendProgress(services, request, response)),
  );
  router.get(
    ROUTES.runFile,
    handler(async (request, response) => {
      const file = await runFileAt(db, parameter(request, 'run'), Number(parameter(request, 'index')) || 0);
      if (!file) throw notFound('The file');
      setSubject(request, file.path);
      const disposition = 'save' in request.query ? 'attachment' : 'inline';
      await sendRunFile(services, response, file, { disposition, cache: 'private, max-age=31536000, immutable' });
    }),
  );
  router.get(
    ROUTES.runZip,
    handler(async (request, response) => {
      const run = await runById(db, parameter(request, 'run'));
      if (!run) throw notFound('The run');
      setSubject(request, `${run.packageName}.zip`);
      await sendRunFiles(services, response, run, await runFilesOf(db, run.id));
    }),
  );
  return router.router;
}

/** Server-sent events: the run whenever it changed, until it is settled. */
async function sendProgress(services: Services, request: Request, response: Response): Promise<void> {
  const { db, notifications } = services;
  const id = parameter(request, 'run');
  const project = await projectOfRun(db, id);
  if (project === undefined) throw notFound('The run');
  response.writeHead(200, {
    'Content-Type': 'text/event-stream',
    'Cache-Control': 'no-cache',
    Connection: 'keep-alive',
  });
  let gone = false;
  let changed = true;
  let wake = (): void => undefined;
  const unlisten = notifications.on('run_changed', (run) => {
    if (run !== undefined && run !== id) return;
    changed = true;
    wake();
  });
  request.on('close', () => {
    gone = true;
    wake();
  });
  const changedOrTimeout = (): Promise<void> =>
    new Promise((resolve) => {
      const timer = setTimeout(resolve, changed || gone ? 0 : MAX_EVENT_INTERVAL_MS);
      wake = () => {
        clearTimeout(timer);
        resolve();
      };
    });
  let last = '';
  let checkedAt = Date.now();
  while (!gone) {
    changed = false;
    if (Date.now() - checkedAt > ROLE_CHECK_MS) {
      // The database may be restarting, which is no reason to end.
      if (!(await maySee(services, request, project).catch(() => true))) break;
      checkedAt = Date.now();
    }
    // The database may be restarting: the stream goes on where it left off.
    const info = await runInfo(db, id).catch(() => undefined);
    const text = JSON.stringify(info);
    if (info && text !== last) response.write(`data: ${text}\n\n`);
    last = text ?? last;
    if (info && isRunSettled(info, Date.now())) break;
    await new Promise((resolve) => setTimeout(resolve, MIN_EVENT_INTERVAL_MS));
    await changedOrTimeout();
  }
  unlisten();
  response.end();
}
