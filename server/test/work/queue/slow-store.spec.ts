import request from 'supertest';
import { path, ROUTES, type RunInfo } from '@folvex/contract';
import { databaseTime } from '../../../src/data/clock';
import { until, useServer } from '../../support/harness';

const LEASE_SECONDS = 3;

/** Hashes given to the store since it became slow; undefined before. */
let given: string[] | undefined;
let open = (): void => undefined;
const gate = new Promise<void>((resolve) => (open = resolve));

const server = useServer({
  leaseSeconds: LEASE_SECONDS,
  storeSeen: (store) => ({
    ...store,
    adopt: async (file, hash) => {
      given?.push(hash);
      if (given) await gate;
      return store.adopt(file, hash);
    },
  }),
});

it('a run waits for a store that takes longer than a lease, and makes nothing twice', async () => {
  const { app, project, services } = server;
  const contents = (given = []) as string[];
  server.work();
  server.work();
  const started = await request(app)
    .post(path(ROUTES.runs, { project, package: 'tender' }))
    .send({})
    .expect(201);
  const now = async (): Promise<RunInfo> =>
    (await request(app).get(path(ROUTES.run, { run: (started.body as RunInfo).id }))).body as RunInfo;
  await until(
    async () => contents.length,
    (count) => count > 0,
  );
  const since = await databaseTime(services.db);
  await until(
    () => databaseTime(services.db),
    (time) => time - since > 2 * LEASE_SECONDS * 1000,
  );
  expect((await now()).sheets.filter(({ state }) => state !== 'waiting')).toEqual([]);
  open();
  const done = await until(now, ({ state }) => state === 'done' || state === 'failed');
  expect(done).toMatchObject({ state: 'done', problem: null });
  expect(contents.length).toBeGreaterThan(done.sheets.length);
  expect(new Set(contents).size).toBe(contents.length);
});
