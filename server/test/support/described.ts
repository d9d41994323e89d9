import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { Ajv2020, type ValidateFunction } from 'ajv/dist/2020';
import express, { type Express, type NextFunction, type Request, type Response } from 'express';
import { everyOperation, type RoutedOperation } from '@folvex/contract/operations';

const FILE = createRequire(import.meta.url).resolve('@folvex/contract/openapi.json');
export const OPEN_API = JSON.parse(readFileSync(FILE, 'utf8')) as Record<string, unknown>;

const JSON_TYPE = 'application/json';
const BY_ROUTE = new Map(everyOperation().map((one) => [`${one.method} ${one.route}`, one]));
const ajv = new Ajv2020({ strict: false, allErrors: false });
ajv.addSchema(OPEN_API, 'api');

/** What answered otherwise than the description of the API says, since the last call. */
const wrong: string[] = [];
export const takeWrongAnswers = (): string[] => wrong.splice(0);

interface Handling {
  handle(request: Request, response: Response, next: NextFunction): void;
}

/**
 * The same application; every answer that it gives, and every JSON that it accepts, is compared with the description of
 * the API (`contract/openapi.json`).
 */
export function described(app: Express): Express {
  const handling = app as unknown as Handling;
  const handle = handling.handle.bind(app);
  handling.handle = (request, response, next) => {
    watch(request, response);
    handle(request, response, next);
  };
  return app;
}

function watch(request: Request, response: Response): void {
  let sent: string | undefined;
  // Express answers JSON by this too.
  response.send = function send(body?: unknown) {
    if (typeof body === 'string' || Buffer.isBuffer(body)) sent = String(body);
    return express.response.send.call(this, body);
  };
  response.on('finish', () => {
    const route = (request.route as { path?: string } | undefined)?.path;
    const operation = BY_ROUTE.get(`${request.method.toLowerCase()} ${route}`);
    const fault = operation && faultOf(operation, request, response, sent);
    if (fault) wrong.push(`${operation.method} ${operation.route} ${response.statusCode}: ${fault}`);
  });
}

function faultOf(
  { route, method, operation }: RoutedOperation,
  request: Request,
  response: Response,
  sent: string | undefined,
): string | undefined {
  const { statusCode } = response;
  const type = String(response.getHeader('Content-Type') ?? '').split(';')[0]!;
  const at = ['paths', route.replace(/:(\w+)/g, '{$1}'), method];
  const body: unknown = type === JSON_TYPE && sent !== undefined ? JSON.parse(sent) : undefined;
  const answer = operation.answers[statusCode];
  const isRefusal = statusCode >= 400 && faultIn(['components', 'responses', 'Refused'], body) === undefined;
  if (isRefusal) return undefined;
  if (answer === undefined) return statusCode >= 400 ? `is no refusal: ${sent}` : 'is not described';
  if (statusCode < 300 && operation.takes && !operation.takes.includes('/') && request.body !== undefined) {
    const fault = faultIn([...at, 'requestBody'], request.body);
    if (fault) return `took ${fault}`;
  }
  if (answer === '') return sent ? `has a body: ${sent}` : undefined;
  if (answer.includes('/')) return answer.split(' ').some((one) => covers(one, type)) ? undefined : `is ${type}`;
  return faultIn([...at, 'responses', String(statusCode)], body);
}

function covers(range: string, type: string): boolean {
  return range === '*/*' || range === type || (range.endsWith('/*') && type.startsWith(range.slice(0, -1)));
}

/** What is wrong with a value; undefined: it is as the JSON at that place of the description says. */
function faultIn(at: readonly string[], value: unknown): string | undefined {
  const check = checkAt([...at, 'content', JSON_TYPE, 'schema']);
  if (check(value)) return undefined;
  const [error] = check.errors!;
  return `${error!.instancePath || 'the value'} ${error!.message} ${JSON.stringify(error!.params)}`;
}

function checkAt(at: readonly string[]): ValidateFunction {
  const pointer = at.map((part) => encodeURIComponent(part.replaceAll('~', '~0').replaceAll('/', '~1'))).join('/');
  return ajv.getSchema(`api#/${pointer}`)!;
}
