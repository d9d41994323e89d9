import request from 'supertest';
import {
  path,
  ROUTES,
  type AuditRow,
  type PackageChange,
  type ProjectInfo,
  type RunInfo,
  type ScheduleInfo,
} from '@folvex/contract';
import type { SheetPackage } from '@folvex/core';
import { runDueSchedules, runSchedules } from '../../src/work/runs/run-schedules';
import { startMailbox } from '../../../stand-ins/src/index';
import { until, useServer } from '../support/harness';

const server = useServer();
const MINUTE = 60_000;
const RULES = { zone: 'UTC', quietMinutes: 10 };

const change = (pack: string, set: PackageChange) =>
  request(server.app)
    .patch(path(ROUTES.package, { project: server.project, package: pack }))
    .send(set)
    .expect(200);
const runsOf = async (pack: string): Promise<RunInfo[]> => {
  const { body } = await request(server.app).get(path(ROUTES.project, { project: server.project }));
  return (body as ProjectInfo).runs.filter(({ packageId }) => packageId === pack);
};
const schedule = async (pack: string): Promise<ScheduleInfo> =>
  (
    await request(server.app)
      .get(path(ROUTES.schedule, { project: server.project, package: pack }))
      .expect(200)
  ).body as ScheduleInfo;
/** The schedules at a time, in UTC. */
const at = (time: string): Promise<void> => runSchedules(server.services, Date.parse(time), RULES);

describe('a package that publishes by itself', () => {
  it('does so once on its day, at its time', async () => {
    await change('permit', { publishes: 'friday', publishAt: '16:00' });
    // 2026-12-04 is a Friday. What was due before the schedule was set is not caught up on.
    for (const time of ['2026-12-03T09:00Z', '2026-12-04T15:59Z']) await at(time);
    expect(await runsOf('permit')).toEqual([]);
    for (const time of ['2026-12-04T16:00:10Z', '2026-12-04T16:00:30Z', '2026-12-05T08:00Z']) await at(time);
    const [run, ...others] = await runsOf('permit');
    expect(others).toEqual([]);
    expect(run).toMatchObject({ startedBy: 'its schedule', state: 'waiting' });
    const told = await schedule('permit');
    expect(told.last).toEqual({
      ...{ due: '2026-12-04T16:00:00.000Z', at: '2026-12-04T16:00:10.000Z', run: run!.id, sentence: null },
    });
    expect(told.next).toHaveLength(3);
    expect(told.next.every((time) => time.endsWith('T16:00:00.000Z') && new Date(time).getUTCDay() === 5)).toBe(true);
    const [latest] = (await request(server.app).get(ROUTES.audit)).body as AuditRow[];
    expect(latest).toMatchObject({ event: 'schedule.published', name: null, subject: 'Permit set' });
  });

  it('tells what it missed, and does not make up for it hours later', async () => {
    await at('2026-12-11T18:30Z');
    expect(await runsOf('permit')).toHaveLength(1);
    expect((await schedule('permit')).last).toMatchObject({
      run: null,
      sentence: expect.stringContaining('missed') as string,
    });
    // Half an hour is not too late.
    await at('2026-12-18T16:30Z');
    expect(await runsOf('permit')).toHaveLength(2);
  });

  it('does nothing while it is paused', async () => {
    await change('permit', { pausedUntil: '2027-01-08' });
    for (const time of ['2026-12-24T16:00Z', '2026-12-25T16:00:10Z', '2027-01-01T16:00:10Z']) await at(time);
    expect(await runsOf('permit')).toHaveLength(2);
    await at('2027-01-08T16:00:10Z');
    expect(await runsOf('permit')).toHaveLength(3);
  });

  it('does not where its checks stop it, and says why', async () => {
    await change('permit', { names: { file: '', folder: '', bundle: '[nothing' } });
    await at('2027-01-15T16:00:10Z');
    expect(await runsOf('permit')).toHaveLength(3);
    const { last } = await schedule('permit');
    expect(last).toMatchObject({ run: null, due: '2027-01-15T16:00:00.000Z' });
    expect(last!.sentence).toMatch(/\S/);
    const [latest] = (await request(server.app).get(ROUTES.audit)).body as AuditRow[];
    expect(latest).toMatchObject({ event: 'schedule.stopped', subject: `Permit set: ${last!.sentence}` });
    await change('permit', { publishes: null, publishAt: '', pausedUntil: '' });
    await at('2027-01-22T16:00:10Z');
    expect(await runsOf('permit')).toHaveLength(3);
    expect((await schedule('permit')).next).toEqual([]);
  });

  it('does not make up for times before it was set like this', async () => {
    await change('permit', { names: { file: '', folder: '', bundle: '[package.name]' } });
    // 2027-02-05 is a Friday. It is set at 15:05 to half past two.
    await change('permit', { publishes: 'friday', publishAt: '16:00' });
    await at('2027-01-29T16:00Z');
    await change('permit', { publishAt: '14:30' });
    for (const time of ['2027-02-05T15:05Z', '2027-02-05T15:06Z']) await at(time);
    expect(await runsOf('permit')).toHaveLength(3);
    // Nor where it was off for a while, and is set as it was before.
    await change('permit', { publishes: null });
    await at('2027-02-06T09:00Z');
    await change('permit', { publishes: 'friday' });
    for (const time of ['2027-02-12T15:00Z', '2027-02-12T15:01Z']) await at(time);
    expect(await runsOf('permit')).toHaveLength(3);
    expect((await schedule('permit')).last).toBeNull();
    await at('2027-02-19T14:31Z');
    expect(await runsOf('permit')).toHaveLength(4);
    await change('permit', { publishes: null });
  });

  it('does so ten minutes after a change, if sheets are otherwise than they were published', async () => {
    const { services } = server;
    await change('tender', { publishes: 'change' });
    const now = Date.now();
    await runSchedules(services, now - 60 * MINUTE, RULES);
    const later = (minutes: number) => runSchedules(services, now + minutes * MINUTE, RULES);
    await later(5);
    expect(await runsOf('tender')).toEqual([]);
    await later(12);
    await later(14);
    expect(await runsOf('tender')).toHaveLength(1);
    // The notes of a package are on no sheet.
    await change('tender', { notes: 'for the tender' });
    await later(30);
    expect(await runsOf('tender')).toHaveLength(1);
    const { body } = await request(server.app).get(path(ROUTES.project, { project: server.project }));
    const { packages, sheets } = body as ProjectInfo;
    const sheet = sheets.find(({ id }) => id === packages.find((one) => one.id === 'tender')!.order[0])!;
    await request(server.app)
      .patch(path(ROUTES.sheet, { project: server.project, sheet: sheet.id }))
      .send({ title: 'Another title', was: { title: sheet.title } })
      .expect(200);
    await later(45);
    expect(await runsOf('tender')).toHaveLength(2);
  });

  it('is not copied with its package', async () => {
    const { body } = await request(server.app)
      .post(path(ROUTES.packages, { project: server.project }))
      .send({ name: 'Copy', like: 'tender' })
      .expect(201);
    const copy = (body as { pack: SheetPackage }).pack;
    expect(copy.name).toBe('Copy');
    expect(copy.publishes).toBeUndefined();
  });

  it('is seen to by one worker at a time', async () => {
    const { connection } = server.services;
    const client = await connection.pool.connect();
    await client.query('select pg_advisory_lock(7261704)');
    await change('tender', { publishes: 'day' });
    await runDueSchedules(server.services, RULES);
    await client.query('select pg_advisory_unlock(7261704)');
    client.release();
    await runDueSchedules(server.services, RULES);
    expect(await runsOf('tender')).toHaveLength(2);
  });

  it('has the result emailed, and says who could not be told', async () => {
    server.work();
    const mailbox = await startMailbox();
    await request(server.app)
      .put(path(ROUTES.transferServer, { project: server.project, server: 'post' }))
      .send({ name: 'Post', address: mailbox.address, user: '', fingerprint: null })
      .expect(200);
    await change('permit', {
      ...{ publishes: 'friday', publishAt: '16:00', tellServer: 'post', tellFrom: 'folvex@office.example' },
      tellTo: 'site@harbour.example, gone@harbour.example',
    });
    await at('2027-03-04T12:00Z');
    const before = await runsOf('permit');
    await at('2027-03-05T16:00:10Z');
    const subjects = () => Promise.resolve(mailbox.mails.map(({ subject }) => subject));
    await until(subjects, (found) => found.length === 1);
    expect(await runsOf('permit')).toHaveLength(before.length + 1);
    expect(await subjects()).toEqual(['Published: Permit set (2617)']);
    const [{ text, from }] = mailbox.mails as [(typeof mailbox.mails)[number]];
    expect(text).toContain('The schedule published Permit set of 2617 Tern Quay Ferry Terminal. One file was written.');
    expect(from!.text).toBe('folvex@office.example');
    const untold = await until(
      async () => (await schedule('permit')).last?.untold,
      (sentence) => sentence !== undefined,
    );
    expect(untold).toMatch(
      /^The result could not be emailed to gone@harbour\.example: Post refused the email to gone@harbour\.example/,
    );
    await change('permit', { names: { file: '', folder: '', bundle: '[nothing' }, tellTo: 'site@harbour.example' });
    await at('2027-03-12T16:00:10Z');
    await until(subjects, (found) => found.length === 2);
    const { last } = await schedule('permit');
    expect(mailbox.mails[1]).toMatchObject({ subject: 'Not published: Permit set (2617)' });
    expect(mailbox.mails[1]!.text).toContain(last!.sentence!);
    // A name that is nobody's is told in place of an email.
    await change('permit', { tellTo: 'Harbour master' });
    await at('2027-03-19T16:00:10Z');
    expect((await schedule('permit')).last!.untold).toContain('Harbour master is neither an email address nor');
    const events = ((await request(server.app).get(ROUTES.audit)).body as AuditRow[]).map(({ event }) => event);
    expect(events.filter((event) => event === 'schedule.told')).toHaveLength(2);
    expect(events.filter((event) => event === 'schedule.untold')).toHaveLength(1);
    await change('permit', { publishes: null, names: { file: '', folder: '', bundle: '[package.name]' }, tellTo: '' });
    await mailbox.stop();
  });
});
