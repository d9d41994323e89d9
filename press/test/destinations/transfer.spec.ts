import { existsSync, mkdirSync, statfsSync, symlinkSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { PassThrough } from 'node:stream';
import { text } from 'node:stream/consumers';
import type { Delivered } from '@folvex/core';
import { deliver } from '../../src/destinations/deliver';
import { openDestination } from '../../src/destinations';
import { openInbox } from '../../src/destinations/inbox';
import type { DestinationPort } from '../../src/destinations/port';
import { probeTransfer } from '../../src/destinations/probe';
import type { TransferLogin } from '../../src/destinations/transfer-login';
import { sha256 } from '../../src/files/whole-file';
import { dateOf } from '../../src/today';
import { ownFolder } from '../support/published';
import {
  breakingProxy,
  startDav,
  startDavStandIn,
  startFtp,
  startFtps,
  startFtpsStandIn,
  startFtpStandIn,
  startS3,
  startSftpStandIn,
  startSshd,
  type Peer,
} from '../support/peers';

const work = ownFolder();
/** How often a delivery is broken off. */
const MOMENTS = Number(process.env['FOLVEX_BREAKS'] ?? 25);

function finished(path: string, text: string) {
  const from = join(work, `finished-${sha256(text).slice(0, 8)}`);
  writeFileSync(from, text);
  return { from, hash: sha256(text), path };
}

/** The same server, which opens the data connections itself. */
const active =
  (start: (folder: string) => Promise<Peer>) =>
  async (folder: string): Promise<Peer> => {
    const peer = await start(folder);
    return { ...peer, login: { ...peer.login, address: `${peer.login.address}?mode=active` } };
  };

describe.each([
  ['SFTP, with OpenSSH', startSshd],
  ['FTP, with vsftpd', startFtp],
  ['FTPS, with vsftpd', startFtps],
  ['FTP in active mode, with vsftpd', active(startFtp)],
  ['FTPS in active mode, with vsftpd', active(startFtps)],
  ['WebDAV, with nginx', startDav],
  ['S3, with s3rver', startS3],
  ['SFTP, with the stand-in', startSftpStandIn],
  ['FTP, with the stand-in', startFtpStandIn],
  ['FTPS, with the stand-in', startFtpsStandIn],
  ['FTP in active mode, with the stand-in', active(startFtpStandIn)],
  ['FTPS in active mode, with the stand-in', active(startFtpsStandIn)],
  ['WebDAV, with the stand-in', startDavStandIn],
] as const)('delivering by %s', (name, start) => {
  const isFtp = name.startsWith('FTP');
  let peer: Peer;
  const open: DestinationPort[] = [];
  beforeAll(async () => {
    // The servers' configuration files allow no spaces in paths.
    const folder = join(work, name.replace(/\W+/g, '-'));
    mkdirSync(folder);
    peer = await start(folder);
  });
  afterAll(async () => {
    for (const one of open) await one.close();
    await peer.stop();
  });

  const portTo = async (folder = 'to', login: TransferLogin = peer.login): Promise<DestinationPort> => {
    const port = await openDestination(
      { kind: 'server', server: 's', folder, onConflict: 'stop' },
      { deliveryFolder: work, transferServers: new Map([['s', login]]) },
    );
    open.push(port);
    return port;
  };
  it('makes the folders that a file needs, and leaves nothing unfinished', async () => {
    const done = await deliver(await portTo(), finished('Plans/Grundriß 1.pdf', 'one'), 'stop');
    const reported = { algorithm: 'SHA-256', hex: sha256('one') };
    // OpenSSH's server, vsftpd and nginx report no hashes, and neither does the SFTP stand-in.
    const hash = /^(FTP|WebDAV).*stand-in|S3/.test(name) ? { hash: reported } : {};
    expect(done).toEqual({ path: 'Plans/Grundriß 1.pdf', how: 'new', bytes: 3, ...hash });
    expect(String(peer.content('to/Plans/Grundriß 1.pdf'))).toBe('one');
    expect(peer.names('to/Plans')).toEqual(['Grundriß 1.pdf']);
  });

  it('carries megabytes byte by byte', async () => {
    const text = Array.from({ length: 400_000 }, (_, i) => String(i * 7919)).join(' ');
    const file = finished('large.pdf', text);
    expect(await deliver(await portTo(), file, 'stop')).toMatchObject({ how: 'new' });
    expect(sha256(peer.content('to/large.pdf')!)).toBe(file.hash);
    expect(await (await portTo()).hashOf('large.pdf')).toBe(file.hash);
  });

  it('sees what is there, and replaces nothing unseen', async () => {
    await peer.place('to/A.pdf', 'other');
    const port = await portTo();
    expect(await port.list(['A.pdf', 'B.pdf', 'folder'])).toEqual(['A.pdf']);
    const file = finished('A.pdf', 'new');
    const results: Delivered[] = [];
    for (const policy of ['stop', 'both', 'both', 'replace', 'replace'] as const)
      results.push(await deliver(port, file, policy));
    expect(results).toMatchObject([
      { problem: { code: 'destination.conflict' } },
      { path: 'A (2).pdf', how: 'numbered' },
      { path: 'A (2).pdf', how: 'there already' },
      { path: 'A.pdf', how: 'replaced' },
      { path: 'A.pdf', how: 'there already' },
    ]);
    expect(String(peer.content('to/A.pdf'))).toBe('new');
    // The older one gets the day on which it came there.
    await peer.place('to/E.pdf', 'older');
    const date = dateOf(new Date((await port.find('E.pdf'))!.writtenAt));
    const older = `E (${date}).pdf`;
    expect(await deliver(port, finished('E.pdf', 'newer'), 'rename')).toMatchObject({
      path: 'E.pdf',
      how: 'new',
      older,
    });
    expect([String(peer.content('to/E.pdf')), String(peer.content(`to/${older}`))]).toEqual(['newer', 'older']);
    expect(await port.rename('E.pdf', older)).toBe(false);
    expect(String(peer.content(`to/${older}`))).toBe('older');
    expect(await port.find('nowhere.pdf')).toBeUndefined();
    expect(Math.abs(Date.now() - (await port.find('E.pdf'))!.writtenAt)).toBeLessThan(24 * 3600_000);
    // Also where somebody takes the name in between.
    await peer.place('to/C.pdf', 'theirs');
    expect(await port.put(finished('C.pdf', 'mine'), { replace: false })).toBe(false);
    expect(String(peer.content('to/C.pdf'))).toBe('theirs');
    expect(peer.names('to').filter((name) => name.startsWith('.'))).toEqual([]);
  });

  it('two at once under one name: one of them has it, and nothing is mixed', async () => {
    const texts = Array.from({ length: 6 }, (_, i) => `${i}`.repeat(50_000));
    const results = await Promise.all(
      texts.map(async (text) => (await portTo('race')).put(finished('same.pdf', text), { replace: false })),
    );
    const first = results.filter(Boolean);
    // FTP has no renaming that fails where a name is taken (RFC 959): what is there is whole, whoever was last.
    if (isFtp) expect(first.length).toBeGreaterThan(0);
    else expect(first).toHaveLength(1);
    const there = String(peer.content('race/same.pdf'));
    expect(isFtp ? texts : [texts[results.indexOf(true)]]).toContain(there);
    expect(peer.names('race')).toEqual(['same.pdf']);
  });

  it('stays below its folder, whatever that is called', async () => {
    await deliver(await portTo('../../out'), finished('D.pdf', 'four'), 'stop');
    expect(String(peer.content('out/D.pdf'))).toBe('four');
  });

  it('is tested step by step, and nothing stays', async () => {
    const steps = await probeTransfer(peer.login);
    expect(steps.filter(({ ok }) => !ok)).toEqual([]);
    expect(steps.map(({ name }) => name).filter((name) => !['host key', 'certificate'].includes(name))).toEqual([
      ...['name', 'connection', 'sign-in', 'folder', 'writing'],
      // Of these servers only OpenSSH's tells how much room there is.
      ...(name.includes('OpenSSH') ? ['room'] : []),
    ]);
    if (name.includes('OpenSSH')) {
      const { bavail, bsize } = statfsSync(peer.root);
      const told = Number(/^([\d.]+) GB free\.$/.exec(steps.at(-1)!.sentence)![1]);
      expect(Math.abs(told - (bavail * bsize) / 1e9)).toBeLessThan(1);
    }
    expect(peer.names('').filter((name) => name.startsWith('.'))).toEqual([]);
    const signIn = steps.find(({ name }) => name === 'sign-in')!;
    expect(signIn.sentence.includes('can be read on the way')).toBe(/^((s3\+)?http|ftp):/.test(peer.login.address));
    expect(await (await portTo()).test()).toBeUndefined();
  });

  it('is read as an inbox: every file below its folder, and what is in it', async () => {
    const inbox = (folder: string) =>
      openInbox({ id: 'i', name: 'Structures', server: 's', folder }, { inboxFolder: work, login: peer.login });
    const port = await inbox('arrives');
    const { where } = port;
    // A bucket has no folders.
    if (name.startsWith('S3')) expect(await port.files()).toEqual([]);
    else await expect(port.files()).rejects.toThrow(`There is no folder ${where}; create it there`);
    await peer.place('arrives/A-101.dxf', 'lines');
    await peer.place('arrives/Pläne 2/B 1.dxf', 'more lines');
    await peer.place('other/C.dxf', 'not in it');
    const found = (await port.files()).sort((a, b) => (a.path < b.path ? -1 : 1));
    expect(found.map(({ path, bytes }) => [path, bytes])).toEqual([
      ['A-101.dxf', 5],
      ['Pläne 2/B 1.dxf', 10],
    ]);
    expect(Math.abs(Date.now() - found[0]!.writtenAt)).toBeLessThan(24 * 3600_000);
    // The same as long as nobody writes it: this tells that a file is finished.
    expect((await port.files()).sort((a, b) => (a.path < b.path ? -1 : 1))).toEqual(found);
    for (const [path, content] of [
      ['A-101.dxf', 'lines'],
      ['Pläne 2/B 1.dxf', 'more lines'],
    ] as const) {
      const into = new PassThrough();
      const [received] = await Promise.all([text(into), port.copyTo(path, into)]);
      expect(received).toBe(content);
    }
    const nowhere = new PassThrough();
    nowhere.on('error', () => undefined);
    await expect(port.copyTo('D.dxf', nowhere)).rejects.toThrow();
    await port.close();
    const root = await inbox('');
    expect((await root.files()).map(({ path }) => path)).toContain('other/C.dxf');
    await root.close();
  });

  it('that breaks off anywhere leaves each file whole or not there, and the next try finishes it', async () => {
    const { address } = peer.login;
    const text = 'sheet '.repeat(20_000);
    const wanted = sha256(text);
    const outcomes = new Set<string>();
    // Moments that are spread over all of what is sent, the same in each run of the test.
    for (let i = 0; i < MOMENTS; i++) {
      const url = new URL(address);
      const proxy = await breakingProxy(Number(url.port), 1 + ((i * 7919) % peer.bytesOfDelivery));
      url.port = String(proxy.port);
      const path = `broken/${i}.pdf`;
      const cut = await portTo('to', { ...peer.login, address: url.href.replace(/\/$/, '') });
      const result = await deliver(cut, finished(path, text), 'stop');
      await cut.close();
      proxy.close();
      const content = peer.content(`to/${path}`);
      const isThere = content !== undefined;
      outcomes.add(`${'problem' in result ? 'failed' : 'done'}, ${isThere ? 'there' : 'not there'}`);
      if (isThere) expect(sha256(content)).toBe(wanted);
      // Nothing is said to be there that is not.
      if (!('problem' in result)) expect([isThere, result.bytes]).toEqual([true, text.length]);
      const next = await portTo();
      expect(await deliver(next, finished(path, text), 'stop')).toMatchObject({ path });
      // Servers take so many connections of one machine.
      await next.close();
      expect(sha256(peer.content(`to/${path}`)!)).toBe(wanted);
    }
    expect([...outcomes]).toEqual(expect.arrayContaining(['failed, not there', 'done, there']));
  });

  it('says which step of a test failed, and why', async () => {
    const last = async (change: Partial<TransferLogin>) => {
      const steps = await probeTransfer({ ...peer.login, ...change });
      return `${steps.at(-1)!.name}: ${steps.at(-1)!.sentence}`;
    };
    const scheme = new URL(peer.login.address).protocol;
    expect(await last({ address: `${scheme}//nowhere.invalid/x` })).toContain('name: There is no host nowhere.invalid');
    expect(await last({ address: `${scheme}//127.0.0.1:1/x` })).toContain(
      'connection: 127.0.0.1 does not answer on port 1',
    );
    expect(await last(peer.wrong)).toMatch(/^sign-in: Peer refused to sign in \S+/);
    expect(await last({ address: peer.absent })).toContain('folder: ');
  });
});

describe('an SFTP server', () => {
  it('is not signed in to before its host key is accepted, nor when it shows another', async () => {
    const folder = join(work, 'keys');
    mkdirSync(folder);
    const { login, stop } = await startSshd(folder);
    try {
      const unknown = (await probeTransfer({ ...login, fingerprint: null })).at(-1)!;
      expect([unknown.name, unknown.ok]).toEqual(['host key', false]);
      // The fingerprint that ssh-keygen prints of the same key.
      expect(unknown).toMatchObject({
        fingerprint: login.fingerprint,
        sentence: expect.stringContaining(login.fingerprint!) as string,
      });
      // A private key that a field of one line took its line breaks from.
      const inOneLine = { ...login, secret: login.secret.replaceAll('\n', '') };
      expect((await probeTransfer(inOneLine)).at(-1)).toMatchObject({ name: 'room', ok: true });
      const other = (await probeTransfer({ ...login, fingerprint: 'SHA256:another' })).at(-1)!;
      expect(other.sentence).toContain('another host key than the accepted one');
      const port = await openDestination(
        { kind: 'server', server: 's', folder: 'x', onConflict: 'stop' },
        { deliveryFolder: work, transferServers: new Map([['s', { ...login, fingerprint: 'SHA256:another' }]]) },
      );
      expect(await deliver(port, finished('E.pdf', 'five'), 'replace')).toMatchObject({
        problem: { code: 'destination.refused', sentence: expect.stringContaining('another host key') as string },
      });
      expect(existsSync(join(folder, 'sftp', 'x'))).toBe(false);
      await port.close();
    } finally {
      await stop();
    }
  });

  it('whose connection breaks is connected to again, and one that is gone says so', async () => {
    const folder = join(work, 'away');
    mkdirSync(folder);
    const { login, stop } = await startSshd(folder);
    const url = new URL(login.address);
    const proxy = await breakingProxy(Number(url.port), Infinity);
    url.port = String(proxy.port);
    const port = await openDestination(
      { kind: 'server', server: 's', folder: 'x', onConflict: 'stop' },
      { deliveryFolder: work, transferServers: new Map([['s', { ...login, address: url.href }]]) },
    );
    expect(await deliver(port, finished('F.pdf', 'six'), 'stop')).toMatchObject({ how: 'new' });
    proxy.breakOff();
    // The first try may still meet the broken connection.
    const tries = [await deliver(port, finished('G.pdf', 'seven'), 'stop')];
    tries.push(await deliver(port, finished('G.pdf', 'seven'), 'stop'));
    expect(tries.at(-1)).toMatchObject({ path: 'G.pdf' });
    proxy.close();
    await deliver(port, finished('H.pdf', 'eight'), 'stop');
    const gone = await deliver(port, finished('H.pdf', 'eight'), 'stop');
    expect(gone).toMatchObject({ problem: { code: 'destination.copy' } });
    await port.close();
    await stop();
  });

  it('has a link that leads nowhere counted as a file that is there', async () => {
    const folder = join(work, 'links');
    mkdirSync(folder);
    const { login, root, stop } = await startSshd(folder);
    const port = await openDestination(
      { kind: 'server', server: 's', folder: 'x', onConflict: 'stop' },
      { deliveryFolder: work, transferServers: new Map([['s', login]]) },
    );
    mkdirSync(join(root, 'x'));
    symlinkSync('nowhere', join(root, 'x', 'G.pdf'));
    expect(await deliver(port, finished('G.pdf', 'seven'), 'stop')).toMatchObject({
      problem: { code: 'destination.conflict' },
    });
    await port.close();
    await stop();
  });
});

it('a WebDAV server that has quotas is asked for its room', async () => {
  // The answer is that of RFC 4331, section 7, with the path of this server.
  const quota = `<?xml version="1.0" encoding="utf-8" ?>
    <D:multistatus xmlns:D="DAV:"><D:response><D:href>/</D:href><D:propstat>
      <D:prop>
        <D:resourcetype><D:collection/></D:resourcetype>
        <D:quota-available-bytes>596650</D:quota-available-bytes>
        <D:quota-used-bytes>403350</D:quota-used-bytes>
      </D:prop>
      <D:status>HTTP/1.1 200 OK</D:status>
    </D:propstat></D:response></D:multistatus>`;
  const server = createServer((request, response) => {
    request.resume();
    if (request.method === 'PROPFIND') response.writeHead(207, { 'Content-Type': 'application/xml' }).end(quota);
    else response.writeHead(request.method === 'PUT' ? 201 : 204).end();
  });
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  const { port } = server.address() as AddressInfo;
  const login = { name: 'Peer', address: `http://127.0.0.1:${port}/`, user: '', secret: '', fingerprint: null };
  expect((await probeTransfer(login)).at(-1)).toMatchObject({ name: 'room', sentence: '597 kB free.' });
  server.closeAllConnections();
  server.close();
});

describe('an FTP server with TLS', () => {
  it('is not signed in to before its certificate is accepted, nor when it shows another', async () => {
    const folder = join(work, 'certificates');
    mkdirSync(folder);
    const { login, stop } = await startFtps(folder);
    try {
      const unknown = (await probeTransfer({ ...login, fingerprint: null })).at(-1)!;
      // The fingerprint that openssl prints of the same certificate.
      expect(unknown).toMatchObject({ name: 'certificate', ok: false, fingerprint: login.fingerprint });
      const other = (await probeTransfer({ ...login, fingerprint: 'SHA256:another' })).at(-1)!;
      expect(other.sentence).toContain('another certificate than the accepted one');
      const steps = await probeTransfer(login);
      expect(steps.find(({ name }) => name === 'certificate')!.sentence).toContain(login.fingerprint);
    } finally {
      await stop();
    }
  });

  it('that knows no TLS is not signed in to', async () => {
    const folder = join(work, 'plain');
    mkdirSync(folder);
    const { login, stop } = await startFtp(folder);
    try {
      const steps = await probeTransfer({ ...login, address: login.address.replace('ftp:', 'ftps:') });
      expect(steps.at(-1)).toMatchObject({ name: 'connection', ok: false });
    } finally {
      await stop();
    }
  });
});

it('a transfer server that is not set up is no destination', async () => {
  const destination = { kind: 'server', server: 'gone', folder: '', onConflict: 'stop' } as const;
  await expect(openDestination(destination, { deliveryFolder: work })).rejects.toThrow('is not set up');
});
