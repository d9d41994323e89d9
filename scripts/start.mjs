// The one command that brings Folvex up: puts in place what is missing, then starts database, server and worker.
import { join, dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { ensureDebian, ensureNpm, FOR_RUNNING } from './lib/packages.mjs';
import { runMain, say, Trouble } from './lib/say.mjs';

const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));

await runMain(async () => {
  await ensureNpm(ROOT);
  if (!process.env.DATABASE_URL) await ensureDebian(FOR_RUNNING);
  // Imported late: these need the npm packages.
  const { ensureNodeBuild } = await import('./build-node.mjs');
  const { ensureWebBuild, WEB_FOLDER } = await import('./lib/build-web.mjs');
  const { startPostgres } = await import('./lib/postgres.mjs');
  const { keepRunning } = await import('./lib/services.mjs');
  await ensureNodeBuild();
  await ensureWebBuild();

  const data = process.env.FOLVEX_DATA ?? join(ROOT, '.folvex');
  const database = process.env.DATABASE_URL
    ? { url: process.env.DATABASE_URL, stop: async () => undefined }
    : await startPostgres(join(data, 'postgres'));
  const environment = {
    DATABASE_URL: database.url,
    FOLVEX_DATA: data,
    FOLVEX_WEB: WEB_FOLDER,
    FOLVEX_MIGRATIONS: join(ROOT, 'server', 'drizzle'),
    FOLVEX_DEMO: join(ROOT, 'demo', 'tern-quay.job.json'),
  };
  const server = keepRunning('server', environment);
  let worker;
  let stopping;
  const stop = () => {
    stopping ??= Promise.all([server.stop(), worker?.stop()]).then(() => database.stop());
    return stopping;
  };
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) {
    process.on(signal, () => void stop().then(() => process.exit(0)));
  }
  try {
    await server.ready;
  } catch {
    // It has said why itself.
    await stop();
    process.exit(1);
  }
  worker = keepRunning('worker', environment);
  await worker.ready.catch(async () => {
    await stop();
    throw new Trouble('The worker did not start; see above.');
  });
  const host = process.env.FOLVEX_HOST ?? '127.0.0.1';
  const port = process.env.FOLVEX_PORT ?? '4780';
  say(`Folvex is ready at http://${host}:${port}`);
});
