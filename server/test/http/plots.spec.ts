import request from 'supertest';
import {
  isDeliveryOver,
  path,
  ROUTES,
  type AtDestination,
  type DeliveryInfo,
  type PackageChange,
  type RunInfo,
} from '@folvex/contract';
import type { Plot } from '@folvex/core';
import { startPlotter, type StandInPlotter } from '../../../stand-ins/src/index';
import { breakingProxy } from '../../../press/test/support/peers';
import { delivered, outcomesOf } from '../support/delivered';
import { until, useServer } from '../support/harness';

const server = useServer();
let plotter: StandInPlotter;
let run: RunInfo;

const PLOT: Plot = { kind: 'plotter', server: 'roll', costPerM2: 2 };

/** How often printing is broken off. */
const MOMENTS = Number(process.env['FOLVEX_BREAKS'] ?? 10);
/** A hundred take longer than other tests may. */
const MOMENT_MS = 20_000;
const setUp = (address: string) =>
  request(server.app)
    .put(path(ROUTES.transferServer, { project: server.project, server: 'roll' }))
    .send({ name: 'Roll plotter', address, user: '', fingerprint: null })
    .expect(200);

beforeAll(async () => {
  plotter = await startPlotter({
    media: [
      { kind: 'roll', width: 610, leftMm: 100_000 },
      { kind: 'sheet', name: 'A3', width: 297, height: 420, leftMm: 1e6 },
    ],
  });
  server.work();
  await setUp(plotter.address);
  const change = { destinations: [PLOT] } satisfies PackageChange;
  await request(server.app)
    .patch(path(ROUTES.package, { project: server.project, package: 'permit' }))
    .send(change)
    .expect(200);
  const { body } = await request(server.app)
    .post(path(ROUTES.runs, { project: server.project, package: 'permit' }))
    .send({})
    .expect(201);
  run = await delivered(server.app, (body as RunInfo).id);
});
afterAll(() => plotter.stop());

const latest = async (): Promise<DeliveryInfo> =>
  ((await request(server.app).get(path(ROUTES.run, { run: run.id }))).body as RunInfo).deliveries.at(-1)!;
const send = (destination: Partial<Plot> = {}) =>
  request(server.app)
    .post(path(ROUTES.deliveries, { run: run.id }))
    .send({ destination: { ...PLOT, ...destination } })
    .expect(201);
const act = (what: 'deliveryAgain' | 'deliveryCancel', { id }: DeliveryInfo) =>
  request(server.app)
    .post(path(ROUTES[what], { run: run.id, delivery: id }))
    .expect(200);
/** Has the worker look at the plotter now, and waits for what comes of it. */
async function lookedAt(isWanted: (delivery: DeliveryInfo) => boolean): Promise<DeliveryInfo> {
  return until(async () => {
    await server.services.connection.pool.query(`update pgboss.job set start_after = now() where state < 'active'`);
    return latest();
  }, isWanted);
}

/** How many jobs the package is printed in: pages of one size that follow each other are one. */
let firstJobs: number;

describe('a package that is printed', () => {
  it('comes out on the paper that the plotter holds, a piece for each page', () => {
    const [delivery] = run.deliveries;
    expect(delivery).toMatchObject({ state: 'done', location: 'Roll plotter', problem: null });
    expect(outcomesOf(delivery!)).toEqual(run.files.map((file) => ({ path: file.path, how: 'printed' })));
    const { jobs } = plotter.queue;
    firstJobs = jobs.length;
    const pages = run.files.reduce((sum, file) => sum + file.pages, 0);
    expect(jobs.reduce((sum, { printed }) => sum + printed, 0)).toBe(pages);
    expect(jobs.every(({ pdf, pieces }) => pdf.subarray(0, 4).toString() === '%PDF' && pieces > 0)).toBe(true);
    const area = jobs.reduce((sum, { width, length, pieces }) => sum + width * length * pieces, 0) / 1e6;
    expect(delivery!.plot).toEqual({
      ...{ pieces: pages, printed: pages, waitsFor: null },
      rollM: expect.any(Number) as number,
      areaM2: expect.closeTo(area, 3) as number,
      cost: expect.closeTo(2 * area, 3) as number,
    });
    // The permit set has sheets of A1, A2 and A3.
    expect(new Set(jobs.map(({ width }) => width))).toEqual(new Set([610, 297]));
  });

  it('is shown as it will come out before it is sent, on what the plotter holds', async () => {
    const look = async (destination: Partial<Plot>): Promise<AtDestination> =>
      (
        await request(server.app)
          .post(path(ROUTES.runDestination, { run: run.id }))
          .send({ destination: { ...PLOT, ...destination } })
          .expect(200)
      ).body as AtDestination;
    const { plotter: told, draft } = await look({ media: '' });
    expect(told).toEqual({
      media: [
        { kind: 'roll', width: 610 },
        { kind: 'sheet', name: 'A3', width: 297, height: 420 },
      ],
      marginMm: 5,
    });
    const { rollM, areaM2 } = run.deliveries[0]!.plot!;
    expect(draft!.pieces).toHaveLength(run.files.reduce((sum, file) => sum + file.pages, 0));
    expect([draft!.rollM, draft!.areaM2]).toEqual([expect.closeTo(rollM, 6), expect.closeTo(areaM2, 6)]);
    const nested = await look({ media: '610', nesting: 'side by side' });
    expect(nested.draft!.areaM2).toBeLessThan(0.61 * draft!.rollM + 1);
    expect(nested.draft!.pieces.length).toBeLessThan(draft!.pieces.length);
    expect(draft!.pieces[0]!.pages[0]!.number).not.toBe('1');
    await setUp('ipp://127.0.0.1:1/away');
    const away = await look({ media: '' });
    await setUp(plotter.address);
    expect([away.where, away.plotter, away.draft]).toEqual(['Roll plotter', undefined, undefined]);
  });

  it('is added up by project and plotter', async () => {
    const { body } = await request(server.app).get(path(ROUTES.transferServers, { project: server.project }));
    const { rollM, areaM2, cost } = run.deliveries[0]!.plot!;
    expect(body).toMatchObject([{ id: 'roll', printed: { rollM, areaM2, cost } }]);
  });

  it('takes less of a roll side by side, in greys where that is asked for', async () => {
    const before = plotter.queue.jobs.length;
    await send({ media: '610', nesting: 'side by side', colours: 'greys', copies: 2 });
    const nested = await lookedAt(isDeliveryOver);
    expect(nested.state).toBe('done');
    const jobs = plotter.queue.jobs.slice(before);
    expect(jobs.every(({ isGrey }) => isGrey)).toBe(true);
    await send({ media: '610', copies: 2 });
    const apart = await lookedAt((one) => one.id !== nested.id && isDeliveryOver(one));
    expect(nested.plot!.rollM).toBeLessThan(apart.plot!.rollM);
    expect(nested.plot!.pieces).toBeLessThan(apart.plot!.pieces);
  });

  it('waits for paper that runs out, and goes on where it stopped', async () => {
    plotter.queue.load({ kind: 'roll', width: 610, leftMm: 1000 });
    await send({ media: '610' });
    const waiting = await lookedAt(({ plot }) => plot?.waitsFor === 'out of paper');
    expect(waiting.plot!.printed).toBeLessThan(waiting.plot!.pieces);
    expect(waiting.receipts).toEqual([]);
    plotter.queue.load({ kind: 'roll', width: 610, leftMm: 100_000 });
    const done = await lookedAt(isDeliveryOver);
    expect(done).toMatchObject({ state: 'done', plot: { waitsFor: null, printed: waiting.plot!.pieces } });
  });

  it('is cancelled at the plotter too', async () => {
    plotter.queue.isPaused = true;
    const before = plotter.queue.jobs.length;
    await send();
    const waiting = await lookedAt(({ plot }) => plot?.waitsFor === 'paused');
    await act('deliveryCancel', waiting);
    await until(
      async () => {
        await server.services.connection.pool.query(`update pgboss.job set start_after = now() where state < 'active'`);
        return plotter.queue.jobs.slice(before).map(({ state }) => state);
      },
      (states) => states.length > 0 && states.every((state) => state === 'canceled'),
    );
    plotter.queue.isPaused = false;
    plotter.queue.run(0);
  });

  it('is cancelled at the plotter where that comes between a look and the wait for the next one', async () => {
    plotter.queue.isPaused = true;
    const before = plotter.queue.jobs.length;
    const { pool } = server.services.connection;
    await pool.query(`
      create function cancel_it() returns trigger language plpgsql as 'begin new.state := ''cancelled''; return new; end';
      create trigger cancel_it before update on deliveries for each row
        when (new.plot is distinct from old.plot) execute function cancel_it();`);
    await send();
    await lookedAt(({ state }) => state === 'cancelled');
    await until(
      () => Promise.resolve(plotter.queue.jobs.slice(before).map(({ state }) => state)),
      (states) => states.length === firstJobs && states.every((state) => state === 'canceled'),
    );
    await pool.query('drop function cancel_it cascade');
    plotter.queue.isPaused = false;
  });

  it('says what was cancelled at the plotter, and prints that again', async () => {
    plotter.queue.isPaused = true;
    const before = plotter.queue.jobs.length;
    await send();
    const waiting = await lookedAt(({ plot }) => plot?.waitsFor === 'paused');
    for (const { id } of plotter.queue.jobs.slice(before)) plotter.queue.cancel(id);
    plotter.queue.isPaused = false;
    const failed = await lookedAt((one) => one.id === waiting.id && isDeliveryOver(one));
    expect(failed.state).toBe('failed');
    expect(outcomesOf(failed)[0]).toMatchObject({
      problem: { code: 'plot.ended', sentence: expect.stringContaining('was cancelled at Roll plotter') as string },
    });
    await act('deliveryAgain', failed);
    const done = await lookedAt((one) => one.id === waiting.id && one.state === 'done');
    expect(done.plot!.printed).toBe(done.plot!.pieces);
  });

  it('is not printed twice where the connection breaks off after a job was taken', async () => {
    const before = plotter.queue.jobs.length;
    const { add } = plotter.queue;
    let broken = false;
    plotter.queue.add = (job) => {
      if (!broken) plotter.faults.breaks = 1;
      broken = true;
      return add.call(plotter.queue, job);
    };
    await send();
    const done = await lookedAt((one) => isDeliveryOver(one));
    plotter.queue.add = add;
    expect(done.state).toBe('done');
    const names = plotter.queue.jobs.slice(before).map(({ name }) => name);
    expect(new Set(names).size).toBe(names.length);
    expect(plotter.queue.jobs.slice(before).reduce((sum, { printed }) => sum + printed, 0)).toBe(done.plot!.pieces);
  });

  it('is printed once where it is cancelled and sent again at once, with what had come out by then', async () => {
    plotter.queue.isPaused = true;
    const before = plotter.queue.jobs.length;
    await send();
    const waiting = await lookedAt(({ plot }) => plot?.waitsFor === 'paused');
    await act('deliveryCancel', waiting);
    await act('deliveryAgain', waiting);
    await lookedAt((one) => one.state === 'waiting' && plotter.queue.jobs.length > before + firstJobs);
    plotter.queue.isPaused = false;
    plotter.queue.run(0);
    const done = await lookedAt((one) => one.id === waiting.id && one.state === 'done');
    const states = plotter.queue.jobs.slice(before).map(({ state }) => state);
    expect(states.filter((state) => state === 'completed')).toHaveLength(firstJobs);
    expect(states.filter((state) => state === 'canceled')).toHaveLength(firstJobs);
    expect(done.plot!.printed).toBe(done.plot!.pieces);
  });

  it('is not printed again where all had come out while the plotter could not be asked', async () => {
    plotter.queue.isPaused = true;
    const before = plotter.queue.jobs.length;
    await send();
    const waiting = await lookedAt(({ plot }) => plot?.waitsFor === 'paused');
    plotter.queue.isPaused = false;
    plotter.queue.run(0);
    // Given up on, as after an hour without an answer.
    await server.services.connection.pool.query(
      `update deliveries set state = 'failed', finished_at = now() where id = $1`,
      [waiting.id],
    );
    await act('deliveryAgain', waiting);
    const done = await lookedAt((one) => one.id === waiting.id && isDeliveryOver(one));
    expect(done.state).toBe('done');
    expect(outcomesOf(done)).toEqual(run.files.map((file) => ({ path: file.path, how: 'printed' })));
    expect(plotter.queue.jobs).toHaveLength(before + firstJobs);
  });

  it(
    'comes out once, all of it, wherever the connection breaks off',
    async () => {
      const { address } = plotter;
      // About what goes through while the package is printed.
      const bytesOfPlot = plotter.queue.jobs.slice(-firstJobs).reduce((sum, { pdf }) => sum + pdf.length, 0) + 12_000;
      const problems = new Set<string>();
      for (let i = 0; i < MOMENTS; i++) {
        plotter.queue.load({ kind: 'roll', width: 610, leftMm: 100_000 });
        const url = new URL(address);
        const proxy = await breakingProxy(Number(url.port), 1 + ((i * 7919 * 7) % bytesOfPlot));
        await setUp(address.replace(`:${url.port}`, `:${proxy.port}`));
        const before = plotter.queue.jobs.length;
        await send();
        const broken = await lookedAt((one) => one.problem !== null || isDeliveryOver(one));
        problems.add(broken.problem?.code ?? 'none');
        await setUp(address);
        const done = await lookedAt(isDeliveryOver);
        proxy.close();
        expect(done).toMatchObject({ state: 'done', problem: null });
        const printed = plotter.queue.jobs.slice(before);
        expect(new Set(printed.map(({ name }) => name)).size).toBe(printed.length);
        expect(printed.reduce((sum, job) => sum + job.printed, 0)).toBe(done.plot!.pieces);
        // The receipt is true: it says printed of what came out, and of nothing else.
        expect(outcomesOf(done)).toEqual(run.files.map((file) => ({ path: file.path, how: 'printed' })));
      }
      expect([...problems]).toContain('destination.away');
    },
    MOMENTS * MOMENT_MS,
  );

  it('is not printed where a page fits no paper', async () => {
    const before = plotter.queue.jobs.length;
    await send({ media: 'A3' });
    const failed = await lookedAt(isDeliveryOver);
    expect(failed).toMatchObject({ state: 'failed', problem: { code: 'plot.paper' } });
    expect(failed.problem!.sentence).toMatch(/page \d+ \(A[12]\) fits no paper of Roll plotter, which holds A3;/);
    expect(plotter.queue.jobs).toHaveLength(before);
  });
});
