import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ensureNodeBuild, ROOT } from '../build-node.mjs';
import { ensureWebBuild, WEB_FOLDER } from './build-web.mjs';
import { isHeld, lockFolder } from './folder-lock.mjs';
import { startPostgres } from './postgres.mjs';
import { keepRunning } from './services.mjs';

const URL_FILE = 'database-url';

/** Address of the database of the Folvex that runs in a data folder; undefined where none does. */
export function runningDatabase(folder) {
  const note = join(folder, URL_FILE);
  return isHeld(folder) && existsSync(note) ? readFileSync(note, 'utf8') : undefined;
}

/**
 * Locks a data folder and starts the database in it (unless `databaseUrl` names another one). `environment` is what
 * server and workers need; `stop` stops the database and gives the folder up.
 */
export async function startDatabase(folder, { databaseUrl, settings = {} } = {}) {
  const { FOLVEX_HOST = '127.0.0.1', FOLVEX_PORT = '4780' } = { ...process.env, ...settings };
  const address = `http://${FOLVEX_HOST}:${FOLVEX_PORT}`;
  const unlock = lockFolder(folder, address);
  let database;
  try {
    database = databaseUrl ? undefined : await startPostgres(join(folder, 'postgres'));
  } catch (error) {
    unlock();
    throw error;
  }
  // For maintenance while it runs; closed to others, since it has the password.
  const note = join(folder, URL_FILE);
  if (database) writeFileSync(note, database.url, { mode: 0o600 });
  const environment = {
    DATABASE_URL: databaseUrl ?? database.url,
    FOLVEX_DATA: folder,
    FOLVEX_WEB: WEB_FOLDER,
    FOLVEX_MIGRATIONS: join(ROOT, 'server', 'drizzle'),
    FOLVEX_DEMO: join(ROOT, 'demo', 'tern-quay.job.json'),
    ...settings,
  };
  const stop = () =>
    Promise.resolve(database?.stop()).finally(() => {
      rmSync(note, { force: true });
      unlock();
    });
  return { address, database, environment, stop };
}

/**
 * Starts a whole Folvex with its data in a folder, which it locks: database, server with the demo, worker. `ready`
 * resolves once all of it runs; `stop` may be called at any time, and `remove` also deletes what of the database is
 * outside the folder. `server` and `worker()` are the processes that are kept running; `database` is absent where it is
 * somebody else's; `environment` is what a further worker needs.
 */
export async function startInstance(folder, options = {}) {
  await ensureNodeBuild();
  await ensureWebBuild();
  const { address, database, environment, stop: stopDatabase } = await startDatabase(folder, options);
  const server = keepRunning('server', environment);
  let worker;
  let stopping;
  const stop = () => {
    stopping ??= Promise.all([server.stop(), worker?.stop()]).then(stopDatabase);
    return stopping;
  };
  const remove = () => stop().then(() => database?.remove());
  const ready = server.ready.then(() => {
    if (stopping) return undefined;
    worker = keepRunning('worker', environment);
    return worker.ready;
  });
  return { ready, stop, remove, address, server, worker: () => worker, database, environment };
}
