import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { chmodSync, copyFileSync, existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { connect, createServer, type AddressInfo, type Socket } from 'node:net';
import { userInfo } from 'node:os';
import { dirname, join } from 'node:path';
import { freePort } from '../../../scripts/lib/postgres.mjs';
import {
  newCertificate,
  newHostKey,
  objectPath,
  SharedFolder,
  startDavServer,
  startFtpServer,
  startS3Server,
  startSftpServer,
  type ShareOptions,
  type StandInServer,
} from '../../../stand-ins/src/index';
import type { TransferLogin } from '../../src/destinations/transfer-login';
import { Bucket } from '../../src/files/bucket';
import { ACCESS_KEY, bucketSettings, SECRET } from './bucket';

/** A server of others that runs for a test: OpenSSH's for SFTP, vsftpd for FTP and FTPS, nginx with dav-ext for WebDAV, s3rver for S3. */
export interface Peer {
  login: TransferLogin;
  /** What of it the server refuses to sign in. */
  wrong: Partial<TransferLogin>;
  /** About how many bytes go through its port when a file of 120 kB is sent. */
  bytesOfDelivery: number;
  /** Address of a folder, or bucket, that is not there. */
  absent: string;
  /** The folder on this machine where the server has its files. */
  root: string;
  /** What the server has under a path; undefined: nothing. Not asked by the client that is tested. */
  content(path: string): Buffer | undefined;
  /** Names of the files in a folder. */
  names(path: string): string[];
  /** Puts a file there, as somebody else. */
  place(path: string, text: string): Promise<void>;
  stop(): Promise<void>;
}

/** The files of a server that has them under their own names. */
function filesIn(root: string): Pick<Peer, 'root' | 'content' | 'names' | 'place'> {
  return {
    root,
    content: (path) => (existsSync(join(root, path)) ? readFileSync(join(root, path)) : undefined),
    names: (path) => readdirSync(join(root, path)),
    place: async (path, text) => {
      mkdirSync(dirname(join(root, path)), { recursive: true });
      writeFileSync(join(root, path), text);
    },
  };
}

/** OpenSSH's server on loopback, with a key to sign in with; `fingerprint` is what ssh-keygen prints of it. */
export async function startSshd(folder: string): Promise<Peer> {
  const root = join(folder, 'sftp');
  mkdirSync(root, { recursive: true });
  const keygen = (file: string): void => {
    execFileSync('ssh-keygen', ['-q', '-t', 'ed25519', '-N', '', '-f', join(folder, file)]);
  };
  keygen('host');
  keygen('client');
  copyFileSync(join(folder, 'client.pub'), join(folder, 'authorized'));
  chmodSync(join(folder, 'authorized'), 0o600);
  const port = await freePort();
  const lines = [
    ...[`Port ${port}`, 'ListenAddress 127.0.0.1', `HostKey ${folder}/host`, `AuthorizedKeysFile ${folder}/authorized`],
    ...[`PidFile ${folder}/sshd.pid`, 'StrictModes no', 'PermitRootLogin yes', 'UsePAM no'],
    'Subsystem sftp internal-sftp',
  ];
  writeFileSync(join(folder, 'sshd.conf'), `${lines.join('\n')}\n`);
  if (process.getuid?.() === 0) mkdirSync('/run/sshd', { recursive: true });
  const child = spawn('/usr/sbin/sshd', ['-D', '-e', '-f', join(folder, 'sshd.conf')], { stdio: 'ignore' });
  await answering(port, child);
  const [, fingerprint] = execFileSync('ssh-keygen', ['-l', '-f', join(folder, 'host.pub')], {
    encoding: 'utf8',
  }).split(' ');
  return {
    absent: `sftp://127.0.0.1:${port}${root}/none`,
    login: {
      ...{ name: 'Peer', address: `sftp://127.0.0.1:${port}${root}`, user: userInfo().username },
      ...{ secret: readFileSync(join(folder, 'client'), 'utf8'), fingerprint: fingerprint! },
    },
    wrong: { secret: 'wrong' },
    bytesOfDelivery: 150_000,
    ...filesIn(root),
    stop: () => ended(child),
  };
}

/** vsftpd on loopback, which lets anybody in as `anonymous`; files go by ports of their own. */
export function startFtp(folder: string): Promise<Peer> {
  return startVsftpd(folder, 'ftp', []);
}

/** The same with TLS and a certificate that nobody vouches for; `fingerprint` is its fingerprint. */
export async function startFtps(folder: string): Promise<Peer> {
  const { key, certificate, fingerprint } = ownCertificate(folder);
  const tls = ['ssl_enable=YES', 'allow_anon_ssl=YES', 'force_anon_logins_ssl=YES', 'force_anon_data_ssl=YES'];
  const peer = await startVsftpd(folder, 'ftps', [
    ...tls,
    `rsa_cert_file=${certificate}`,
    `rsa_private_key_file=${key}`,
  ]);
  return { ...peer, login: { ...peer.login, fingerprint: fingerprint } };
}

/** Paths of a key and a certificate of it that nobody vouches for, and its fingerprint as openssl prints it. */
export function ownCertificate(folder: string): { key: string; certificate: string; fingerprint: string } {
  const [key, certificate] = [join(folder, 'tls.key'), join(folder, 'tls.pem')];
  const openssl = (...args: string[]): string => execFileSync('openssl', args, { encoding: 'utf8', stdio: 'pipe' });
  const made = ['req', '-x509', '-newkey', 'rsa:2048', '-nodes', '-days', '2', '-keyout', key, '-out', certificate];
  openssl(...made, '-subj', '/CN=peer', '-addext', 'subjectAltName=IP:127.0.0.1');
  const [, hex] = openssl('x509', '-in', certificate, '-noout', '-fingerprint', '-sha256').trim().split('=');
  const hash = Buffer.from(hex!.replaceAll(':', ''), 'hex').toString('base64').replace(/=+$/, '');
  return { key, certificate, fingerprint: `SHA256:${hash}` };
}

async function startVsftpd(folder: string, scheme: 'ftp' | 'ftps', settings: readonly string[]): Promise<Peer> {
  const [root, empty] = [join(folder, scheme), join(folder, 'empty')];
  for (const made of [join(root, 'in'), empty]) mkdirSync(made, { recursive: true });
  // It refuses a root that can be written to; a folder below it must be.
  chmodSync(root, 0o555);
  chmodSync(join(root, 'in'), 0o777);
  const port = await freePort();
  const lines = [
    ...['listen=YES', 'listen_address=127.0.0.1', `listen_port=${port}`, 'background=NO', 'seccomp_sandbox=NO'],
    ...['anonymous_enable=YES', 'no_anon_password=YES', `anon_root=${root}`, 'anon_umask=022', 'local_enable=NO'],
    ...['write_enable=YES', 'anon_upload_enable=YES', 'anon_mkdir_write_enable=YES', 'anon_other_write_enable=YES'],
    ...['anon_world_readable_only=NO', 'pasv_address=127.0.0.1', `secure_chroot_dir=${empty}`],
    ...['xferlog_enable=NO', ...(process.getuid?.() === 0 ? [] : ['run_as_launching_user=YES']), ...settings],
  ];
  const conf = join(folder, `${scheme}.conf`);
  writeFileSync(conf, `${lines.join('\n')}\n`);
  const child = spawn('/usr/sbin/vsftpd', [conf], { stdio: 'ignore' });
  await answering(port, child);
  const address = `${scheme}://127.0.0.1:${port}/in`;
  const files = filesIn(join(root, 'in'));
  return {
    login: { name: 'Peer', address, user: '', secret: '', fingerprint: null },
    wrong: { user: 'harbour', secret: 'wrong' },
    absent: address.replace('/in', '/none'),
    // Files go by other ports.
    bytesOfDelivery: scheme === 'ftp' ? 3000 : 12_000,
    ...files,
    place: async (path, text) => {
      await files.place(path, text);
      // It works as another user.
      for (let at = dirname(path); at !== '.'; at = dirname(at)) chmodSync(join(files.root, at), 0o777);
      chmodSync(join(files.root, path), 0o666);
    },
    stop: () => ended(child),
  };
}

/** nginx on loopback, which asks for user and password. */
export async function startDav(folder: string): Promise<Peer> {
  const root = join(folder, 'dav');
  mkdirSync(join(root, 'tmp'), { recursive: true });
  const port = await freePort();
  const password = 'quay 7';
  const hashed = execFileSync('openssl', ['passwd', '-apr1', password], { encoding: 'utf8' }).trim();
  writeFileSync(join(folder, 'users'), `folvex:${hashed}\n`);
  const temporary = ['proxy', 'fastcgi', 'uwsgi', 'scgi'].map((name) => `${name}_temp_path ${folder}/${name};`);
  const conf = `load_module /usr/lib/nginx/modules/ngx_http_dav_ext_module.so;
    pid ${folder}/nginx.pid; error_log ${folder}/nginx.log; daemon off; ${process.getuid?.() === 0 ? 'user root;' : ''}
    events {} http { access_log off; client_body_temp_path ${root}/tmp; ${temporary.join(' ')} dav_ext_lock_zone zone=l:1m;
    server { listen 127.0.0.1:${port}; location / { root ${root}; dav_methods PUT DELETE MKCOL COPY MOVE;
    auth_basic peer; auth_basic_user_file ${folder}/users; dav_ext_methods PROPFIND OPTIONS LOCK UNLOCK; dav_ext_lock zone=l;
    create_full_put_path on; client_max_body_size 0; } } }`;
  writeFileSync(join(folder, 'nginx.conf'), conf);
  const child = spawn('/usr/sbin/nginx', ['-p', folder, '-c', join(folder, 'nginx.conf')], { stdio: 'ignore' });
  await answering(port, child);
  return {
    absent: `http://127.0.0.1:${port}/none`,
    login: { name: 'Peer', address: `http://127.0.0.1:${port}`, user: 'folvex', secret: password, fingerprint: null },
    wrong: { secret: 'wrong' },
    bytesOfDelivery: 150_000,
    ...filesIn(root),
    stop: () => ended(child),
  };
}

/** s3rver on loopback, with what it lacks before it: conditional writes. */
export async function startS3(folder: string): Promise<Peer> {
  const bucket = new SharedFolder(join(folder, 's3', 'plans'));
  mkdirSync(bucket.root, { recursive: true });
  const { address, stop } = await startS3Server({ folder: bucket });
  const fileOf = (key: string): string => objectPath(bucket, key);
  const client = new Bucket({ ...bucketSettings(Number(new URL(address).port)), prefix: '' });
  return {
    login: { name: 'Peer', address, user: ACCESS_KEY, secret: SECRET, fingerprint: null },
    wrong: { user: 'NOBODY' },
    bytesOfDelivery: 150_000,
    absent: address.replace('plans', 'none'),
    root: bucket.root,
    content: (path) => (existsSync(fileOf(path)) ? readFileSync(fileOf(path)) : undefined),
    names: (path) =>
      readdirSync(bucket.at(path)).flatMap((name) => (/^(.*)\._S3rver_object$/.exec(name) ?? []).slice(1)),
    place: (path, text) => client.writeText(path, text),
    stop,
  };
}

const ACCOUNT = { user: 'folvex', password: 'quay 7' };

/** A stand-in as a peer; `start` begins it in a folder. */
async function standIn(
  folder: string,
  kind: string,
  bytesOfDelivery: number,
  start: (share: ShareOptions) => Promise<StandInServer>,
): Promise<Peer & { shared: SharedFolder }> {
  const shared = new SharedFolder(join(folder, kind));
  mkdirSync(shared.root, { recursive: true });
  const { address, fingerprint, stop } = await start({ folder: shared, account: ACCOUNT });
  return {
    login: { name: 'Peer', address, user: ACCOUNT.user, secret: ACCOUNT.password, fingerprint },
    wrong: { secret: 'wrong' },
    absent: `${address}/none`,
    ...{ bytesOfDelivery, stop, shared },
    ...filesIn(shared.root),
  };
}

export const startSftpStandIn = (folder: string) =>
  standIn(folder, 'sftp', 150_000, (share) => startSftpServer({ ...share, hostKey: newHostKey() }));
export const startFtpStandIn = (folder: string) => standIn(folder, 'ftp', 3000, startFtpServer);
export const startFtpsStandIn = (folder: string) =>
  standIn(folder, 'ftps', 12_000, async (share) => startFtpServer({ ...share, certificate: await newCertificate() }));
export const startDavStandIn = (folder: string) => standIn(folder, 'dav', 150_000, startDavServer);

export async function answering(port: number, child: ChildProcess): Promise<void> {
  while (child.exitCode === null) {
    const open = await new Promise<boolean>((resolve) => {
      const socket = connect(port, '127.0.0.1');
      socket.once('connect', () => {
        socket.destroy();
        resolve(true);
      });
      socket.once('error', () => resolve(false));
    });
    if (open) return;
    await new Promise((next) => setTimeout(next, 20));
  }
  throw new Error(`the server ended with ${child.exitCode}`);
}

export function ended(child: ChildProcess): Promise<void> {
  if (child.exitCode !== null || child.signalCode !== null) return Promise.resolve();
  return new Promise((resolve) => {
    child.once('exit', () => resolve());
    child.kill('SIGTERM');
  });
}

/** A proxy in front of another server. */
export interface BreakingProxy {
  port: number;
  /** Breaks the connections that are open; others can be made. */
  breakOff(): void;
  close(): void;
}

/** A proxy to a port that breaks its connections once so many bytes have gone through, in both directions together. */
export async function breakingProxy(port: number, bytes: number): Promise<BreakingProxy> {
  let left = bytes;
  const sockets = new Set<Socket>();
  const server = createServer((near) => {
    const far = connect(port, '127.0.0.1');
    const cut = (): void => {
      near.destroy();
      far.destroy();
    };
    for (const [from, to] of [
      [near, far],
      [far, near],
    ] as const) {
      sockets.add(from);
      from.on('error', cut);
      from.on('close', cut);
      from.on('data', (chunk: Buffer) => {
        to.write(chunk.subarray(0, Math.max(0, left)));
        left -= chunk.length;
        if (left <= 0) cut();
      });
    }
  });
  const breakOff = (): void => {
    for (const socket of sockets) socket.destroy();
  };
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  return {
    port: (server.address() as AddressInfo).port,
    breakOff,
    close: () => {
      breakOff();
      server.close();
    },
  };
}
