// The one command that brings Folvex up: puts in place what is missing, then starts database, server and worker.
import { join, dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { ensureDebian, ensureNpm, FOR_RUNNING } from './lib/packages.mjs';
import { runMain, say } from './lib/say.mjs';

const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));

await runMain(async () => {
  const { DATABASE_URL, FOLVEX_DATA, FOLVEX_HOST, FOLVEX_PORT } = process.env;
  await ensureNpm(ROOT);
  if (!DATABASE_URL) await ensureDebian(FOR_RUNNING);
  // Imported late: it needs the npm packages.
  const { startInstance } = await import('./lib/instance.mjs');
  const instance = await startInstance(FOLVEX_DATA ?? join(ROOT, '.folvex'), { databaseUrl: DATABASE_URL });
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) {
    process.on(signal, () => void instance.stop().then(() => process.exit(0)));
  }
  try {
    await instance.ready;
  } catch {
    // Whichever process left has said why.
    await instance.stop();
    process.exit(1);
  }
  say(`Folvex is ready at http://${FOLVEX_HOST ?? '127.0.0.1'}:${FOLVEX_PORT ?? '4780'}`);
});
