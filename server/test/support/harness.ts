import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Express } from 'express';
import { pino } from 'pino';
import request from 'supertest';
import { path, ROUTES, type ComposedSheets, type SheetFacts } from '@folvex/contract';
import type { Problem } from '@folvex/core';
import { createPress } from '@folvex/press';
import { ownFolder } from '../../../scripts/lib/own-folder.mjs';
import { startPostgres } from '../../../scripts/lib/postgres.mjs';
import { connect, migrateDatabase, type Connection } from '../../src/data/database';
import { importJobFile } from '../../src/work/projects/import-job-file';
import { listenForNotifications } from '../../src/data/notifications';
import { upgradeStored } from '../../src/data/upgrade-stored';
import { createFolderStore } from '../../src/files/folder-store';
import type { Store } from '../../src/files/store';
import { createApp } from '../../src/http/app';
import type { Services } from '../../src/work/services';
import { sealerWith } from '../../src/work/access/secrets';
import { startHeartbeat } from '../../src/work/queue/heartbeat';
import { openQueue } from '../../src/work/queue/queue';
import { startWorker } from '../../src/work/queue/worker';
import { described, takeWrongAnswers } from './described';

const file = (path: string): string => fileURLToPath(new URL(path, import.meta.url));

export const MIGRATIONS = file('../../drizzle');
export const DEMO = file('../../../demo/tern-quay.job.json');

export const SEALER = sealerWith('a key of the tests');
export const TODAY = '2026-11-25';

export interface Harness {
  app: Express;
  services: Services;
  /** Id of the demo project. */
  project: string;
  data: string;
  databaseUrl: string;
  /** Starts a worker in this process; it ends with the harness. */
  work(): void;
}

/** The file with a content in the store of a harness. */
export function contentPath({ data }: Pick<Harness, 'data'>, hash: string): string {
  return join(data, 'store', hash.slice(0, 2), hash.slice(2, 4), hash);
}

/** How a sheet of the project comes out. */
export async function composedSheet(
  { app, project }: Harness,
  id: string,
): Promise<{ facts?: SheetFacts; problem?: Problem }> {
  const answer = await request(app)
    .post(path(ROUTES.composedSheets, { project }))
    .send({ ids: [id] });
  const { facts, problems } = answer.body as ComposedSheets;
  return { ...(facts[id] && { facts: facts[id] }), ...(problems[id] && { problem: problems[id] }) };
}

export interface ServerOptions {
  /** Puts a disk of its own where the store will lie; returns how to take it away. */
  prepare?: (store: string) => () => void;
  /** The store as the server and its workers see it. */
  storeSeen?: (store: Store) => Store;
  leaseSeconds?: number;
  /** The address that workers take for that of the office. */
  officeUrl?: string;
  /** Fills the database and the store instead of importing the demo; returns the id of the project to work with. */
  load?: (connection: Connection, store: Store) => Promise<string>;
}

/** A server with a real database, store and worker threads of its own, and the demo in it; gone after the suite. */
export function useServer({ prepare, load, storeSeen, leaseSeconds = 60, officeUrl }: ServerOptions = {}): Harness {
  const harness = {} as Harness;
  const ending: (() => Promise<unknown> | unknown)[] = [];
  beforeAll(async () => {
    const data = ownFolder('folvex-server-');
    ending.push(() => rmSync(data, { recursive: true, force: true }));
    const postgres = await startPostgres(join(data, 'postgres'));
    ending.push(() => postgres.remove());
    const connection = connect(postgres.url);
    ending.push(() => connection.close());
    const unprepare = prepare?.(join(data, 'store'));
    if (unprepare) ending.push(unprepare);
    const folder = createFolderStore(join(data, 'store'));
    const store = storeSeen?.(folder) ?? folder;
    const loaded = await load?.(connection, store);
    await migrateDatabase(connection, MIGRATIONS);
    await upgradeStored(connection.pool);
    const press = createPress(file('../../../dist/press-thread.mjs'), 2);
    ending.push(() => press.close());
    const queue = await openQueue(postgres.url, connection);
    ending.push(() => queue.close());
    const notifications = listenForNotifications(postgres.url);
    ending.push(() => notifications.close());
    const log = pino({ level: 'silent' });
    const deliveryFolder = join(data, 'delivered');
    const services: Services = {
      connection,
      db: connection.db,
      store,
      press,
      queue,
      notifications,
      deliveryFolder,
      sealer: SEALER,
      schedules: { zone: 'UTC', quietMinutes: 10 },
      log,
      today: () => TODAY,
    };
    const project = loaded ?? (await importJobFile(connection.db, store, press, DEMO));
    const work = (): void => {
      const heartbeat = startHeartbeat(file('../../../dist/heartbeat.mjs'), postgres.url);
      ending.push(() => heartbeat.stop());
      const held = queue.forWorker(heartbeat.workerId, leaseSeconds);
      const worker = startWorker(
        { db: connection.db, store, press, queue, held, notifications, deliveryFolder, sealer: SEALER, officeUrl },
        2,
        log,
      );
      ending.push(() => worker.stop());
    };
    const app = described(createApp(services));
    Object.assign(harness, { app, services, project, data, databaseUrl: postgres.url, work });
  }, 60_000);
  afterEach(() => expect(takeWrongAnswers()).toEqual([]));
  afterAll(async () => {
    for (const end of ending.reverse()) await end();
  }, 30_000);
  return harness;
}

/** Asks again until the answer satisfies; the suite's own time limit ends a wait without hope. */
export async function until<T>(ask: () => Promise<T>, satisfies: (answer: T) => boolean): Promise<T> {
  for (;;) {
    const answer = await ask();
    if (satisfies(answer)) return answer;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}
