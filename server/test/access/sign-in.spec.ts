import request from 'supertest';
import { path, ROUTES, type AuditRow, type Invited, type RunInfo } from '@folvex/contract';
import { openAccount } from '../../src/data/accounts';
import { audit, invitations, signInTries } from '../../src/data/access-schema';
import { ownerSecret } from '../../src/work/access/first-owner';
import { createApp } from '../../src/http/app';
import { until, useServer } from '../support/harness';
import { browserOf, colleague, officeApp, PASSWORD } from '../support/office';

const server = useServer();
const session = path(ROUTES.session);
const join = (invitation: string): string => path(ROUTES.invitation, { invitation });

describe('alone', () => {
  it('nobody signs in, and everything may be done', async () => {
    const { body } = await request(server.app).get(session);
    expect(body).toEqual({ office: false, account: null, roles: {}, openId: null });
    expect((await request(server.app).get(ROUTES.projects)).status).toBe(200);
    const tried = await request(server.app).post(session).send({ email: 'a@b.example', password: PASSWORD });
    expect([tried.status, tried.body.problem.code]).toEqual([409, 'access.alone']);
    expect((await request(server.app).post(ROUTES.tokens).send({})).body.problem.code).toBe('access.alone');
  });
});

describe('an office', () => {
  it('lets nobody in without a session, and tells nothing', async () => {
    const app = officeApp(server);
    const { status, body } = await request(app).get(ROUTES.projects);
    expect([status, body]).toEqual([
      401,
      { problem: { code: 'access.sign-in', sentence: 'Sign in to continue.', place: {} } },
    ]);
  });

  it('is owned by whoever opens the link of the console, once', async () => {
    const { db } = server.services;
    let opened = 0;
    const app = officeApp(server, { onOwner: () => opened++ });
    const [earlier, secret] = [(await ownerSecret(db))!, (await ownerSecret(db))!];
    const browser = request.agent(app);
    expect((await browser.get(join(secret))).body).toEqual({ email: null, isOwner: true, project: null });
    const person = { name: 'Oda Vik', email: 'Oda@Office.example', password: PASSWORD };
    const short = await browser.post(join(secret)).send({ ...person, password: 'too short' });
    expect([short.status, short.body.problem.sentence]).toEqual([
      400,
      expect.stringContaining('at least 15 characters'),
    ]);
    const joined = await browser.post(join(secret)).send(person);
    expect([joined.status, joined.body.account]).toMatchObject([201, { email: 'oda@office.example', isOwner: true }]);
    expect(opened).toBe(1);
    expect((await browser.get(ROUTES.projects)).body).toHaveLength(1);
    expect((await browser.post(join(secret)).send(person)).body.problem.code).toBe('access.invitation');
    expect(await ownerSecret(db)).toBeUndefined();
    // Nor does the link of an earlier start hold any more.
    const late = await request(app)
      .post(join(earlier))
      .send({ ...person, email: 'late@office.example' });
    expect(late.body.problem.code).toBe('access.invitation');
    // Neither the link nor the password is in the database.
    const stored = JSON.stringify([
      await openAccount(db, { email: 'oda@office.example' }),
      await db.select().from(invitations),
    ]);
    expect(stored).toContain('$argon2id$');
    expect(stored).not.toContain(PASSWORD);
    expect(stored).not.toContain(secret);
  });

  it('takes a new session at each sign-in, and ends it at sign-out', async () => {
    const app = officeApp(server);
    const person = await colleague(server, 'Ines');
    const browser = await browserOf(app, person);
    const cookieOf = (answer: { headers: Record<string, unknown> }): string =>
      String((answer.headers['set-cookie'] as string[])[0]);
    const first = await browser.get(session);
    expect(cookieOf(first)).toMatch(/HttpOnly; SameSite=Lax$/);
    const again = await browser.post(session).send({ email: person.email, password: PASSWORD });
    const idOf = (cookie: string): string => cookie.split(';')[0]!;
    expect(idOf(cookieOf(again))).not.toBe(idOf(cookieOf(first)));
    const old = await request(app)
      .get(ROUTES.projects)
      .set('Cookie', idOf(cookieOf(first)));
    expect(old.status).toBe(401);
    await browser.delete(session).expect(204);
    expect((await browser.get(ROUTES.projects)).status).toBe(401);
    const kept = await request(app)
      .get(ROUTES.projects)
      .set('Cookie', idOf(cookieOf(again)));
    expect(kept.status).toBe(401);
  });

  it('sends its cookie only over TLS where the proxy says that the browser came by it', async () => {
    const person = await colleague(server, 'Tess');
    const answer = await request(officeApp(server))
      .post(session)
      .set('X-Forwarded-Proto', 'https')
      .send({ email: person.email, password: PASSWORD });
    expect(String(answer.headers['set-cookie'])).toContain('; Secure');
  });

  it('says the same of a wrong password and an unknown address, and refuses after ten tries, the right one too', async () => {
    const app = officeApp(server);
    const person = await colleague(server, 'Lars');
    const tryOf = (email: string, password: string) => request(app).post(session).send({ email, password });
    const [wrong, unknown] = [await tryOf(person.email, 'x'), await tryOf('nobody@office.example', 'x')];
    expect(wrong.status).toBe(401);
    expect(wrong.body).toEqual(unknown.body);
    for (let i = 0; i < 9; i++) expect((await tryOf(person.email, `x${i}`)).status).toBe(401);
    expect((await tryOf(person.email, PASSWORD)).body.problem.code).toBe('access.tries');
    await server.services.db.delete(signInTries);
    expect((await tryOf(person.email, PASSWORD)).status).toBe(200);
  });

  it('ends the sessions of whoever gets another role or a new password, and of closed accounts', async () => {
    const app = officeApp(server);
    const { project } = server;
    const owner = await browserOf(app, await colleague(server, 'Chief', { isOwner: true }));
    const person = await colleague(server, 'Pia', { roles: { [project]: 'reader' } });
    const member = path(ROUTES.member, { project, account: person.id });
    const [browser, other] = [await browserOf(app, person), await browserOf(app, person)];
    await browser
      .post(ROUTES.password)
      .send({ was: PASSWORD, password: `${PASSWORD}!` })
      .expect(204);
    expect([(await browser.get(ROUTES.projects)).status, (await other.get(ROUTES.projects)).status]).toEqual([
      200, 401,
    ]);
    await owner.put(member).send({ role: 'drafter' }).expect(200);
    expect((await browser.get(ROUTES.projects)).status).toBe(401);
    const signedIn = await browser.post(session).send({ email: person.email, password: `${PASSWORD}!` });
    expect(signedIn.body.roles).toEqual({ [project]: 'drafter' });
    await owner
      .patch(path(ROUTES.account, { account: person.id }))
      .send({ closed: true })
      .expect(200);
    expect((await browser.get(ROUTES.projects)).status).toBe(401);
    const closed = await browser.post(session).send({ email: person.email, password: `${PASSWORD}!` });
    expect(closed.status).toBe(401);
    const again = await owner.post(path(ROUTES.members, { project })).send({ email: person.email, role: 'lead' });
    const back = await request(app)
      .post(join((again.body as { link: string }).link.split('/').at(-1)!))
      .send({ name: 'Pia', password: PASSWORD });
    expect([back.status, back.body.problem.code]).toEqual([409, 'access.account']);
  });

  it('invites by a link: whoever opens it has the role, and those who have an account get it at once', async () => {
    const app = officeApp(server);
    const { project } = server;
    const lead = await browserOf(app, await colleague(server, 'Lena', { roles: { [project]: 'lead' } }));
    const members = path(ROUTES.members, { project });
    const invited = (await lead.post(members).send({ email: 'new@office.example', role: 'drafter' })).body as Invited;
    if (invited.outcome !== 'link') throw new Error('no link');
    expect(invited.link).toMatch(/^http:\/\/127\.0\.0\.1\/join\/[\w-]{43}$/);
    const secret = invited.link.split('/').at(-1)!;
    const browser = request.agent(app);
    expect((await browser.get(join(secret))).body).toMatchObject({
      email: 'new@office.example',
      project: { role: 'drafter' },
    });
    const joined = await browser.post(join(secret)).send({ name: 'Nils', password: PASSWORD });
    expect([joined.status, joined.body.roles]).toEqual([201, { [project]: 'drafter' }]);
    const again = (await lead.post(members).send({ email: 'new@office.example', role: 'lead' })).body as Invited;
    expect(again).toMatchObject({ outcome: 'added' });
    expect((await request(app).get(join('made-up'))).status).toBe(404);
  });
});

describe('a token', () => {
  it('works for its account as far as its scope goes, until it is revoked', async () => {
    const app = officeApp(server);
    const { project } = server;
    const browser = await browserOf(app, await colleague(server, 'Timo', { roles: { [project]: 'lead' } }));
    const made = await browser.post(ROUTES.tokens).send({ name: 'nightly', scope: 'publish', days: 30 });
    const token = made.body.token as string;
    const by = (route: string) => request(app).get(route).set('Authorization', `Bearer ${token}`);
    expect((await by(path(ROUTES.project, { project }))).status).toBe(200);
    const issuing = await request(app)
      .post(path(ROUTES.issues, { project }))
      .set('Authorization', `Bearer ${token}`)
      .send({});
    expect([issuing.status, issuing.body.problem.code]).toEqual([403, 'access.role']);
    const listed = (await browser.get(ROUTES.tokens)).body as Record<string, unknown>[];
    expect(listed).toMatchObject([{ name: 'nightly', usedAt: expect.any(String) as string }]);
    expect(JSON.stringify(listed)).not.toContain(token);
    await browser.delete(path(ROUTES.token, { token: made.body.id as string })).expect(204);
    expect((await by(path(ROUTES.project, { project }))).status).toBe(401);
  });
});

describe('the audit', () => {
  it('knows who did what, in which project, and so does the history', async () => {
    const app = officeApp(server);
    const { project } = server;
    const browser = await browserOf(app, await colleague(server, 'Mara', { roles: { [project]: 'lead' } }));
    const owner = await browserOf(app, await colleague(server, 'Boss', { isOwner: true }));
    const pack = await browser.post(path(ROUTES.packages, { project })).send({ name: '=Tender' });
    expect(pack.body.history.undo).toBe('package =Tender, by Mara');
    await browser.post(path(ROUTES.undo, { project })).send({}).expect(200);
    await browser.get(path(ROUTES.register, { project })).expect(200);
    const rows = (await owner.get(ROUTES.audit)).body as AuditRow[];
    const own = rows.filter(({ name }) => name === 'Mara').reverse();
    expect(own.map(({ event, subject }) => `${event} ${subject}`.trim())).toEqual([
      'account.signed-in',
      'edit.made package =Tender',
      'edit.undone package =Tender, by Mara',
      'issue.downloaded',
    ]);
    expect(own.slice(1).every((row) => row.project?.includes('Tern Quay'))).toBe(true);
    const csv = (await owner.get(ROUTES.auditCsv)).text;
    expect(csv).toContain('Time (UTC),Who,What,Project,Subject\r\n');
    expect(csv).toContain(',Mara,Changed,');
    expect((await browser.get(ROUTES.audit)).status).toBe(403);
  });

  it('counts a file that is read in parts as one download', async () => {
    const { app, project } = server;
    server.work();
    const { body } = await request(app)
      .post(path(ROUTES.runs, { project, package: 'tender' }))
      .send({});
    const run = (body as RunInfo).id;
    await until(
      async () => (await request(app).get(path(ROUTES.run, { run }))).body as RunInfo,
      ({ state }) => state === 'done',
    );
    for (const range of ['bytes=0-99', 'bytes=100-199', 'bytes=200-299'])
      await request(app)
        .get(path(ROUTES.runFile, { run, index: 0 }))
        .set('Range', range)
        .expect(206);
    await request(app)
      .get(path(ROUTES.runFile, { run, index: 1 }))
      .expect(200);
    const rows = await until(
      async () => (await request(app).get(ROUTES.audit)).body as AuditRow[],
      (found) => found.filter(({ event }) => event === 'run.downloaded').length >= 2,
    );
    expect(rows.filter(({ event }) => event === 'run.downloaded')).toHaveLength(2);
  });

  it('only grows: the database refuses to change or remove a row', async () => {
    const { db } = server.services;
    await expect(db.update(audit).set({ name: 'Somebody else' })).rejects.toMatchObject({
      cause: { message: 'rows of the audit are only added' },
    });
    await expect(db.delete(audit)).rejects.toThrow();
    await expect(db.execute('truncate audit')).rejects.toThrow();
  });

  it('is kept where nobody signs in, too', async () => {
    const app = createApp(server.services);
    const { project } = server;
    await request(app).post(path(ROUTES.packages, { project })).send({ name: 'Alone' });
    const rows = (await request(app).get(ROUTES.audit)).body as AuditRow[];
    expect(rows[0]).toMatchObject({ name: null, event: 'edit.made', subject: 'package Alone' });
  });
});
