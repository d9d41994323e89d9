// The one command that brings Folvex up: puts in place what is missing, then starts database, server and worker.
import { join, dirname, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { ensureDebian, ensureNpm, FOR_RUNNING } from './lib/packages.mjs';
import { runMain, say } from './lib/say.mjs';

const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));
const PARENT_CHECK_MS = 500;

await runMain(async () => {
  const { DATABASE_URL, FOLVEX_DATA } = process.env;
  await ensureNpm(ROOT);
  if (!DATABASE_URL) await ensureDebian(FOR_RUNNING);
  // Imported late: it needs the npm packages.
  const { startInstance } = await import('./lib/instance.mjs');
  const folder = resolve(FOLVEX_DATA ?? join(ROOT, '.folvex'));
  const instance = await startInstance(folder, {
    databaseUrl: DATABASE_URL,
    settings: { FOLVEX_DEMO_PARTNERS: join(ROOT, 'demo', 'partners.json') },
  });
  const stop = () => void instance.stop().then(() => process.exit(0));
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, stop);
  stopWithParent(stop);
  const { database } = instance;
  if (database && !database.place.startsWith(folder)) {
    say(
      `The database is in ${database.place}, because its user may not enter ${folder}; it stays when that folder is removed.`,
    );
  }
  try {
    await instance.ready;
  } catch {
    // Whichever process left has said why.
    await instance.stop();
    process.exit(1);
  }
  say(`Folvex is ready at ${instance.address}`);
});

/** A killed npm does not pass its signal on: when this process loses its parent, nothing of it must stay behind. */
function stopWithParent(stop) {
  if (!process.env.npm_lifecycle_event) return;
  const parent = process.ppid;
  const timer = setInterval(() => {
    if (process.ppid === parent) return;
    clearInterval(timer);
    stop();
  }, PARENT_CHECK_MS);
}
