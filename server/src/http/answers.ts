import type { NextFunction, Request, RequestHandler, Response } from 'express';
import { ProblemError } from '@folvex/core';
import type { ZipFile } from 'yazl';
import type { Schema } from 'yup';
import { ValidationError } from 'yup';
import { Refused } from '../errors';
import { isDatabaseAway } from '../data/database';
import { storageProblem } from '@folvex/press';

/** A handler whose rejections become answers. */
export function handler(run: (request: Request, response: Response) => Promise<void>): RequestHandler {
  return (request, response, next) => {
    run(request, response).catch(next);
  };
}

/** The body of a request, checked; a wrong one is refused with the field's name. */
export function bodyOf<T>(request: Request, schema: Schema<T>): T {
  try {
    return schema.validateSync(request.body, { abortEarly: true });
  } catch (error) {
    if (!(error instanceof ValidationError)) throw error;
    throw new Refused(400, 'request.value', `${error.message}.`, error.path ? { path: error.path } : {});
  }
}

/** Sends an archive to be saved under a name. Where a file of it cannot be read, the answer breaks off. */
export function sendArchive(response: Response, zip: ZipFile, name: string): void {
  zip.on('error', (error: Error) => response.destroy(error));
  response.attachment(`${name}.zip`);
  zip.outputStream.pipe(response);
}

/** A parameter of the route. */
export function parameter(request: Request, name: string): string {
  return String(request.params[name] ?? '');
}

/** Problems caused by what somebody else did meanwhile, or before. */
const CONFLICTS: ReadonlySet<string> = new Set([
  'sheet.changed',
  'sheet.in-package',
  'package.changed',
  'settings.changed',
]);

/** Turns whatever went wrong into a status and a problem; an unexpected error is logged and answered with one sentence. */
export function answerErrors(log: (error: unknown) => void) {
  // Express knows an error handler by its four parameters.
  return (error: unknown, _request: Request, response: Response, _next: NextFunction): void => {
    if (response.headersSent) {
      response.destroy();
      return;
    }
    if (error instanceof Refused) return void response.status(error.status).json({ problem: error.problem });
    if (error instanceof ProblemError) {
      const status = CONFLICTS.has(error.problem.code) ? 409 : 422;
      return void response.status(status).json({ problem: error.problem });
    }
    const status = (error as { status?: number }).status;
    if (status && status >= 400 && status < 500) {
      const sentence = `The request could not be read (${(error as Error).message}); reload the page.`;
      return void response.status(status).json({ problem: { code: 'request.unreadable', sentence, place: {} } });
    }
    if (isDatabaseAway(error)) {
      const sentence = 'The database does not answer at the moment; nothing was changed. Try again in a few seconds.';
      return void response.status(503).json({ problem: { code: 'database.away', sentence, place: {} } });
    }
    log(error);
    const trouble = storageProblem(error);
    // Insufficient storage (RFC 4918, 11.5).
    if (trouble) return void response.status(507).json({ problem: trouble });
    const sentence = 'The server met an error it did not expect; nothing was changed. Try again in a moment.';
    response.status(500).json({ problem: { code: 'server.error', sentence, place: {} } });
  };
}
