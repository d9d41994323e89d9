import { execFile } from 'node:child_process';
import { promisify } from 'node:util';

const run = promisify(execFile);

/** Runs `pg_dump` or `pg_restore` on a database. Rejects with the last line of what it says. */
export async function postgresTool(name: 'pg_dump' | 'pg_restore', url: string, args: string[]): Promise<void> {
  const { hostname, port, username, password, pathname } = new URL(url);
  // Not as arguments: those are seen by everybody on the machine.
  const env = {
    ...process.env,
    PGHOST: hostname.replace(/^\[|\]$/g, ''),
    PGPORT: port || '5432',
    PGUSER: decodeURIComponent(username),
    PGPASSWORD: decodeURIComponent(password),
    PGDATABASE: decodeURIComponent(pathname.slice(1)),
  };
  try {
    await run(name, args, { env });
  } catch (error) {
    const { code, stderr = '' } = error as { code?: unknown; stderr?: string };
    if (code === 'ENOENT') throw new Error(`${name} is missing; install the client programs of PostgreSQL.`);
    throw new Error(stderr.trim().split('\n').at(-1) || String(error));
  }
}
