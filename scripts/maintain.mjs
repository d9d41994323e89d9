// Maintenance of an installation: backup, restore, sweep, scrub. Works with the Folvex that runs in the data folder, or
// with the database of that folder alone where none runs.
import { spawn } from 'node:child_process';
import { join, dirname, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { DIST, ensureNodeBuild } from './build-node.mjs';
import { runningDatabase, startDatabase } from './lib/instance.mjs';

const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));

/** Runs a command of `dist/maintain.mjs`; resolves with its exit code. */
export async function maintain(...args) {
  await ensureNodeBuild();
  const folder = resolve(process.env.FOLVEX_DATA ?? join(ROOT, '.folvex'));
  const url = process.env.DATABASE_URL ?? runningDatabase(folder);
  const database = url ? undefined : await startDatabase(folder);
  const environment = database?.environment ?? { DATABASE_URL: url, FOLVEX_DATA: folder };
  try {
    const child = spawn(process.execPath, ['--enable-source-maps', join(DIST, 'maintain.mjs'), ...args], {
      env: { ...process.env, FOLVEX_MIGRATIONS: join(ROOT, 'server', 'drizzle'), ...environment },
      stdio: 'inherit',
    });
    return await new Promise((done) => child.once('exit', (code) => done(code ?? 1)));
  } finally {
    await database?.stop();
  }
}
