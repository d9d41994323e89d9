import { execFileSync } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync, symlinkSync, truncateSync, utimesSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import request from 'supertest';
import { PDFDocument } from '@cantoo/pdf-lib';
import {
  MAX_ARRIVALS,
  path,
  ROUTES,
  type ArrivalAnswered,
  type ArrivalInfo,
  type Arrivals,
  type AuditRow,
  type DrawingInfo,
  type EditAnswer,
  type ProjectInfo,
  type ProjectNews,
} from '@folvex/contract';
import { MAX_DRAWING_BYTES, type Inbox, type Problem, type ProjectFacts } from '@folvex/core';
import { pollAt, pollInboxes, SETTLED_MS, type InboxDeps } from '../../src/work/inboxes/poll-inboxes';
import { runSchedules } from '../../src/work/runs/run-schedules';
import { useServer } from '../support/harness';

const server = useServer();

const wall = (x: number): string =>
  `0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n4\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n0\nLINE\n8\nWALL\n10\n0\n20\n0\n11\n3000\n21\n0\n0\nLINE\n8\nWALL\n10\n${x}\n20\n0\n11\n${x}\n21\n4000\n0\nENDSEC\n0\nEOF\n`;

const folder = (): string => join(server.data, 'inbox');
const deps = (): InboxDeps => ({ ...server.services, inboxFolder: folder() });
/** Polls twice, as far apart as a file takes to settle: what is there now has arrived. */
let now = Date.parse('2026-11-02T08:00Z');
const poll = async (): Promise<void> => pollAt(deps(), (now += SETTLED_MS));
const arrive = async (): Promise<void> => {
  for (let i = 0; i < 2; i++) await poll();
};
const put = (name: string, content: string | Buffer, writtenAt = now): void => {
  const target = join(folder(), name);
  mkdirSync(dirname(target), { recursive: true });
  writeFileSync(target, content);
  utimesSync(target, new Date(writtenAt), new Date(writtenAt));
};
const set = (project: Partial<ProjectFacts>) =>
  request(server.app)
    .patch(path(ROUTES.settings, { project: server.project }))
    .send({ project })
    .expect(200);
const watch = (...inboxes: (Partial<Inbox> & { id: string })[]) =>
  set({ inboxes: inboxes.map((one) => ({ name: `Inbox ${one.id}`, folder: one.id, ...one })) });
const listed = async (): Promise<Arrivals> =>
  (
    await request(server.app)
      .get(path(ROUTES.arrivals, { project: server.project }))
      .expect(200)
  ).body as Arrivals;
const came = async (name: string): Promise<ArrivalInfo> => {
  const one = (await listed()).arrivals.find((arrival) => arrival.path === name);
  if (!one) throw new Error(`${name} did not arrive`);
  return one;
};
const decide = (arrival: string, answer: object) =>
  request(server.app)
    .post(path(ROUTES.arrival, { project: server.project, arrival }))
    .send(answer);
const project = async (): Promise<ProjectInfo> =>
  (await request(server.app).get(path(ROUTES.project, { project: server.project }))).body as ProjectInfo;
const changedAt = async (): Promise<string | null> => {
  const { body } = await request(server.app)
    .post(path(ROUTES.presence, { project: server.project }))
    .send({ window: 'w', id: 'p', name: '', sheet: null });
  return (body as ProjectNews).arrivalsChangedAt;
};
const drawing = async (name: string): Promise<DrawingInfo | undefined> =>
  (await project()).drawings.find((one) => one.name === name);

describe('an inbox', () => {
  it('waits until a file is complete, then asks what to do with it', async () => {
    await watch({ id: 'structures', name: 'Structures' });
    await poll();
    // Its folder is there for people to put files into.
    expect((await listed()).inboxes).toMatchObject([
      { id: 'structures', where: join(folder(), 'structures'), problem: null, polledAt: new Date(now).toISOString() },
    ]);
    put('structures/S-101.dxf', wall(0).slice(0, 20));
    await poll();
    expect(await came('S-101.dxf')).toMatchObject({ state: 'arriving', inbox: 'Structures', offered: null });
    // It goes on being written: the time begins anew.
    put('structures/S-101.dxf', wall(0));
    await poll();
    expect(await came('S-101.dxf')).toMatchObject({ state: 'arriving' });
    await pollAt(deps(), now + SETTLED_MS - 1);
    expect(await came('S-101.dxf')).toMatchObject({ state: 'arriving' });
    await poll();
    const arrival = await came('S-101.dxf');
    expect(arrival).toMatchObject({ state: 'waiting', drawing: null, offered: { name: 'S-101.dxf' } });
    expect(await drawing('S-101.dxf')).toBeUndefined();
    const { body } = await decide(arrival.id, { as: 'drawing' }).expect(200);
    expect(body as ArrivalAnswered).toMatchObject({
      arrival: { state: 'taken', version: 1, offered: null },
      drawing: { name: 'S-101.dxf', entities: 2 },
    });
    expect(await drawing('S-101.dxf')).toMatchObject({ version: 1 });
    const [decided, arrived] = (await request(server.app).get(ROUTES.audit)).body as AuditRow[];
    expect(decided).toMatchObject({ event: 'arrival.decided', subject: 'Structures: S-101.dxf, taken' });
    expect(arrived).toMatchObject({ event: 'inbox.arrived', name: null, subject: 'Structures: S-101.dxf' });
    // It stays where it is, and does not come in again.
    await arrive();
    expect((await listed()).arrivals).toHaveLength(1);
    expect(readFileSync(join(folder(), 'structures/S-101.dxf'), 'utf8')).toBe(wall(0));
  });

  it('offers what it can become a newer version of, by the mark of versions of the project', async () => {
    await set({ versionMark: '_P' });
    put('structures/late/S-101_P02.dxf', wall(500));
    await arrive();
    const arrival = await came('late/S-101_P02.dxf');
    const older = (await drawing('S-101.dxf'))!;
    expect(arrival).toMatchObject({ state: 'waiting', drawing: older.id });
    // What changes can be looked at before it is taken.
    const between = { drawing: older.id, from: older.hash, to: arrival.offered!.hash };
    await request(server.app).get(path(ROUTES.changes, between)).expect(200);
    const news = await request(server.app)
      .post(path(ROUTES.presence, { project: server.project }))
      .send({ window: 'w', id: 'p', name: '', sheet: null });
    const { arrivalsChangedAt, latestRuns } = news.body as ProjectNews;
    expect(latestRuns).toEqual([]);
    await decide(arrival.id, { as: 'version' }).expect(200);
    expect(await drawing('S-101_P02.dxf')).toMatchObject({ id: older.id, version: 2 });
    expect((await request(server.app).get(path(ROUTES.drawing, { drawing: older.id }))).body).toMatchObject({
      version: 2,
    });
    const later = await request(server.app)
      .post(path(ROUTES.presence, { project: server.project }))
      .send({ window: 'w', id: 'p', name: '', sheet: null });
    expect((later.body as ProjectNews).arrivalsChangedAt! > arrivalsChangedAt!).toBe(true);
    const { body } = await decide(arrival.id, { as: 'decline' }).expect(422);
    expect((body as { problem: Problem }).problem.sentence).toContain(
      'Somebody has already decided on late/S-101_P02.dxf',
    );
  });

  it('keeps nothing of what is declined', async () => {
    put('structures/unwanted.dxf', wall(900));
    await arrive();
    const { id, offered } = await came('unwanted.dxf');
    await decide(id, { as: 'decline' }).expect(200);
    expect(await came('unwanted.dxf')).toMatchObject({ state: 'declined', offered: null });
    const between = { drawing: (await drawing('S-101_P02.dxf'))!.id, from: offered!.hash, to: offered!.hash };
    await request(server.app).get(path(ROUTES.changes, between)).expect(404);
    await arrive();
    expect(await came('unwanted.dxf')).toMatchObject({ state: 'declined' });
    // Written anew, it comes in again.
    put('structures/unwanted.dxf', wall(901));
    await arrive();
    expect(await came('unwanted.dxf')).toMatchObject({ state: 'waiting' });
  });

  it('asks about the latest file of a name only', async () => {
    const [before] = (await listed()).arrivals.filter(({ path }) => path === 'unwanted.dxf');
    put('structures/unwanted.dxf', wall(902));
    await arrive();
    const states = (await listed()).arrivals.filter(({ path }) => path === 'unwanted.dxf');
    expect(states.map(({ state }) => state)).toEqual(['waiting', 'replaced', 'declined']);
    expect(states[1]!.id).toBe(before!.id);
    await decide(before!.id, { as: 'drawing' }).expect(422);
  });

  it('says what cannot be read, and what is here already', async () => {
    put('structures/letter.docx', 'no drawing');
    put('structures/again.dxf', wall(500));
    put('structures/set.zip', 'PK');
    put('structures/half.dxf.part', 'half');
    put('structures/.hidden', 'x');
    symlinkSync('/etc', join(folder(), 'structures/link'));
    await arrive();
    const letter = await came('letter.docx');
    expect(letter).toMatchObject({
      state: 'refused',
      problem: { sentence: expect.stringContaining('letter.docx') as string },
    });
    expect(await came('again.dxf')).toMatchObject({ state: 'known', drawing: (await drawing('S-101_P02.dxf'))!.id });
    expect((await came('set.zip')).problem!.sentence).toMatch(/^set\.zip is an archive; unpack it/);
    const { arrivals } = await listed();
    expect(arrivals.map(({ path }) => path).filter((name) => /half|hidden|link|passwd/.test(name))).toEqual([]);
    await decide(letter.id, { as: 'drawing' }).expect(422);
  });

  it('refuses what is too large before it fetches it', async () => {
    put('structures/huge.dxf', '');
    const huge = join(folder(), 'structures/huge.dxf');
    truncateSync(huge, MAX_DRAWING_BYTES + 1);
    await arrive();
    expect(await came('huge.dxf')).toMatchObject({ state: 'refused', problem: { code: 'upload.too-large' } });
    rmSync(huge);
  });

  it('asks for the password of a protected file', async () => {
    put('structures/protected.pdf', await protectedPdf());
    await arrive();
    const { id, problem } = await came('protected.pdf');
    expect(problem).toMatchObject({ code: 'pdf.password' });
    const wrong = (await decide(id, { as: 'unlock', password: 'heron' }).expect(200)).body as ArrivalAnswered;
    expect(wrong.arrival).toMatchObject({ state: 'waiting', problem: { code: 'pdf.password' } });
    const right = (await decide(id, { as: 'unlock', password: 'tern' }).expect(200)).body as ArrivalAnswered;
    expect(right).toMatchObject({ arrival: { state: 'taken' }, drawing: { name: 'protected.pdf' } });
  });

  it('offers what was protected as the newer version that it turns out to be, once', async () => {
    put('structures/protected.pdf', await protectedPdf(300));
    await arrive();
    const { id } = await came('protected.pdf');
    const opened = (await decide(id, { as: 'unlock', password: 'tern' }).expect(200)).body as ArrivalAnswered;
    expect(opened.arrival).toMatchObject({
      state: 'waiting',
      drawing: (await drawing('protected.pdf'))!.id,
      problem: null,
    });
    // The file in the inbox has another size than what was opened of it; it has not changed.
    await arrive();
    const open = (await listed()).arrivals.filter(({ path, state }) => path === 'protected.pdf' && state === 'waiting');
    expect(open.map((one) => one.id)).toEqual([id]);
    await decide(id, { as: 'version' }).expect(200);
    const { version, bytes } = (await drawing('protected.pdf'))!;
    expect([version, bytes]).toEqual([2, opened.arrival.offered!.bytes]);
  });

  it('lists all that wait for a decision, however many others came later', async () => {
    put('structures/patient.dxf', wall(2000));
    await arrive();
    const names = Array.from({ length: MAX_ARRIVALS + 1 }, (_, i) => `letter-${i}.zip`);
    for (const name of names) put(`structures/${name}`, 'PK');
    await arrive();
    const { arrivals } = await listed();
    expect(arrivals.filter(({ path }) => path.startsWith('letter-'))).toHaveLength(MAX_ARRIVALS);
    expect(arrivals.at(-1)!.state).toBe('waiting');
    expect(await came('patient.dxf')).toMatchObject({ state: 'waiting' });
    for (const name of names) rmSync(join(folder(), 'structures', name));
  });

  it('takes newer versions, or everything, where it may', async () => {
    await watch({ id: 'versions', takes: 'versions' }, { id: 'all', takes: 'everything' });
    put('versions/S-101_P03.dxf', wall(700));
    put('versions/V-1.dxf', wall(710));
    put('all/W-1.dxf', wall(720));
    await arrive();
    expect(await came('S-101_P03.dxf')).toMatchObject({ state: 'taken', version: 3, by: null });
    expect(await came('V-1.dxf')).toMatchObject({ state: 'waiting', drawing: null });
    expect(await came('W-1.dxf')).toMatchObject({ state: 'taken', version: 1 });
    expect(await drawing('W-1.dxf')).toBeDefined();
    // What was sent before, sent once more, does not take the place of what came after it.
    put('versions/S-101_P05.dxf', wall(500));
    await arrive();
    expect(await came('S-101_P05.dxf')).toMatchObject({ state: 'known', version: 2 });
    expect(await drawing('S-101_P03.dxf')).toMatchObject({ version: 3 });
  });

  it('brings in a newer version, which a package publishes by itself', async () => {
    const older = (await drawing('S-101_P03.dxf'))!;
    const { sheets } = (
      await request(server.app)
        .post(path(ROUTES.sheets, { project: server.project }))
        .send({ drawing: older.id, number: 'S-101', title: '', group: '', paper: { size: [300, 200] }, scale: '1:50' })
    ).body as EditAnswer;
    const { id: sheet } = sheets.find(({ number }) => number === 'S-101')!;
    const { body } = await request(server.app)
      .post(path(ROUTES.packages, { project: server.project }))
      .send({ name: 'Structures' })
      .expect(201);
    const pack = (body as EditAnswer).pack!.id;
    await request(server.app)
      .patch(path(ROUTES.package, { project: server.project, package: pack }))
      .send({ publishes: 'change', order: [sheet] })
      .expect(200);
    const runs = async () => (await project()).runs.filter(({ packageId }) => packageId === pack);
    const minutes = (count: number): Promise<void> =>
      runSchedules(server.services, Date.now() + count * 60_000, { zone: 'UTC', quietMinutes: 10 });
    await minutes(0);
    await minutes(15);
    const before = (await runs()).length;
    put('versions/S-101_P04.dxf', wall(1700));
    await arrive();
    expect(await drawing('S-101_P04.dxf')).toMatchObject({ id: older.id, version: 4 });
    await minutes(30);
    expect(await runs()).toHaveLength(before + 1);
    await minutes(60);
    expect(await runs()).toHaveLength(before + 1);
  });

  it('forgets a file that goes before it is complete', async () => {
    put('all/gone.dxf', wall(1));
    await poll();
    expect(await came('gone.dxf')).toMatchObject({ state: 'arriving' });
    const before = await changedAt();
    rmSync(join(folder(), 'all/gone.dxf'));
    await poll();
    await expect(came('gone.dxf')).rejects.toThrow('did not arrive');
    // Windows that are open are told.
    expect(await changedAt()).not.toBe(before);
  });

  it('that cannot be read says why, and does not hold up others', async () => {
    await watch({ id: 'away', server: 'none' }, { id: 'all', takes: 'everything' });
    put('all/X-1.dxf', wall(730));
    await arrive();
    const { inboxes } = await listed();
    expect(inboxes.find(({ id }) => id === 'away')).toMatchObject({
      where: null,
      problem: {
        sentence: expect.stringContaining('Its transfer server is not set up') as string,
      },
    });
    expect(await came('X-1.dxf')).toMatchObject({ state: 'taken' });
  });

  it('is polled by one worker at a time', async () => {
    put('all/Y-1.dxf', wall(740));
    await Promise.all(Array.from({ length: 4 }, () => pollInboxes(server.services.connection, deps())));
    const { arrivals } = await listed();
    expect(arrivals.filter(({ path }) => path === 'Y-1.dxf')).toHaveLength(1);
  });
});

/** A PDF that opens with the password `tern`. */
async function protectedPdf(width = 200): Promise<Buffer> {
  const pdf = await PDFDocument.create();
  pdf.addPage([width, 200]);
  const [plain, encrypted] = ['plain.pdf', 'encrypted.pdf'].map((name) => join(server.data, name));
  writeFileSync(plain!, await pdf.save());
  execFileSync('qpdf', ['--encrypt', 'tern', 'owner', '256', '--', plain!, encrypted!]);
  return readFileSync(encrypted!);
}
