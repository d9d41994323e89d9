import { stat } from 'node:fs/promises';
import { posix } from 'node:path';
import type { SFTPWrapper } from 'ssh2';
import Client from 'ssh2-sftp-client';
import {
  HashSink,
  isUnfinished,
  LEFTOVER_MS,
  namedIn,
  partsOf,
  refuseShort,
  StepFailed,
  unfinishedName,
  type TransferLogin,
} from './transfer-login';
import { filesBelow } from './files-below';
import { fingerprintOf, notAccepted } from './trust';
import type { TransferPort } from './port';

/** How long a server may take to answer, ms. */
const ANSWER_MS = 20_000;
/** How long until files can be sent, and how long a connection is waited for that is being ended, ms. */
const [CONNECT_MS, END_MS] = [30_000, 2_000];

/** The other side has ended the connection, or nothing of it is left. */
const LOST_EVENTS = ['end', 'close'] as const;

/** An SFTP connection whose host key is the accepted one. */
export interface SftpSession {
  client: Client;
  /** Waits for something that is being done, no longer than the connection lasts. */
  within<T>(doing: Promise<T>): Promise<T>;
  /** Fingerprint of the host key, as OpenSSH prints it. */
  fingerprint: string;
  /** Bytes that are free for us where a folder is; undefined where the server does not tell. */
  room(folder: string): Promise<number | undefined>;
  end(): Promise<void>;
}

/**
 * Connects and signs in. Rejects with a `StepFailed` that says at which step: connection, host key or sign-in. A host key
 * that is not the accepted one is never signed in to.
 */
export async function connectSftp(login: TransferLogin): Promise<SftpSession> {
  const { name, address, user, secret, fingerprint } = login;
  const { host, port } = partsOf(address);
  // Without them the library writes these events to the console.
  const ignore = (): void => undefined;
  const client = new Client('folvex', { error: ignore, end: ignore, close: ignore });
  // Errors of a connection that breaks show in what is being done; without a listener they would end the process.
  client.on('error', () => undefined);
  let shown = '';
  let session: SFTPWrapper;
  const key = secret.includes('PRIVATE KEY-----') ? { privateKey: inLines(secret) } : { password: secret };
  try {
    const connecting = client.connect({
      ...{ host, port, username: user, ...key, readyTimeout: ANSWER_MS },
      hostVerifier: (key: Buffer) => {
        shown = fingerprintOf(key);
        return shown === fingerprint;
      },
    });
    session = await Promise.race([connecting, timeout(CONNECT_MS)]);
  } catch (error) {
    const { message, code = message } = error as Error & { code?: string };
    await endQuietly(client);
    if (shown === '') throw new StepFailed('connection', `${host}:${port} does not answer (${code}).`);
    if (shown !== fingerprint) throw notAccepted('host key', login, shown);
    throw new StepFailed(
      'sign-in',
      `${name} refused to sign in ${user || 'nobody'} (${message}); check the user name and the password.`,
    );
  }
  // What is pending when a connection breaks off is answered by nobody.
  const lost = new Promise<never>((_, reject) => {
    for (const event of LOST_EVENTS) client.on(event, () => reject(new Error('the connection broke off')));
  });
  lost.catch(() => undefined);
  const within = <T>(doing: Promise<T>): Promise<T> => {
    doing.catch(() => undefined);
    return Promise.race([doing, lost]);
  };
  const room = (folder: string): Promise<number | undefined> => within(roomIn(session, folder));
  return { client, within, fingerprint: shown, room, end: () => endQuietly(client) };
}

/** By the extension `statvfs@openssh.com`, which OpenSSH's PROTOCOL describes. */
function roomIn(session: SFTPWrapper, folder: string): Promise<number | undefined> {
  return new Promise((resolve) => {
    try {
      session.ext_openssh_statvfs(folder, (error, found: Record<'f_bavail' | 'f_frsize', number | bigint>) => {
        resolve(error ? undefined : Number(found.f_bavail) * Number(found.f_frsize));
      });
    } catch {
      // A server without the extension.
      resolve(undefined);
    }
  });
}

/** A private key as it is in its file, also where a field of one line took its line breaks (RFC 7468). */
function inLines(key: string): string {
  const [, label, content] = /^-----BEGIN ([A-Z ]+)-----([\s\S]+?)-----END/.exec(key.trim()) ?? [];
  if (label === undefined || content === undefined) return key;
  const lines = content.replace(/\s/g, '').match(/.{1,64}/g) ?? [];
  return [`-----BEGIN ${label}-----`, ...lines, `-----END ${label}-----`, ''].join('\n');
}

/** Ends a connection; one that is broken has no end to wait for. */
async function endQuietly(client: Client): Promise<void> {
  await Promise.race([client.end(), timeout(END_MS)]).catch(() => undefined);
}

/** Rejects after a time, ms. */
function timeout(milliseconds: number): Promise<never> {
  return new Promise((_, reject) => {
    setTimeout(() => reject(new Error('it takes too long')), milliseconds).unref();
  });
}

/** A folder on an SFTP server; it is created when it is not there. */
export function sftpDestination(login: TransferLogin, below: string): TransferPort {
  const { host, port, folder } = partsOf(login.address);
  const base = posix.join(folder || '.', below);
  const pathOf = (path: string): string => posix.join(base, path);
  let session: Promise<SftpSession> | undefined;
  const connected = (): Promise<SftpSession> => {
    session ??= connectSftp(login).then(
      (begun) => {
        // A connection that ended is not used again: the next file begins another.
        for (const event of LOST_EVENTS) begun.client.on(event, () => (session = undefined));
        return begun;
      },
      (error: unknown) => {
        session = undefined;
        throw error;
      },
    );
    return session;
  };
  const made = new Set<string>();
  const where = `sftp://${host}:${port}${posix.join('/', base)}`;
  return {
    where,
    list: (paths) =>
      namedIn(paths, async (folder) => {
        const { client, within } = await connected();
        const path = pathOf(folder);
        if ((await within(client.exists(path))) !== 'd') return [];
        return (await within(client.list(path))).map(({ name }) => name);
      }),
    hashOf: async (path) => {
      const { client, within } = await connected();
      const type = await within(client.exists(pathOf(path)));
      if (type === false) return undefined;
      if (type !== '-') return 'other';
      const sink = new HashSink();
      await within(client.get(pathOf(path), sink));
      return sink.digest();
    },
    put: async ({ from, path }, { replace }) => {
      const { client, within } = await connected();
      const target = pathOf(path);
      const unfinished = posix.join(posix.dirname(target), unfinishedName());
      if (!made.has(posix.dirname(target))) await within(makeFolder(client, posix.dirname(target)));
      made.add(posix.dirname(target));
      try {
        await within(client.fastPut(from, unfinished));
        refuseShort((await within(client.stat(unfinished))).size, (await stat(from)).size);
        if (replace) await within(renameOver(client, unfinished, target));
        // Plain renaming takes no name that is taken (draft-ietf-secsh-filexfer-02, 6.5).
        else await within(client.rename(unfinished, target));
        return true;
      } catch (error) {
        await within(client.delete(unfinished, true)).catch(() => undefined);
        if (!replace && (await within(client.exists(target)))) return false;
        throw error;
      }
    },
    find: async (path) => {
      const { client, within } = await connected();
      if (!(await within(client.exists(pathOf(path))))) return undefined;
      const { size, modifyTime } = await within(client.stat(pathOf(path)));
      return { bytes: size, writtenAt: modifyTime };
    },
    // OpenSSH's server knows no `check-file` (draft-ietf-secsh-filexfer-extensions-00).
    reportedHash: () => Promise.resolve(undefined),
    rename: async (path, to) => {
      const { client, within } = await connected();
      try {
        await within(client.rename(pathOf(path), pathOf(to)));
        return true;
      } catch (error) {
        if (await within(client.exists(pathOf(to)))) return false;
        throw error;
      }
    },
    files: () =>
      filesBelow(where, async (folder) => {
        const { client, within } = await connected();
        const path = pathOf(folder);
        if ((await within(client.exists(path))) !== 'd') return undefined;
        return (await within(client.list(path))).map(({ name, type, size, modifyTime }) => ({
          ...{ name, bytes: size, writtenAt: modifyTime },
          kind: type === '-' ? 'file' : type === 'd' ? 'folder' : 'other',
        }));
      }),
    copyTo: async (path, into) => {
      const { client, within } = await connected();
      await within(client.get(pathOf(path), into));
    },
    close: async () => {
      await (await session?.catch(() => undefined))?.end();
      session = undefined;
    },
  };
}

/** Renames a file over the one that has its name. Servers without OpenSSH's extension for this have that one removed first. */
async function renameOver(client: Client, from: string, to: string): Promise<void> {
  try {
    await client.posixRename(from, to);
  } catch (error) {
    if (!(error as Error).message.includes('does not support this extended request')) throw error;
    await client.delete(to, true);
    await client.rename(from, to);
  }
}

/** Makes a folder where there is none; removes from it what connections that broke off left long ago. */
async function makeFolder(client: Client, folder: string): Promise<void> {
  if ((await client.exists(folder)) !== 'd') {
    await client.mkdir(folder, true).catch(async (error: unknown) => {
      // Somebody else made it at the same time, or a folder on the way to it.
      if ((await client.exists(folder)) !== 'd') await client.mkdir(folder, true);
      if ((await client.exists(folder)) !== 'd') throw error;
    });
    return;
  }
  const old = Date.now() - LEFTOVER_MS;
  for (const { name, modifyTime } of await client.list(folder, ({ name: one }) => isUnfinished(one)))
    if (modifyTime < old) await client.delete(posix.join(folder, name), true);
}
