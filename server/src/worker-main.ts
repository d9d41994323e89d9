import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { pino } from 'pino';
import { createPress } from '@folvex/press';
import { connect } from './data/database';
import { createFolderStore } from './files/store';
import { settingsFrom } from './settings';
import { openQueue } from './work/queue';
import { startWorker } from './work/worker';

/** Nothing takes that long to write, ms: what is older was left by a process that was killed. */
const DAY = 86_400_000;

/** A worker process: takes publishing jobs from the queue until told to stop. */
async function main(): Promise<void> {
  const settings = settingsFrom(process.env, fileURLToPath(new URL('./press-thread.mjs', import.meta.url)));
  const log = pino({ level: process.env['FOLVEX_LOG'] ?? 'warn' });
  const connection = connect(settings.databaseUrl);
  const store = createFolderStore(join(settings.dataFolder, 'store'));
  store.sweep(Date.now() - DAY);
  const press = createPress(settings.threadFile, settings.threads);
  const queue = await openQueue(settings.databaseUrl, connection.pool);
  const { deliveryFolder } = settings;
  const worker = startWorker({ db: connection.db, store, press, queue, deliveryFolder }, settings.threads, log);
  process.send?.('working');
  const stop = (): void => {
    worker
      .stop()
      .then(() => Promise.allSettled([queue.close(), press.close()]))
      .then(() => connection.close())
      .finally(() => process.exit(0));
  };
  process.on('SIGTERM', stop);
  process.on('SIGINT', stop);
  // Whoever started this process is gone: so is the reason to run.
  process.on('disconnect', stop);
}

main().catch((error: unknown) => {
  console.error(`The worker could not start: ${error instanceof Error ? error.message : String(error)}`);
  process.exit(1);
});
