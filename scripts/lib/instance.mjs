import { join } from 'node:path';
import { ensureNodeBuild, ROOT } from '../build-node.mjs';
import { ensureWebBuild, WEB_FOLDER } from './build-web.mjs';
import { startPostgres } from './postgres.mjs';
import { keepRunning } from './services.mjs';

/**
 * Brings up a whole Folvex with its data in a folder: database (unless `databaseUrl` names one), server with the demo,
 * worker. `ready` resolves once all of it runs; `stop` may be called at any time. `server` and `worker()` are the
 * kept processes, `databaseFolder` is where the database lies where it is one of its own,
 * `environment` what another worker needs.
 */
export async function startInstance(data, { databaseUrl, settings = {} } = {}) {
  await ensureNodeBuild();
  await ensureWebBuild();
  const database = databaseUrl
    ? { url: databaseUrl, stop: async () => undefined }
    : await startPostgres(join(data, 'postgres'));
  const environment = {
    DATABASE_URL: database.url,
    FOLVEX_DATA: data,
    FOLVEX_WEB: WEB_FOLDER,
    FOLVEX_MIGRATIONS: join(ROOT, 'server', 'drizzle'),
    FOLVEX_DEMO: join(ROOT, 'demo', 'tern-quay.job.json'),
    ...settings,
  };
  const server = keepRunning('server', environment);
  let worker;
  let stopping;
  const stop = () => {
    stopping ??= Promise.all([server.stop(), worker?.stop()]).then(() => database.stop());
    return stopping;
  };
  const ready = server.ready.then(() => {
    if (stopping) return undefined;
    worker = keepRunning('worker', environment);
    return worker.ready;
  });
  return {
    ready,
    stop,
    server,
    worker: () => worker,
    databaseUrl: database.url,
    databaseFolder: database.data,
    environment,
  };
}
