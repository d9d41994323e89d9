import express from 'express';
import request from 'supertest';
import { path, ROLES, roleIncludes, ROUTES, type ProjectInfo, type Role } from '@folvex/contract';
import { everyOperation, type Needed } from '@folvex/contract/operations';
import { insertToken } from '../../src/data/tokens';
import { answerErrors } from '../../src/http/answers';
import { guard, guardedRouter } from '../../src/http/guarded-router';
import { sessionsIn } from '../../src/http/session-store';
import { newTokenSecret } from '../../src/work/access/secrets';
import { useServer, type Harness } from '../support/harness';
import { browserOf, colleague, emptyProject, officeApp, type Colleague } from '../support/office';

const WHO = [...ROLES, 'owner', 'stranger', 'nobody', 'token'] as const;
type Who = (typeof WHO)[number];
/** What the guards of the tests answer to whoever is let in. */
const LET_IN = 299;

/** The status with which somebody is let in or refused. The token is of a lead, but only for reading. */
function statusFor(who: Who, needs: Needed): number {
  if (needs === 'anyone') return LET_IN;
  if (who === 'nobody') return 401;
  if (needs === 'somebody') return LET_IN;
  if (needs === 'person') return who === 'token' ? 403 : LET_IN;
  if (needs === 'owner') return who === 'owner' ? LET_IN : 403;
  if (who === 'stranger') return 404;
  const role = who === 'owner' ? 'lead' : who === 'token' ? 'reader' : who;
  return roleIncludes(role, needs) ? LET_IN : 403;
}

const server = useServer();
const DAY_MS = 86_400_000;

/** Routes of an application, as Express holds them: `GET /api/projects`. */
function routesOf(app: express.Express): string[] {
  interface Layer {
    route?: { path: string; methods: Record<string, boolean> };
    handle: { stack?: Layer[] };
  }
  const found: string[] = [];
  const walk = (layers: readonly Layer[]): void => {
    for (const { route, handle } of layers) {
      if (route) for (const method of Object.keys(route.methods)) found.push(`${method} ${route.path}`);
      if (handle.stack && !route) walk(handle.stack);
    }
  };
  walk((app as unknown as { router: { stack: Layer[] } }).router.stack);
  return found.filter((route) => route.includes('/api/'));
}

describe('every route', () => {
  const people = {} as Record<Role | 'owner' | 'stranger', Colleague>;
  let parameters: Record<string, string>;
  let elsewhere: string;

  beforeAll(async () => {
    const { services, project } = server;
    elsewhere = await emptyProject(server, 'Elsewhere');
    people.owner = await colleague(server, 'Owner', { isOwner: true });
    people.stranger = await colleague(server, 'Stranger', { roles: { [elsewhere]: 'lead' } });
    for (const role of ROLES) people[role] = await colleague(server, role, { roles: { [project]: role } });
    const info = (await request(server.app).get(path(ROUTES.project, { project }))).body as ProjectInfo;
    const pack = info.packages[0]!.id;
    const run = await request(server.app)
      .post(path(ROUTES.runs, { project, package: pack }))
      .send({});
    const [drawing] = info.drawings;
    parameters = {
      ...{ project, drawing: drawing!.id, run: run.body.id as string, package: pack, sheet: info.sheets[0]!.id },
      ...{ content: drawing!.hash, account: people.reader.id, invitation: 'x', token: 'x', template: 'x', page: 'x' },
      ...{
        paper: 'A1',
        space: '0',
        index: '0',
        from: 'x',
        to: 'x',
        order: 'rows',
        issue: 'x',
        font: 'x',
        format: 'csv',
      },
    };
    expect(services.office).toBeUndefined();
  });

  it('declares what it needs, and what is declared has a route', () => {
    const declared = everyOperation().map(({ route, method }) => `${method} ${route}`);
    expect(routesOf(officeApp(server)).sort()).toEqual(declared.sort());
    expect(() => guardedRouter(server.services).delete(ROUTES.sheet, () => undefined)).toThrow('does not declare');
  });

  /** Only the guards of an application, each in front of an answer: a request that is let in changes nothing. */
  function guardsOf({ services }: Harness): express.Express {
    const office = { url: '', sessionKey: 'a key of the tests', onOwner: () => undefined };
    const app = express();
    app.use(sessionsIn(services.connection, office));
    for (const { route, method, operation } of everyOperation())
      app[method](route, guard({ ...services, office }, operation), (_request, response) => {
        response.status(LET_IN).end();
      });
    app.use(answerErrors());
    return app;
  }

  it.each(WHO)('lets a %s in where it says so, and nowhere else', async (who) => {
    const app = guardsOf(server);
    const { db } = server.services;
    let agent: ReturnType<typeof request.agent> = request.agent(app);
    let bearer: string | undefined;
    if (who === 'token') {
      const { secret, hash } = newTokenSecret();
      const expiresAt = new Date(Date.now() + DAY_MS);
      await insertToken(db, { id: 't', hash, accountId: people.lead.id, name: 't', scope: 'read', expiresAt });
      bearer = secret;
    } else if (who !== 'nobody') {
      const signedIn = await browserOf(officeApp(server), people[who]);
      const cookies = await signedIn.get(ROUTES.session);
      agent = request.agent(app);
      agent.set('Cookie', String(cookies.headers['set-cookie']?.[0]).split(';')[0]!);
    }
    const wrong: string[] = [];
    for (const { name, route, method, operation } of everyOperation()) {
      const asking = agent[method](path(route, parameters));
      const { status } = await (bearer ? asking.set('Authorization', `Bearer ${bearer}`) : asking);
      const wanted = statusFor(who, operation.needs);
      if (status !== wanted) wrong.push(`${method} ${name}: ${status} instead of ${wanted}`);
    }
    expect(wrong).toEqual([]);
  });

  it('that names a drawing or run of one project under another is not there, also for members of both', async () => {
    const both = await colleague(server, 'Both', { roles: { [server.project]: 'lead', [elsewhere]: 'lead' } });
    const browser = await browserOf(officeApp(server), both);
    for (const { name, route, method } of everyOperation()) {
      if (!route.includes(':project') || !(route.includes(':drawing') || route.includes(':run'))) continue;
      const { status } = await browser[method](path(route, { ...parameters, project: elsewhere })).send({});
      expect(`${name} ${status}`).toBe(`${name} 404`);
    }
  });
});

describe('a project', () => {
  it('is listed to its members alone, and whoever creates one leads it', async () => {
    const one = await colleague(server, 'Newcomer');
    const browser = await browserOf(officeApp(server), one);
    expect((await browser.get(ROUTES.projects)).body).toEqual([]);
    const made = await browser.post(ROUTES.projects).send({ number: '9', name: 'Own' });
    expect(made.status).toBe(201);
    expect((await browser.get(ROUTES.projects)).body).toMatchObject([{ name: 'Own' }]);
    expect((await browser.get(ROUTES.session)).body.roles).toEqual({ [made.body.id]: 'lead' });
    const like = await browser.post(ROUTES.projects).send({ number: '', name: 'Copy', like: server.project });
    expect(like.status).toBe(404);
  });

  it('has its destinations set by leads alone, for one run too, and who is meant by a name', async () => {
    const { project } = server;
    const [drafter, lead] = await Promise.all(
      (['drafter', 'lead'] as const).map(async (role) =>
        browserOf(officeApp(server), await colleague(server, `${role}-2`, { roles: { [project]: role } })),
      ),
    );
    const info = (await drafter!.get(path(ROUTES.project, { project }))).body as ProjectInfo;
    const at = { project, package: info.packages[0]!.id };
    const destination = { kind: 'folder', folder: 'elsewhere', onConflict: 'stop' };
    const sent = { destinations: [destination] };
    expect((await drafter!.patch(path(ROUTES.package, at)).send(sent)).status).toBe(403);
    expect((await drafter!.post(path(ROUTES.runs, at)).send({ pack: sent })).body.problem.code).toBe('access.role');
    expect((await lead!.patch(path(ROUTES.package, at)).send(sent)).status).toBe(200);
    const known = { project: { people: [{ id: 'p', name: 'Site office', mail: 'site@quay.example' }] } };
    // Nor does a drafter undo it.
    const refuseUndo = async (): Promise<void> => {
      expect((await drafter!.post(path(ROUTES.undo, { project })).send({})).status).toBe(403);
      expect((await lead!.post(path(ROUTES.undo, { project })).send({})).status).toBe(200);
    };
    await refuseUndo();
    const told = { tellTo: 'site@quay.example' };
    expect((await drafter!.patch(path(ROUTES.package, at)).send(told)).status).toBe(403);
    expect((await lead!.patch(path(ROUTES.package, at)).send(told)).status).toBe(200);
    await refuseUndo();
    expect((await drafter!.patch(path(ROUTES.settings, { project })).send(known)).status).toBe(403);
    expect((await lead!.patch(path(ROUTES.settings, { project })).send(known)).status).toBe(200);
    await refuseUndo();
    const renamed = { project: { name: 'Terminal' } };
    expect((await drafter!.patch(path(ROUTES.settings, { project })).send(renamed)).status).toBe(200);
  });
});
