import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer, type AddressInfo, type Socket } from 'node:net';
import { join } from 'node:path';
import request from 'supertest';
import {
  path,
  ROUTES,
  type AtDestination,
  type AuditRow,
  type DeliveryInfo,
  type RunInfo,
  type TransferServerChange,
} from '@folvex/contract';
import type { ConflictPolicy, Destination } from '@folvex/core';
import { sha256 } from '@folvex/press';
import { freePort } from '../../../scripts/lib/postgres.mjs';
import { startSshd, type Peer } from '../../../press/test/support/peers';
import type { RunReport } from '../../src/work/runs/run-report';
import { delivered, outcomesOf } from '../support/delivered';
import { until, useServer } from '../support/harness';

const server = useServer();
let peer: Peer;
let run: RunInfo;

beforeAll(async () => {
  const folder = join(server.data, 'peer');
  mkdirSync(folder);
  peer = await startSshd(folder);
  server.work();
  await setUp('office', setOf(peer));
  const { body } = await request(server.app)
    .post(path(ROUTES.runs, { project: server.project, package: 'tender' }))
    .send({});
  run = await until(
    () => told((body as RunInfo).id),
    ({ state }) => state === 'done',
  );
});
afterAll(() => peer.stop());

const setOf = ({ login: { name, address, user, secret, fingerprint } }: Peer): TransferServerChange => ({
  ...{ name, address, user, secret, fingerprint },
});
const setUp = (id: string, set: TransferServerChange) =>
  request(server.app)
    .put(path(ROUTES.transferServer, { project: server.project, server: id }))
    .send(set)
    .expect(200);
const told = async (id = run.id): Promise<RunInfo> =>
  (await request(server.app).get(path(ROUTES.run, { run: id }))).body as RunInfo;
const to = (id: string, folder: string, onConflict: ConflictPolicy = 'stop'): Destination => ({
  ...{ kind: 'server', server: id, folder, onConflict },
});
const send = async (destination: Destination): Promise<DeliveryInfo> => {
  const { body } = await request(server.app)
    .post(path(ROUTES.deliveries, { run: run.id }))
    .send({ destination })
    .expect(201);
  return (body as RunInfo).deliveries.at(-1)!;
};
const act = (what: 'deliveryAgain' | 'deliveryCancel', delivery: string, of = run.id) =>
  request(server.app).post(path(ROUTES[what], { run: of, delivery }));
const now = async (id: string): Promise<DeliveryInfo> => (await told()).deliveries.find((one) => one.id === id)!;
const ended = (id: string): Promise<DeliveryInfo> =>
  until(
    () => now(id),
    ({ state }) => state === 'done' || state === 'failed',
  );
/** As if the pause before the next attempt were over. */
const skipPause = () =>
  server.services.connection.pool.query(`update pgboss.job set start_after = now() where state < 'active'`);

/** A transfer server at a port where nothing listens. */
async function setUpAway(id: string): Promise<void> {
  const url = new URL(peer.login.address);
  url.port = String(await freePort());
  await setUp(id, { ...setOf(peer), address: url.href });
}

describe('a finished run', () => {
  it('that was delivered nowhere is sent to a destination, with a receipt of each file', async () => {
    expect(run.deliveries).toEqual([]);
    const asked = await request(server.app)
      .post(path(ROUTES.runDestination, { run: run.id }))
      .send({ destination: to('office', '[project.number]/late') });
    expect(asked.body as AtDestination).toEqual({ where: expect.stringContaining('2617/late') as string, paths: [] });
    const { id } = await send(to('office', '[project.number]/late'));
    const delivery = await ended(id);
    expect(delivery).toMatchObject({ state: 'done', location: (asked.body as AtDestination).where, problem: null });
    expect(outcomesOf(delivery)).toEqual(run.files.map(({ path: file, bytes }) => ({ path: file, how: 'new', bytes })));
    for (const { path: file, sha256: hash } of run.files) expect(sha256(peer.content(`2617/late/${file}`)!)).toBe(hash);
    const again = await request(server.app)
      .post(path(ROUTES.runDestination, { run: run.id }))
      .send({ destination: to('office', '[project.number]/late') });
    expect((again.body as AtDestination).paths).toEqual(run.files.map(({ path: file }) => file));
    expect((again.body as AtDestination).numbered).toBeUndefined();
    const kept = await request(server.app)
      .post(path(ROUTES.runDestination, { run: run.id }))
      .send({ destination: to('office', '[project.number]/late', 'both') });
    const [first] = run.files;
    expect((kept.body as AtDestination).numbered).toMatchObject({
      [first!.path]: first!.path.replace(/\.pdf$/, ' (2).pdf'),
    });
  });

  it('has its deliveries in the report, and their ends in the audit', async () => {
    const at = { run: run.id };
    const report = (await request(server.app).get(path(ROUTES.runReport, { ...at, format: 'json' }))).body as RunReport;
    expect(report.deliveries).toHaveLength(run.files.length);
    const [first] = run.files;
    expect(report.deliveries[0]).toMatchObject({
      ...{ state: 'done', path: first!.path, outcome: `new: ${first!.path}`, bytes: first!.bytes },
    });
    const csv = await request(server.app).get(path(ROUTES.runReport, { ...at, format: 'csv' }));
    expect(csv.text).toContain('Destination,State,Path,Outcome,Bytes,Hash at destination,Time');
    const audit = (await request(server.app).get(ROUTES.audit)).body as AuditRow[];
    expect(audit.find(({ event }) => event === 'delivery.done')!.subject).toMatch(/2617\/late \(8 files\)$/);
  });

  it('is sent on to others while one destination is away; that one gets it later, each file once', async () => {
    await setUpAway('away');
    const { id } = await send(to('away', 'later'));
    const waiting = await until(
      () => now(id),
      ({ nextAttemptAt }) => nextAttemptAt !== null,
    );
    expect(waiting).toMatchObject({ state: 'waiting', receipts: [], problem: { code: 'destination.copy' } });
    expect(waiting.problem!.sentence).toContain('does not answer');
    expect((await ended((await send(to('office', 'meanwhile'))).id)).state).toBe('done');
    await setUp('away', setOf(peer));
    await skipPause();
    expect(await ended(id)).toMatchObject({ state: 'done', problem: null, nextAttemptAt: null });
    const there = readdirSync(join(peer.root, 'later'), { recursive: true, withFileTypes: true });
    expect(there.filter((entry) => entry.isFile())).toHaveLength(run.files.length);
    for (const { path: file, sha256: hash } of run.files) expect(sha256(peer.content(`later/${file}`)!)).toBe(hash);
  });

  it('is published while many deliveries wait for servers that do not answer', async () => {
    const held: Socket[] = [];
    const silent = createServer((socket) => void held.push(socket.on('error', () => undefined)));
    await new Promise<void>((ready) => silent.listen(0, '127.0.0.1', ready));
    const url = new URL(peer.login.address);
    url.port = String((silent.address() as AddressInfo).port);
    await setUp('silent', { ...setOf(peer), address: url.href });
    const waiting: string[] = [];
    for (let i = 0; i < 8; i++) waiting.push((await send(to('silent', `${i}`, 'both'))).id);
    const again = (await request(server.app).post(path(ROUTES.runAgain, { run: run.id }))).body as RunInfo;
    const done = await until(
      () => told(again.id),
      ({ state }) => state === 'done',
    );
    expect(done.files).toHaveLength(run.files.length);
    const states = (await told()).deliveries.filter(({ id }) => waiting.includes(id)).map(({ state }) => state);
    expect(states.filter((state) => state === 'waiting' || state === 'sending')).toHaveLength(8);
    for (const id of waiting) await act('deliveryCancel', id).expect(200);
    silent.close();
    for (const socket of held) socket.destroy();
  });

  it('is given up where a destination stays away, and can be sent there again', async () => {
    await setUpAway('gone');
    const { id } = await send(to('gone', 'gone'));
    const failed = await until(
      async () => {
        await skipPause();
        return now(id);
      },
      ({ state }) => state === 'failed',
    );
    expect(failed).toMatchObject({ receipts: [], problem: { code: 'destination.copy' }, nextAttemptAt: null });
    await setUp('gone', setOf(peer));
    await act('deliveryAgain', id).expect(200);
    expect((await ended(id)).state).toBe('done');
    const { body } = await act('deliveryAgain', id).expect(409);
    expect(body.problem.code).toBe('delivery.open');
  });

  it('is not sent any further once that is cancelled', async () => {
    await setUpAway('cancelled');
    const { id } = await send(to('cancelled', 'cancelled'));
    const cancelled = (await act('deliveryCancel', id).expect(200)).body as RunInfo;
    expect(cancelled.deliveries.at(-1)).toMatchObject({ state: 'cancelled', nextAttemptAt: null });
    await setUp('cancelled', setOf(peer));
    await skipPause();
    // Whatever was in the queue before this is over now.
    expect((await ended((await send(to('office', 'after'))).id)).state).toBe('done');
    expect(await now(id)).toMatchObject({ state: 'cancelled', receipts: [] });
    expect(peer.content('cancelled')).toBeUndefined();
  });

  it('sends again only what did not arrive', async () => {
    const [first, second] = run.files;
    await setUpAway('conflict');
    const { id } = await send(to('conflict', 'conflict'));
    await until(
      () => now(id),
      ({ nextAttemptAt }) => nextAttemptAt !== null,
    );
    // Somebody takes a name before the destination is reached.
    await peer.place(`conflict/${first!.path}`, 'theirs');
    await setUp('conflict', setOf(peer));
    await skipPause();
    const failed = await ended(id);
    expect(failed.state).toBe('failed');
    expect(outcomesOf(failed)[0]).toMatchObject({ problem: { code: 'destination.conflict' } });
    expect(outcomesOf(failed)[1]).toMatchObject({ how: 'new' });
    expect(String(peer.content(`conflict/${first!.path}`))).toBe('theirs');
    rmSync(join(peer.root, 'conflict', first!.path));
    // Changed by somebody at the destination meanwhile: it is not sent again, nor stands in the way.
    writeFileSync(join(peer.root, 'conflict', second!.path), 'read and marked');
    await act('deliveryAgain', id).expect(200);
    const done = await ended(id);
    expect(done.state).toBe('done');
    expect(outcomesOf(done)[0]).toMatchObject({ how: 'new' });
    expect(readFileSync(join(peer.root, 'conflict', second!.path), 'utf8')).toBe('read and marked');
  });

  it('is sent except for files that a destination refuses', async () => {
    // No folder can take the place of a file.
    const [first] = run.files;
    const blocked = first!.path.split('/')[0]!;
    await peer.place(`refused/${blocked}`, 'a file');
    const delivery = await ended((await send(to('office', 'refused'))).id);
    expect(delivery).toMatchObject({ state: 'failed', problem: null });
    const outcomes = outcomesOf(delivery);
    expect(outcomes).toHaveLength(run.files.length);
    for (const [at, { path: file }] of run.files.entries())
      expect(outcomes[at]).toMatchObject(
        file.startsWith(`${blocked}/`) ? { problem: { code: 'destination.copy' } } : { how: 'new' },
      );
    expect(outcomes.some((outcome) => 'how' in outcome)).toBe(true);
  });

  it('is not begun to be sent where names are taken and nothing is to be done about that', async () => {
    await peer.place(`taken/${run.files[1]!.path}`, 'theirs');
    const { status, body } = await request(server.app)
      .post(path(ROUTES.deliveries, { run: run.id }))
      .send({ destination: to('office', 'taken') });
    expect([status, body.problem.code]).toEqual([409, 'destination.conflict']);
    expect(body.problem.sentence).toContain(`${run.files[1]!.path} is at the destination already`);
    const { id } = await send(to('office', 'taken', 'both'));
    expect(outcomesOf(await ended(id))[1]).toMatchObject({ how: 'numbered' });
    expect(String(peer.content(`taken/${run.files[1]!.path}`))).toBe('theirs');
  });

  it('is not sent where nobody is let in, and does not ask again with each file', async () => {
    await setUp('strange', { ...setOf(peer), fingerprint: 'SHA256:another' });
    const delivery = await ended((await send(to('strange', 'strange', 'both'))).id);
    expect(delivery).toMatchObject({ state: 'failed', problem: { code: 'destination.refused' }, receipts: [] });
    expect(delivery.problem!.sentence).toContain('another host key than the accepted one');
    const { status, body } = await act('deliveryCancel', delivery.id);
    expect([status, body.problem.code]).toEqual([409, 'delivery.over']);
  });

  it('is reached with its own deliveries only', async () => {
    const other = await request(server.app).post(path(ROUTES.runAgain, { run: run.id }));
    const { id } = other.body as RunInfo;
    const [delivery] = (await told()).deliveries;
    await act('deliveryAgain', delivery!.id, id).expect(404);
    await act('deliveryCancel', 'none').expect(404);
    await until(
      () => told(id),
      ({ state }) => state === 'done',
    );
  });

  it('is refused where its folder is a rule that cannot be read, and where it is removed', async () => {
    const refused = (destination: Destination) =>
      request(server.app)
        .post(path(ROUTES.deliveries, { run: run.id }))
        .send({ destination });
    expect((await refused(to('office', '[project.'))).body.problem.code).toBe('naming.rule');
    const nowhere = await request(server.app)
      .post(path(ROUTES.deliveries, { run: run.id }))
      .send({});
    expect([nowhere.status, nowhere.body.problem.code]).toEqual([400, 'request.value']);
    const removed = { run: run.id };
    await request(server.app).put(path(ROUTES.runRemoved, removed)).send({ removed: true }).expect(200);
    const { status, body } = await refused(to('office', 'x'));
    expect([status, body.problem.code]).toEqual([409, 'delivery.run']);
  });
});

it('a package that is delivered has its delivery once the run is done', async () => {
  const at = { project: server.project, package: 'tender' };
  await request(server.app)
    .patch(path(ROUTES.package, at))
    .send({ destinations: [to('office', 'from-package')] })
    .expect(200);
  const { body } = await request(server.app).post(path(ROUTES.runs, at)).send({}).expect(201);
  const done = await delivered(server.app, (body as RunInfo).id);
  expect(done.deliveries).toMatchObject([{ state: 'done', destination: { folder: 'from-package' } }]);
});
