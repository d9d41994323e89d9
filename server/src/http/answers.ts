import type { NextFunction, Request, RequestHandler, Response } from 'express';
import { ProblemError } from '@folvex/core';
import type { Schema } from 'yup';
import { ValidationError } from 'yup';
import { notFound, Refused } from '../errors';
import type { Archive } from '../files/archive';
import { isDatabaseAway, isStatementTimeout } from '../data/database';
import { BucketAway, storageProblem } from '@folvex/press';

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

/** Refuses texts that cannot be stored, before anything is done with them: PostgreSQL takes neither NUL nor lone surrogates. */
export const storableBody: RequestHandler = (request, _response, next) => {
  const path = unstorable(request.body, '');
  if (path === undefined) return next();
  const sentence = `${path || 'The request'} contains a character that cannot be stored; remove it and send it again.`;
  next(new Refused(400, 'request.value', sentence, path ? { path } : {}));
};

/** Path of the first text that cannot be stored, or the name of the key; undefined where all can. */
function unstorable(value: unknown, path: string): string | undefined {
  if (typeof value === 'string') return isStorable(value) ? undefined : path;
  if (typeof value !== 'object' || value === null) return undefined;
  for (const [key, inner] of Object.entries(value)) {
    const at = Array.isArray(value) ? `${path}[${key}]` : [path, key].filter(Boolean).join('.');
    if (!isStorable(key)) return path;
    const found = unstorable(inner, at);
    if (found !== undefined) return found;
  }
  return undefined;
}

function isStorable(text: string): boolean {
  return !text.includes('\0') && text.isWellFormed();
}

/** Sends an archive, to be saved under a name. */
export function sendArchive(response: Response, archive: Archive, name: string): void {
  response.attachment(`${name}.zip`);
  archive.pipe(response);
}

/** A parameter of the route. */
export function parameter(request: Request, name: string): string {
  const value = String(request.params[name] ?? '');
  if (!isStorable(value)) throw notFound('That address');
  return value;
}

/** Problems caused by what somebody else did meanwhile, or before. */
const CONFLICTS: ReadonlySet<string> = new Set([
  'sheet.changed',
  'sheet.in-package',
  'package.changed',
  'settings.changed',
]);

/**
 * Turns whatever went wrong into a status and a problem; an unexpected error is logged with the id of its request, and
 * answered with one sentence that names it.
 */
export function answerErrors() {
  // Express knows an error handler by its four parameters.
  return (error: unknown, request: Request, response: Response, _next: NextFunction): void => {
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
    if (error instanceof BucketAway) {
      request.log.warn({ err: error }, 'the store does not answer');
      const sentence = 'The store does not answer at the moment; nothing was changed. Try again in a few seconds.';
      return void response.status(503).json({ problem: { code: 'storage.failed', sentence, place: {} } });
    }
    request.log.error({ err: error }, 'unexpected error');
    if (isStatementTimeout(error)) {
      const sentence = 'The database took too long and was stopped; nothing was changed. Try again in a moment.';
      return void response.status(503).json({ problem: { code: 'database.slow', sentence, place: {} } });
    }
    const trouble = storageProblem(error);
    // Insufficient storage (RFC 4918, 11.5).
    if (trouble) return void response.status(507).json({ problem: trouble });
    const sentence = `The server met an error it did not expect; nothing was changed. Try again in a moment. The log has it under ${String(request.id)}.`;
    response.status(500).json({ problem: { code: 'server.error', sentence, place: {} } });
  };
}
