import { execFile } from 'node:child_process';
import { readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import request from 'supertest';
import { path, ROUTES, type ProjectInfo, type RunInfo } from '@folvex/contract';
import { createPress } from '@folvex/press';
import { ownFolder } from '../../../scripts/lib/own-folder.mjs';
import { startPostgres } from '../../../scripts/lib/postgres.mjs';
import { connect, migrateDatabase } from '../../src/data/database';
import { listenForNotifications } from '../../src/data/notifications';
import { artifacts } from '../../src/data/schema';
import { createFolderStore } from '../../src/files/folder-store';
import { createApp } from '../../src/http/app';
import { backup } from '../../src/work/maintain/backup';
import { restore } from '../../src/work/maintain/restore';
import { startHeartbeat } from '../../src/work/queue/heartbeat';
import { openQueue } from '../../src/work/queue/queue';
import { startWorker } from '../../src/work/queue/worker';
import { MIGRATIONS, SEALER, TODAY, until, useServer } from '../support/harness';

const server = useServer();
const folder = ownFolder('folvex-backup-');
const DIST = join(process.cwd(), 'dist');
const ending: (() => unknown)[] = [() => rmSync(folder, { recursive: true, force: true })];
afterAll(async () => {
  for (const end of ending.reverse()) await end();
});

/** An empty database and an empty store. */
async function emptyPlace() {
  const data = ownFolder('folvex-restored-');
  ending.push(() => rmSync(data, { recursive: true, force: true }));
  const postgres = await startPostgres(join(data, 'postgres'));
  ending.push(() => postgres.remove());
  const connection = connect(postgres.url);
  ending.push(() => connection.close());
  return { data, url: postgres.url, connection, store: createFolderStore(join(data, 'store')) };
}

const settled = (app: Parameters<typeof request>[0], run: string): Promise<RunInfo> =>
  until(
    async () => (await request(app).get(path(ROUTES.run, { run }))).body as RunInfo,
    ({ state }) => !['waiting', 'running'].includes(state),
  );

const hashesOf = ({ files }: RunInfo): string[] => files.map(({ path, sha256 }) => `${path} ${sha256}`);

async function publish(): Promise<RunInfo> {
  const started = await request(server.app)
    .post(path(ROUTES.runs, { project: server.project, package: 'tender' }))
    .send({});
  return settled(server.app, (started.body as RunInfo).id);
}

describe('a backup', () => {
  let published: RunInfo;
  beforeAll(async () => {
    server.work();
    published = await publish();
  });

  const take = (at: string) =>
    backup(server.services.connection, server.databaseUrl, server.services.store, folder, new Date(at));

  it('taken while it runs is restored into an empty place, where the demo is published to the same bytes', async () => {
    const [first, running] = await Promise.all([take('2026-11-30T10:00:00Z'), publish()]);
    expect(first).toMatchObject({ list: '2026-11-30T10-00-00-000Z.json', damaged: [] });
    expect([first.added, first.added > 20]).toEqual([first.contents, true]);
    const place = await emptyPlace();
    const { connection, store, data, url } = place;
    const restored = await restore(connection, url, store, folder);
    expect(restored).toEqual({ at: '2026-11-30T10:00:00.000Z', contents: first.contents });
    await migrateDatabase(connection, MIGRATIONS);
    // Nothing of what was made before helps.
    await connection.db.delete(artifacts);
    const press = createPress(join(DIST, 'press-thread.mjs'), 2);
    ending.push(() => press.close());
    const queue = await openQueue(url, connection);
    ending.push(() => queue.close());
    const notifications = listenForNotifications(url);
    ending.push(() => notifications.close());
    const { log } = server.services;
    const deliveryFolder = join(data, 'delivered');
    const base = { db: connection.db, store, press, queue, notifications, sealer: SEALER, deliveryFolder };
    const app = createApp({
      ...base,
      connection,
      log,
      schedules: { zone: 'UTC', quietMinutes: 10 },
      today: () => TODAY,
    });
    const infoFrom = async (one: typeof app) =>
      (await request(one).get(path(ROUTES.project, { project: server.project }))).body as ProjectInfo;
    const info = await infoFrom(app);
    expect(info.sheets).toEqual((await infoFrom(server.app)).sheets);
    const heartbeat = startHeartbeat(join(DIST, 'heartbeat.mjs'), url);
    ending.push(() => heartbeat.stop());
    const worker = startWorker({ ...base, held: queue.forWorker(heartbeat.workerId, 60) }, 2, log);
    ending.push(() => worker.stop());
    // A run that had begun when the backup was taken goes on here.
    if (info.runs.some(({ id }) => id === running.id)) expect((await settled(app, running.id)).state).toBe('done');
    const again = await request(app).post(path(ROUTES.runAgain, { run: published.id }));
    const repeated = await settled(app, (again.body as RunInfo).id);
    expect(hashesOf(repeated)).toEqual(hashesOf(published));
  }, 240_000);

  it('adds only what is new, and is closed to others', async () => {
    await take('2026-11-30T11:00:00Z');
    const second = await take('2026-11-30T12:00:00Z');
    expect(second).toMatchObject({ added: 0, addedBytes: 0 });
    const files = readdirSync(folder).filter((name) => name !== 'content');
    expect(files.filter((name) => name.endsWith('.dump'))).toHaveLength(3);
    for (const name of files) expect(statSync(join(folder, name)).mode & 0o077).toBe(0);
    expect(statSync(folder).mode & 0o077).toBe(0);
  });

  it('is made and restored by the command', async () => {
    const { DATABASE_URL: _, ...environment } = process.env;
    const folvex = (...args: string[]): Promise<{ code: number; out: string; err: string }> => {
      const env = { ...environment, DATABASE_URL: server.databaseUrl, FOLVEX_DATA: server.data };
      return new Promise((resolve) => {
        execFile(process.execPath, [join('cli', 'bin', 'folvex.mjs'), ...args], { env }, (error, out, err) =>
          resolve({ code: typeof error?.code === 'number' ? error.code : 0, out, err }),
        );
      });
    };
    const made = await folvex('backup', folder);
    expect([made.code, made.err]).toEqual([0, '']);
    expect(made.out).toMatch(/^2\d{3}-.*\.json: \d+ contents, \d+ of them new \(\d+\.\d MB\)\n$/);
    // Here is everything still.
    expect(await folvex('restore', folder)).toMatchObject({
      code: 1,
      err: 'The database is not empty; restore into a new one.\n',
    });
    expect(await folvex('scrub')).toMatchObject({ code: 0, out: expect.stringContaining(', 0 damaged') as string });
    expect(await folvex('sweep')).toMatchObject({
      code: 0,
      out: expect.stringContaining('Deleted: 0 projects') as string,
    });
  });

  it('that lacks something, or has it damaged, is not restored, and says so', async () => {
    const place = await emptyPlace();
    const nothing = ownFolder('folvex-nothing-');
    ending.push(() => rmSync(nothing, { recursive: true, force: true }));
    const { connection, url, store } = place;
    expect(await restore(connection, url, store, nothing)).toEqual({
      problem: `There is no whole backup in ${nothing}.`,
    });
    const kept = createFolderStore(join(folder, 'content'));
    const hash = published.files[0]!.sha256;
    const file = await kept.localFile(hash);
    const bytes = readFileSync(file);
    writeFileSync(file, bytes.subarray(1));
    expect(await restore(connection, url, store, folder)).toEqual({
      problem: expect.stringContaining(`${hash} in the backup is damaged`) as string,
    });
    rmSync(file);
    const lacking = await emptyPlace();
    expect(await restore(lacking.connection, lacking.url, lacking.store, folder)).toEqual({
      problem: `The backup lacks 1 of its contents, ${hash} first; nothing was restored.`,
    });
    writeFileSync(file, bytes);
  });
});
