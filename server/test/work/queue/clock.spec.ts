import { jest } from '@jest/globals';
import request from 'supertest';
import { path, ROUTES, type RunInfo } from '@folvex/contract';
import { databaseTime } from '../../../src/data/clock';
import { sweep } from '../../../src/work/maintain/sweep';
import { until, useServer } from '../../support/harness';

const server = useServer();
const HOUR_MS = 3600_000;

/** Sets what the time is; timers go on. */
function setClock(now: number): void {
  jest.useFakeTimers({
    now,
    doNotFake: [
      ...(['performance', 'hrtime', 'nextTick', 'queueMicrotask', 'setImmediate', 'clearImmediate'] as const),
      ...(['setInterval', 'clearInterval', 'setTimeout', 'clearTimeout'] as const),
    ],
  });
}

describe('a machine whose clock is wrong', () => {
  afterEach(() => void jest.useRealTimers());

  it.each([
    ['stands still', 0],
    ['is two days late', -48 * HOUR_MS],
    ['is two days early', 48 * HOUR_MS],
  ])('publishes a whole run while it %s, with the times of the database', async (_, wrong) => {
    const { app, project, services } = server;
    // Otherwise the run before has made everything already.
    const change = { title: `Made while ${wrong}` };
    await request(app)
      .patch(path(ROUTES.sheet, { project, sheet: 'a101' }))
      .send(change)
      .expect(200);
    const before = await databaseTime(services.db);
    setClock(Date.now() + wrong);
    server.work();
    const started = await request(app)
      .post(path(ROUTES.runs, { project, package: 'tender' }))
      .send({})
      .expect(201);
    const run = await until(
      async () => (await request(app).get(path(ROUTES.run, { run: (started.body as RunInfo).id }))).body as RunInfo,
      ({ state, files }) => state === 'failed' || (state === 'done' && files.every(({ proof }) => proof !== null)),
    );
    expect(run).toMatchObject({ state: 'done', problem: null });
    const after = await databaseTime(services.db);
    const times = [
      ...[run.createdAt, ...run.sheets.map(({ startedAt }) => startedAt)],
      ...[...run.files.map(({ startedAt }) => startedAt), run.finishedAt],
    ].flatMap((time) => (time === null ? [] : [Date.parse(time)]));
    expect(run.sheets.find(({ sheetId }) => sheetId === 'a101')!.startedAt).not.toBeNull();
    for (const time of times) {
      expect(time).toBeGreaterThanOrEqual(before - 1);
      expect(time).toBeLessThanOrEqual(after + 1);
    }
    expect(times.at(-1)).toBeGreaterThanOrEqual(Math.max(...times.slice(0, -1)) - 1);
  });

  it('does not sweep', async () => {
    const { connection, store } = server.services;
    const fresh = await store.put(Buffer.from('fresh'));
    const keep = { removedDays: 30, runDays: undefined, artifactDays: 30 };
    setClock(Date.now() + 48 * HOUR_MS);
    await expect(sweep(connection, store, keep)).rejects.toThrow('48 h apart');
    jest.useRealTimers();
    expect(await sweep(connection, store, keep)).toBeDefined();
    expect(await store.has(fresh)).toBe(true);
  });
});
