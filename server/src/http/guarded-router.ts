import { Router, type Request, type RequestHandler } from 'express';
import { ROUTES, roleIncludes, type Role } from '@folvex/contract';
import { OPERATIONS, type Method, type Needed, type Operation } from '@folvex/contract/operations';
import { recordAudit } from '../data/audit';
import type { InProject } from '../data/edits';
import { notFound, Refused } from '../errors';
import {
  ALONE,
  authorOf,
  callerOfAccount,
  callerOfToken,
  isOwner,
  mayIn,
  roleIn,
  type Caller,
} from '../work/access/caller';
import type { Services } from '../work/services';
import { projectsOf } from './projects-of';

/** A router whose routes let in only whom `OPERATIONS` says; it takes no route that is not declared there. */
export type GuardedRouter = Record<Method, (route: string, handler: RequestHandler) => void> & { router: Router };

const NAMES = new Map(Object.entries(ROUTES).map(([name, route]) => [route as string, name as keyof typeof ROUTES]));

export function guardedRouter(services: Services): GuardedRouter {
  const router = Router();
  const add = (method: Method) => (route: string, handler: RequestHandler) => {
    const name = NAMES.get(route);
    const operation = name && OPERATIONS[name][method];
    if (!operation) throw new Error(`${method} ${route} does not declare what it needs`);
    router[method](route, guard(services, operation), handler);
  };
  return {
    ...{ router, get: add('get'), post: add('post') },
    ...{ put: add('put'), patch: add('patch'), delete: add('delete') },
  };
}

/** Lets a request through that comes from somebody who may make it, and records it where it is to be. */
export function guard(services: Services, { needs, audit }: Pick<Operation, 'needs' | 'audit'>): RequestHandler {
  return (request, response, next) => {
    const check = async (): Promise<void> => {
      if (needs === 'anyone') return;
      const caller = await findCaller(services, request);
      if (!caller) throw new Refused(401, 'access.sign-in', 'Sign in to continue.');
      const project = await refuseUnless(services, request, caller, needs);
      callers.set(request, caller);
      if (!audit) return;
      response.on('finish', () => {
        if (response.statusCode >= 300 || isLaterPart(request)) return;
        const entry = { by: authorOf(caller), event: audit, projectId: project, subject: subjects.get(request) };
        recordAudit(services.db, entry).catch((err: unknown) => request.log.error({ err }, 'not in the audit'));
      });
    };
    check().then(() => next(), next);
  };
}

/** Readers of PDF fetch a file in parts (RFC 9110, 14.2): it is downloaded once, with the first of them. */
export function isLaterPart({ headers }: Request): boolean {
  return headers.range !== undefined && !/^bytes=0-/.test(headers.range);
}

const callers = new WeakMap<Request, Caller>();
const subjects = new WeakMap<Request, string>();

/** Who asks. Only in handlers of guarded routes that not anyone may use. */
export function callerOf(request: Request): Caller {
  const caller = callers.get(request);
  if (!caller) throw new Error('a route that anyone may use asked who does');
  return caller;
}

export function inProject(request: Request): InProject {
  return { project: String(request.params['project']), by: authorOf(callerOf(request)) };
}

/** Says what the audit records this request to be about. */
export function setSubject(request: Request, subject: string): void {
  subjects.set(request, subject);
}

/** Who asks, by the token or the session of a request; undefined: nobody is signed in. */
export async function findCaller({ db, office }: Services, request: Request): Promise<Caller | undefined> {
  if (!office) return ALONE;
  const { authorization = '' } = request.headers;
  const [, token] = /^Bearer (\S+)$/i.exec(authorization) ?? [];
  if (token !== undefined) return callerOfToken(db, token);
  const id = request.session?.account;
  return id === undefined ? undefined : callerOfAccount(db, id);
}

/** Whether who asked may still see a project, for answers that go on for long. */
export async function maySee(services: Services, request: Request, project: string): Promise<boolean> {
  const caller = await findCaller(services, request);
  return caller !== undefined && mayIn(caller, project, 'reader');
}

/** Refuses what a caller may not do; resolves with the project that the request is about, if it is about one. */
async function refuseUnless(
  { db }: Services,
  request: Request,
  caller: Caller,
  needs: Exclude<Needed, 'anyone'>,
): Promise<string | undefined> {
  if (needs === 'somebody') return undefined;
  if (needs === 'person') {
    if (caller.scope) throw new Refused(403, 'access.token', 'A token cannot do this; sign in instead.');
    return undefined;
  }
  if (needs === 'owner') {
    if (!isOwner(caller)) throw new Refused(403, 'access.owner', 'Only an owner of this installation can do this.');
    return undefined;
  }
  const found = await projectsOf(db, request);
  // Whoever may do everything is told by the route itself what is not there.
  if (found.length === 0 && isOwner(caller)) return undefined;
  const roles = found.map((project) => roleIn(caller, project));
  // Content that several projects have is seen by the members of any; nobody learns what there is elsewhere.
  const best = roles.findIndex((role) => roleIncludes(role, needs));
  if (best >= 0) return found[best];
  if (roles.every((role) => role === undefined)) throw notFound('That');
  throw forbidden(needs);
}

/** Refuses a caller who has less than a role in a project, for what depends on more than the address. */
export function requireRole(request: Request, project: string, needed: Role): void {
  const role = roleIn(callerOf(request), project);
  if (role === undefined) throw notFound('The project');
  if (!roleIncludes(role, needed)) throw forbidden(needed);
}

function forbidden(needed: Role): Refused {
  return new Refused(403, 'access.role', `This needs the ${needed} role in the project; ask a project lead for it.`);
}
