import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { openDestination } from '../../src/destinations';
import { deliver } from '../../src/destinations/deliver';
import type { DestinationPort } from '../../src/destinations/port';
import { probeTransfer } from '../../src/destinations/probe';
import type { TransferLogin } from '../../src/destinations/transfer-login';
import { sha256 } from '../../src/files/whole-file';
import { objectPath, SharedFolder, startTransferServers } from '../../../stand-ins/src/index';

const work = mkdtempSync(join(tmpdir(), 'folvex-stand-ins-'));
const ANY = { page: 0, sftp: 0, ftp: 0, ftps: 0, dav: 0, s3: 0 };
let started: Awaited<ReturnType<typeof startTransferServers>>;
beforeAll(async () => {
  started = await startTransferServers(join(work, 'shares'), ANY);
});
afterAll(async () => {
  await started.stop();
  rmSync(work, { recursive: true, force: true });
});

const TEXT = 'sheet '.repeat(20_000);
function finished(path: string) {
  const from = join(work, 'file');
  writeFileSync(from, TEXT);
  return { from, hash: sha256(TEXT), path };
}
const loginOf = (index: number): TransferLogin => {
  const { name, server, account } = started.shares[index]!;
  return {
    ...{ name, address: server.address, user: account.user, secret: account.password },
    fingerprint: server.fingerprint,
  };
};
async function withPort<T>(index: number, use: (port: DestinationPort) => Promise<T>): Promise<T> {
  const port = (await openDestination(
    { kind: 'server', server: 's', folder: 'to', onConflict: 'stop' },
    { deliveryFolder: work, transferServers: new Map([['s', loginOf(index)]]) },
  )) as DestinationPort;
  try {
    return await use(port);
  } finally {
    await port.close();
  }
}
const set = (index: number, ...faults: string[]) =>
  fetch(`${started.page}${index}`, {
    method: 'POST',
    body: new URLSearchParams(faults.map((fault): [string, string] => [fault, 'on'])),
  });

describe.each([
  [0, 'SFTP'],
  [1, 'FTP'],
  [2, 'FTPS'],
  [3, 'WebDAV'],
  [4, 'S3'],
])('the stand-in %i, %s', (index, name) => {
  afterEach(() => set(index));

  it('takes a file, which its page shows, and keeps its identity when it is started again', async () => {
    expect(await withPort(index, (port) => deliver(port, finished('A 1.pdf'), 'stop'))).toMatchObject({ how: 'new' });
    const page = await (await fetch(started.page)).text();
    const section = page.split('<section>')[index + 1]!;
    expect(section).toMatch(/to\/A 1\.pdf(\._S3rver_object)?<\/td><td>120000<\/td>/);
    const again = await startTransferServers(join(work, 'shares'), ANY);
    expect(again.shares[index]!.server.fingerprint).toBe(started.shares[index]!.server.fingerprint);
    await again.stop();
  });

  it('is full: nothing of a file stays, and the sentence says so', async () => {
    await set(index, 'full');
    const result = await withPort(index, (port) => deliver(port, finished('B.pdf'), 'stop'));
    expect(result).toMatchObject({ problem: { code: 'destination.copy' } });
    await set(index);
    expect(await withPort(index, (port) => port.find('B.pdf'))).toBeUndefined();
  });

  it('breaks off within a file, which is not there then, and takes it once it no longer does', async () => {
    await set(index, 'breaks');
    const result = await withPort(index, (port) => deliver(port, finished('C.pdf'), 'stop'));
    expect(result).toMatchObject({ problem: { code: 'destination.copy' } });
    await set(index);
    expect(await withPort(index, (port) => deliver(port, finished('C.pdf'), 'stop'))).toMatchObject({ how: 'new' });
  });

  it('changes a byte: no file takes its name, except over SFTP, which reports no hash', async () => {
    await set(index, 'damages');
    const result = await withPort(index, (port) => deliver(port, finished('E.pdf'), 'stop'));
    await set(index);
    const there = await withPort(index, (port) => port.find('E.pdf'));
    // Like OpenSSH's server, it reports no hashes: all that can be compared is the number of bytes.
    if (name === 'SFTP') {
      expect([result, there]).toMatchObject([{ how: 'new', bytes: TEXT.length }, { bytes: TEXT.length }]);
      expect(result).not.toHaveProperty('hash');
    } else {
      expect(result).toMatchObject({ problem: { code: 'destination.copy' } });
      expect(there).toBeUndefined();
    }
  });

  it('refuses to sign anybody in', async () => {
    await set(index, 'refuses');
    const last = (await probeTransfer(loginOf(index))).at(-1)!;
    expect([last.name, last.ok]).toEqual(['sign-in', false]);
  });

  it('is slow, and what it takes is whole', async () => {
    await set(index, 'slow');
    const result = await withPort(index, (port) => deliver(port, finished('D.pdf'), 'stop'));
    expect(result).toMatchObject({ how: 'new', bytes: TEXT.length });
    const { folder } = started.shares[index]!;
    const file = index === 4 ? objectPath(folder, 'to/D.pdf') : folder.at('to/D.pdf');
    expect(sha256(readFileSync(file))).toBe(sha256(TEXT));
  });

  it('stays within its folder', async () => {
    const { folder } = started.shares[index]!;
    expect(folder.at('../../etc/passwd')).toBe(join(folder.root, 'etc/passwd'));
    await withPort(index, (port) => deliver(port, finished('../../../out.pdf'), 'stop').catch(() => undefined));
    expect(existsSync(join(work, 'out.pdf'))).toBe(false);
  });
});

it('a slow folder takes 100 kB a second, however many files come at once', async () => {
  let now = 0;
  const waits: number[] = [];
  const wait = (ms: number) => (waits.push(ms), Promise.resolve());
  const folder = new SharedFolder(work, wait, () => now);
  folder.faults.add('slow');
  await Promise.all([folder.take(Buffer.alloc(50_000), 0), folder.take(Buffer.alloc(20_000), 0)]);
  now = 5000;
  await folder.take(Buffer.alloc(10_000), 50_000);
  expect(waits).toEqual([500, 700, 100]);
});

it('the page of the stand-ins has nothing else', async () => {
  expect((await fetch(`${started.page}9`, { method: 'POST' })).status).toBe(404);
  expect((await fetch(`${started.page}elsewhere`)).status).toBe(404);
});
