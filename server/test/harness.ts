import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Express } from 'express';
import { pino } from 'pino';
import { createPress } from '@folvex/press';
import { ownFolder } from '../../scripts/lib/own-folder.mjs';
import { startPostgres } from '../../scripts/lib/postgres.mjs';
import { connect, migrateDatabase } from '../src/data/database';
import { importJob } from '../src/data/import-job';
import { createFolderStore } from '../src/files/store';
import { createApp } from '../src/http/app';
import type { Services } from '../src/http/services';
import { openQueue } from '../src/work/queue';
import { startWorker } from '../src/work/worker';

const file = (path: string): string => fileURLToPath(new URL(path, import.meta.url));

export const DEMO = file('../../demo/tern-quay.job.json');
export const TODAY = '2026-11-25';

export interface Harness {
  app: Express;
  services: Services;
  /** Id of the demo project. */
  project: string;
  data: string;
  /** Starts a worker in this process; it ends with the harness. */
  work(): void;
}

/**
 * A server with a real database, store and worker threads of its own, and the demo in it; gone after the suite.
 * `prepare` may put a disk of its own where the store will lie; it returns how to take it away.
 */
export function useServer(prepare?: (store: string) => () => void): Harness {
  const harness = {} as Harness;
  const ending: (() => Promise<unknown> | unknown)[] = [];
  beforeAll(async () => {
    const data = ownFolder('folvex-server-');
    ending.push(() => rmSync(data, { recursive: true, force: true }));
    const postgres = await startPostgres(join(data, 'postgres'));
    ending.push(() => postgres.stop());
    const connection = connect(postgres.url);
    ending.push(() => connection.close());
    await migrateDatabase(connection, file('../drizzle'));
    const unprepare = prepare?.(join(data, 'store'));
    if (unprepare) ending.push(unprepare);
    const store = createFolderStore(join(data, 'store'));
    const press = createPress(file('../../dist/press-thread.mjs'), 2);
    ending.push(() => press.close());
    const queue = await openQueue(postgres.url, connection.pool);
    ending.push(() => queue.close());
    const log = pino({ level: 'silent' });
    const deliveryFolder = join(data, 'delivered');
    const services: Services = {
      connection,
      db: connection.db,
      store,
      press,
      queue,
      deliveryFolder,
      log,
      today: () => TODAY,
    };
    const project = await importJob(connection.db, store, press, DEMO);
    const work = (): void => {
      const worker = startWorker({ db: connection.db, store, press, queue, deliveryFolder }, 2, log);
      ending.push(() => worker.stop());
    };
    Object.assign(harness, { app: createApp(services), services, project, data, work });
  }, 60_000);
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
