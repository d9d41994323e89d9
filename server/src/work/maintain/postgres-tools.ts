import { execFile } from 'node:child_process';
import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { promisify } from 'node:util';

const run = promisify(execFile);
/** Where Debian's packages put the programs of each version. */
const DEBIAN = '/usr/lib/postgresql';

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
    await run(newest(name), args, { env });
  } catch (error) {
    const { code, stderr = '' } = error as { code?: unknown; stderr?: string };
    if (code === 'ENOENT') throw new Error(`${name} is missing; install the client programs of PostgreSQL.`);
    throw new Error(stderr.trim().split('\n').at(-1) || String(error));
  }
}

/** The newest version there is: it reads the databases of all older ones. */
function newest(name: string): string {
  const versions = existsSync(DEBIAN) ? readdirSync(DEBIAN).map(Number).filter(Boolean) : [];
  const found = versions
    .sort((a, b) => b - a)
    .map((version) => join(DEBIAN, String(version), 'bin', name))
    .find((file) => existsSync(file));
  return found ?? name;
}
