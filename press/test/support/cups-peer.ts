import { execFileSync, spawn } from 'node:child_process';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { freePort } from '../../../scripts/lib/postgres.mjs';
import type { TransferLogin } from '../../src/destinations/transfer-login';
import { answering, ended } from './peers';

/** CUPS on loopback, with a raw queue. */
export interface CupsPeer {
  login: TransferLogin;
  /** The document of the first job, as it is in the spool. */
  taken(): Buffer;
  /** Has the queue print nothing until it is enabled again. */
  command(name: 'cupsdisable' | 'cupsenable'): void;
  stop(): Promise<void>;
}

const QUEUE = 'plotter';

export async function startCups(folder: string): Promise<CupsPeer> {
  for (const name of ['spool', 'cache', 'run', 'log', 'state', 'tmp', 'root'])
    mkdirSync(join(folder, name), { recursive: true, mode: 0o777 });
  const port = await freePort();
  const open = 'Order allow,deny\nAllow all';
  const config = [
    ...['LogLevel warn', `Listen 127.0.0.1:${port}`, 'Browsing Off', 'WebInterface No'],
    ...['DefaultAuthType None', `<Location />\n${open}\n</Location>`, `<Location /admin>\n${open}\n</Location>`],
    `<Policy default>\nJobPrivateAccess all\nJobPrivateValues none\n<Limit All>\n${open}\n</Limit>\n</Policy>`,
  ];
  const files = [
    ...['FileDevice Yes', `ServerRoot ${folder}/root`, `RequestRoot ${folder}/spool`, `CacheDir ${folder}/cache`],
    ...[`StateDir ${folder}/state`, `TempDir ${folder}/tmp`, `AccessLog ${folder}/log/access`, 'SystemGroup root'],
    ...[`ErrorLog ${folder}/log/error`, `PageLog ${folder}/log/page`],
  ];
  writeFileSync(join(folder, 'cupsd.conf'), `${config.join('\n')}\n`);
  writeFileSync(join(folder, 'cups-files.conf'), `${files.join('\n')}\n`);
  const child = spawn(
    '/usr/sbin/cupsd',
    ['-f', '-c', join(folder, 'cupsd.conf'), '-s', join(folder, 'cups-files.conf')],
    {
      stdio: 'ignore',
    },
  );
  await answering(port, child);
  const cups = (name: string, ...args: string[]): void => {
    execFileSync(`/usr/sbin/${name}`, ['-h', `127.0.0.1:${port}`, ...args], { stdio: 'pipe' });
  };
  cups('lpadmin', '-p', QUEUE, '-E', '-v', 'file:///dev/null', '-m', 'raw');
  return {
    login: {
      ...{
        name: 'CUPS',
        address: `ipp://127.0.0.1:${port}/printers/${QUEUE}`,
        user: '',
        secret: '',
        fingerprint: null,
      },
    },
    taken: () => readFileSync(join(folder, 'spool', 'd00001-001')),
    command: (name) => cups(name, QUEUE),
    stop: () => ended(child),
  };
}
