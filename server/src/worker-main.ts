import { setTimeout as pause } from 'node:timers/promises';
import { fileURLToPath } from 'node:url';
import { createPress } from '@folvex/press';
import { configFrom } from './config';
import { connect, isDatabaseAway, waitForDatabase } from './data/database';
import { listenForNotifications } from './data/notifications';
import { openStore } from './files/open-store';
import { keyOf, sealerWith } from './work/access/secrets';
import { sweep } from './work/maintain/sweep';
import { startHeartbeat } from './work/queue/heartbeat';
import { pollInboxes } from './work/inboxes/poll-inboxes';
import { runDueSchedules } from './work/runs/run-schedules';
import { createLog } from './work/log';
import { openQueue } from './work/queue/queue';
import { startWorker } from './work/queue/worker';

/** Nothing takes that long to write, ms: what is older was left by a process that was killed. */
const DAY_MS = 86_400_000;
/** One worker of all that are due does it. */
const SWEEP_EVERY_MS = 6 * 3600_000;
/** Schedules are to the minute; a file in an inbox is complete once two polls have found it the same. */
const [SCHEDULES_EVERY_MS, INBOXES_EVERY_MS] = [20_000, 15_000];
const DATABASE_TIMEOUT_MS = 10_000;
/** How long connections to the database that are still in use are waited for when the worker ends. */
const CLOSE_MS = 2000;
/** One batch more than threads: the threads go on while what they made is written down. */
const EXTRA_SLOTS = 1;

const built = (name: string): string => fileURLToPath(new URL(`./${name}.mjs`, import.meta.url));

/** How long a job may still take to end once whoever started the worker is gone. */
const ORPHAN_GRACE_MS = 5000;

/** A worker process: takes publishing jobs from the queue until told to stop. */
async function main(): Promise<void> {
  const config = configFrom(process.env, built('press-thread'));
  const log = createLog(process.env['FOLVEX_LOG'] ?? 'warn');
  const connection = connect(config.databaseUrl);
  await waitForDatabase(connection, DATABASE_TIMEOUT_MS, () => {
    console.error('The worker waits for the database, which does not answer yet.');
  });
  const store = await openStore(config);
  await store.removeUnfinished(Date.now() - DAY_MS);
  const press = createPress(config.threadFile, config.threads, config.limits);
  const queue = await openQueue(config.databaseUrl, connection);
  const notifications = listenForNotifications(config.databaseUrl);
  const heartbeat = startHeartbeat(built('heartbeat'), config.databaseUrl);
  const held = queue.forWorker(heartbeat.workerId, config.leaseSeconds);
  const sealer = sealerWith(keyOf(config.secretsKey, config.dataFolder, 'secrets'));
  const { deliveryFolder, officeUrl, threads } = config;
  const deps = { db: connection.db, store, press, queue, held, notifications, deliveryFolder, sealer, officeUrl };
  const startDeps = { connection, store, queue, deliveryFolder, sealer, maxProjectBytes: config.maxProjectBytes };
  const worker = startWorker(deps, threads + EXTRA_SLOTS, log);
  const maintenance = setInterval(() => {
    sweep(connection, store, config.retention).catch((err: unknown) => log.error({ err }, 'the sweep failed'));
  }, SWEEP_EVERY_MS);
  const inboxDeps = { ...startDeps, db: connection.db, press, inboxFolder: config.inboxFolder };
  const tell =
    (words: string) =>
    (err: unknown): void =>
      log[isDatabaseAway(err) ? 'warn' : 'error']({ err }, words);
  const stopSchedules = repeat(
    SCHEDULES_EVERY_MS,
    () => runDueSchedules(startDeps, config.schedules),
    tell('the schedules could not be run'),
  );
  const stopInboxes = repeat(
    INBOXES_EVERY_MS,
    () => pollInboxes(connection, inboxDeps),
    tell('the inboxes could not be polled'),
  );
  process.send?.('working');
  const stop = (): void => {
    clearInterval(maintenance);
    // A poll of a slow server is not waited for: the next worker polls again.
    void stopInboxes();
    Promise.all([worker.stop(), stopSchedules()])
      .then(() => Promise.allSettled([queue.close(), press.close(), notifications.close(), heartbeat.stop()]))
      .then(() => Promise.race([connection.close(), pause(CLOSE_MS)]))
      .finally(() => process.exit(0));
  };
  process.on('SIGTERM', stop);
  process.on('SIGINT', stop);
  // Whoever started this process is gone: so is the reason to run. A long job is not waited for; it is taken up again.
  process.on('disconnect', () => {
    setTimeout(() => process.exit(1), ORPHAN_GRACE_MS).unref();
    stop();
  });
}

/** Does some work at intervals, never twice at a time. Returns a function that stops it and waits until it is done. */
function repeat(everyMs: number, work: () => Promise<void>, failed: (error: unknown) => void): () => Promise<void> {
  let working: Promise<void> | undefined;
  const timer = setInterval(() => {
    working ??= work()
      .catch(failed)
      .finally(() => (working = undefined));
  }, everyMs);
  return async () => {
    clearInterval(timer);
    await working;
  };
}

main().catch((error: unknown) => {
  console.error(`The worker could not start: ${error instanceof Error ? error.message : String(error)}`);
  process.exit(1);
});
