import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Express } from 'express';
import request from 'supertest';
import {
  path,
  ROUTES,
  type AuditRow,
  type DeliveryInfo,
  type ProjectInfo,
  type RecipientPageContent,
  type RecipientPageKey,
  type RunInfo,
} from '@folvex/contract';
import type { Mail } from '@folvex/core';
import { sha256 } from '@folvex/press';
import { tool } from '../../../press/test/support/published';
import type { MailPeer } from '../../../press/test/support/mail-peer';
import { outcomesOf } from '../support/delivered';
import { emailedRun } from '../support/emailed';
import { until, useServer } from '../support/harness';
import { browserOf, colleague, officeApp } from '../support/office';

const URL = 'https://plans.office.example';
const server = useServer({ officeUrl: URL });
let peer: MailPeer;
let office: Express;
let run: RunInfo;

const MAIL: Mail = {
  ...{ kind: 'mail', server: 'post', from: 'drafting@office.example', subject: 'Plans', files: 'page' },
  to: 'site@harbour.example',
};

beforeAll(async () => {
  office = officeApp(server, { url: URL });
  ({ peer, run } = await emailedRun(server, MAIL));
});
afterAll(() => peer.stop());

const deliveries = async (): Promise<DeliveryInfo[]> =>
  ((await request(server.app).get(path(ROUTES.run, { run: run.id }))).body as RunInfo).deliveries;

/** Sends the run once more; resolves once it has arrived, with the last part of the link in the email. */
async function sent(destination: Mail): Promise<{ delivery: DeliveryInfo; link: string }> {
  await request(server.app)
    .post(path(ROUTES.deliveries, { run: run.id }))
    .send({ destination })
    .expect(201);
  const delivery = (await until(deliveries, (all) => all.at(-1)!.state === 'done')).at(-1)!;
  return { delivery, link: linkIn(peer.mails.at(-1)!.parsed.text!) };
}

function linkIn(text: string): string {
  const [, link] = /^https:\/\/plans\.office\.example\/files\/(\S+)$/m.exec(text)!;
  return link!;
}

const open = (link: string, body: object = {}, agent = request.agent(office)) =>
  agent.post(path(ROUTES.recipientPage, { link })).send(body);
const file = (link: string, index: number, agent = request.agent(office)) =>
  agent.get(path(ROUTES.recipientFile, { link, index })).buffer(true);
/** The page of a delivery once something was done on it. */
const visited = async (id: string, isWanted: (page: NonNullable<DeliveryInfo['page']>) => boolean) =>
  (await until(deliveries, (all) => isWanted(all.find((one) => one.id === id)!.page!))).find((one) => one.id === id)!
    .page!;

describe('a recipient’s page', () => {
  it('is linked in the email, opened without an account, and has the files as they were published', async () => {
    const [delivery] = run.deliveries;
    expect(outcomesOf(delivery!)).toEqual(run.files.map(({ path: name }) => ({ path: name, how: 'on a page' })));
    expect(delivery!.page).toMatchObject({ closedAt: null, hasPassword: false, openings: 0, downloaded: [] });
    const { parsed } = peer.mails[0]!;
    expect(parsed.attachments).toEqual([]);
    const link = linkIn(parsed.text!);
    const { body, headers } = await open(link).expect(200);
    expect(headers['set-cookie']).toBeUndefined();
    const content = body as RecipientPageContent;
    expect(content).toMatchObject({ projectNumber: '2617', from: MAIL.from, to: MAIL.to });
    expect(content.files.map((one) => one.path)).toEqual(run.files.map((one) => one.path));
    const got = await file(link, 1).expect(200);
    expect(sha256(got.body as Buffer)).toBe(run.files[1]!.sha256);
    expect(got.headers['content-disposition']).toContain('attachment');
    await file(link, 0).set('Range', 'bytes=100-').expect(206);
    await request(office)
      .head(path(ROUTES.recipientFile, { link, index: 0 }))
      .expect(200);
    const page = await visited(delivery!.id, ({ downloaded }) => downloaded.length > 0);
    // A later part of a file is no other download, and headers alone are none.
    expect(page).toMatchObject({ openings: 1, downloaded: [1] });
    expect(Date.parse(page.openedAt!)).toBeLessThanOrEqual(Date.parse(page.downloadedAt!));
    await request(office)
      .get(path(ROUTES.recipientZip, { link }))
      .expect(200)
      .expect('Content-Type', 'application/zip');
    await visited(delivery!.id, ({ downloaded }) => downloaded.length === run.files.length);
    const audit = (await request(server.app).get(ROUTES.audit)).body as AuditRow[];
    expect(
      audit.filter(({ event }) => event.startsWith('page.')).map(({ event, subject }) => [event, subject]),
    ).toEqual([
      ['page.downloaded', 'site@harbour.example: all files'],
      ['page.downloaded', `site@harbour.example: ${run.files[1]!.path}`],
      ['page.opened', 'site@harbour.example'],
    ]);
  });

  it('has only the files that its recipient gets', async () => {
    const { sheets, groups } = (await request(server.app).get(path(ROUTES.project, { project: server.project })))
      .body as ProjectInfo;
    const [first] = run.files;
    const { group } = sheets.find(({ id }) => first!.sheets.includes(id))!;
    const theirs = run.files.filter((one) =>
      one.sheets.some((id) => sheets.find((sheet) => sheet.id === id)?.group === group),
    );
    expect(theirs.length).toBeLessThan(run.files.length);
    const somebody = { id: 'plans', name: 'Plan room', mail: 'plans@harbour.example' };
    const people = [{ ...somebody, groups: [groups.find(({ id }) => id === group)!.name] }];
    await request(server.app)
      .patch(path(ROUTES.settings, { project: server.project }))
      .send({ project: { people } })
      .expect(200);
    // Whoever came into the directory after the run was started is known by name too.
    const { delivery, link } = await sent({ ...MAIL, to: 'Plan room' });
    const expected = run.files.map((one) => ({ path: one.path, how: theirs.includes(one) ? 'on a page' : 'left out' }));
    expect(outcomesOf(delivery)).toEqual(expected);
    const content = (await open(link).expect(200)).body as RecipientPageContent;
    expect(content.files.map(({ path: name }) => name)).toEqual(theirs.map(({ path: name }) => name));
    for (const [index, one] of run.files.entries()) await file(link, index).expect(theirs.includes(one) ? 200 : 404);
    const zip = await request(office)
      .get(path(ROUTES.recipientZip, { link }))
      .buffer(true)
      .parse((response, done) => {
        const parts: Buffer[] = [];
        response.on('data', (part: Buffer) => parts.push(part)).on('end', () => done(null, Buffer.concat(parts)));
      });
    writeFileSync(join(server.data, 'page.zip'), zip.body as Buffer);
    const names = tool('python3', '-m', 'zipfile', '-l', join(server.data, 'page.zip'));
    for (const one of run.files) expect(names.includes(one.path)).toBe(theirs.includes(one));
    await request(server.app)
      .patch(path(ROUTES.settings, { project: server.project }))
      .send({ project: { people: [{ ...somebody, formats: ['png'] }] } })
      .expect(200);
    const mails = peer.mails.length;
    await request(server.app)
      .post(path(ROUTES.deliveries, { run: run.id }))
      .send({ destination: { ...MAIL, to: 'Plan room' } })
      .expect(201);
    const ended = (await until(deliveries, (all) => all.at(-1)!.state === 'done')).at(-1)!;
    expect(outcomesOf(ended).map((one) => 'how' in one && one.how)).toEqual(run.files.map(() => 'left out'));
    expect([peer.mails.length, ended.page]).toEqual([mails, null]);
  });

  it('cannot be opened by a link that was made up', async () => {
    const link = linkIn(peer.mails[0]!.parsed.text!);
    const [id, signature] = link.split('.') as [string, string];
    const other = signature.startsWith('A') ? `B${signature.slice(1)}` : `A${signature.slice(1)}`;
    for (const wrong of [id, `${id}.`, `${id}.${other}`, `${run.id}.${signature}`, `${link}x`]) {
      await open(wrong).expect(404);
      await file(wrong, 0).expect(404);
    }
  });

  it('asks for its password, which the sender looks up, in every browser once', async () => {
    const { delivery, link } = await sent({ ...MAIL, to: 'check@town.example', pagePassword: true });
    expect(peer.mails.at(-1)!.parsed.text).toContain('The page asks for a password; drafting@office.example has it.');
    const lead = await browserOf(office, await colleague(server, 'Lead', { roles: { [server.project]: 'lead' } }));
    const at = { run: run.id, delivery: delivery.id };
    const key = (await lead.get(path(ROUTES.recipientPageKey, at)).expect(200)).body as RecipientPageKey;
    expect(key.link).toBe(`${URL}/files/${link}`);
    expect(key.password).toMatch(/^([a-z2-9]{4}-){2}[a-z2-9]{4}$/);
    expect(JSON.stringify(await deliveries())).not.toContain(key.password);
    const browser = request.agent(office);
    expect((await open(link, {}, browser).expect(403)).body).toMatchObject({ problem: { code: 'page.password' } });
    await file(link, 0, browser).expect(403);
    await open(link, { password: 'wrong-wrong-wrong' }, browser).expect(403);
    await open(link, { password: key.password!.toUpperCase().replaceAll('-', ' ') }, browser).expect(200);
    await file(link, 0, browser).expect(200);
    await open(link, {}, browser).expect(200);
    await file(link, 0).expect(403);
    const page = await visited(delivery.id, ({ downloaded }) => downloaded.length > 0);
    expect(page).toMatchObject({ hasPassword: true, openings: 2, downloaded: [0] });
  });

  it('takes only so many wrong passwords', async () => {
    const { link } = await sent({ ...MAIL, to: 'guess@town.example', pagePassword: true });
    const statuses: number[] = [];
    for (let i = 0; i < 11; i++) statuses.push((await open(link, { password: `guess ${i}` })).status);
    expect(statuses).toEqual([...Array<number>(10).fill(403), 429]);
  });

  it('keeps its link and password when the email is sent once more, since the first one may have arrived', async () => {
    peer.breaks = 1;
    await request(server.app)
      .post(path(ROUTES.deliveries, { run: run.id }))
      .send({ destination: { ...MAIL, to: 'twice@town.example' } })
      .expect(201);
    await until(deliveries, (all) => all.at(-1)!.nextAttemptAt !== null);
    await server.services.connection.pool.query(`update pgboss.job set start_after = now() where state < 'active'`);
    await until(deliveries, (all) => all.at(-1)!.state === 'done');
    const links = peer.mails
      .filter(({ to }) => to[0] === 'twice@town.example')
      .map(({ parsed }) => linkIn(parsed.text!));
    expect(links).toHaveLength(2);
    expect(new Set(links).size).toBe(1);
  });

  it('ends when it is closed, when its last day has ended everywhere, and while its run is removed', async () => {
    const { delivery, link } = await sent({ ...MAIL, to: 'end@town.example', pageDays: 3 });
    const expiresAt = new Date(delivery.page!.expiresAt);
    const lastDay = /until (\d{4}-\d{2}-\d{2}):/.exec(peer.mails.at(-1)!.parsed.text!)![1]!;
    // 23:59 of a day at UTC-12 is 11:59 of the next one in UTC.
    expect(expiresAt.getTime()).toBe(Date.parse(`${lastDay}T24:00:00-12:00`));
    const { pool } = server.services.connection;
    const today = (await pool.query<{ day: string }>(`select ((now() at time zone 'UTC')::date + 3)::text as day`))
      .rows;
    expect(lastDay).toBe(today[0]!.day);
    const ended = async (): Promise<void> => {
      const { body } = await open(link).expect(410);
      expect(body).toMatchObject({ problem: { code: 'page.ended' } });
      await file(link, 0).expect(410);
    };
    const remove = (removed: boolean) =>
      request(server.app)
        .put(path(ROUTES.runRemoved, { run: run.id }))
        .send({ removed })
        .expect(200);
    await remove(true);
    await ended();
    await remove(false);
    await open(link).expect(200);
    await pool.query(`update recipient_pages set expires_at = now() where delivery_id = $1`, [delivery.id]);
    await ended();
    await pool.query(`update recipient_pages set expires_at = now() + interval '1 day' where delivery_id = $1`, [
      delivery.id,
    ]);
    const close = () =>
      request(server.app).delete(path(ROUTES.recipientPageKey, { run: run.id, delivery: delivery.id }));
    const closed = (await close().expect(200)).body as RunInfo;
    expect(closed.deliveries.find(({ id }) => id === delivery.id)!.page!.closedAt).not.toBeNull();
    await close().expect(404);
    await ended();
  });

  it('is not there where Folvex serves one person only', async () => {
    const link = linkIn(peer.mails[0]!.parsed.text!);
    await request(server.app).post(path(ROUTES.recipientPage, { link })).send({}).expect(409);
  });
});
