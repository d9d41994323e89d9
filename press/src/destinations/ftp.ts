import { stat } from 'node:fs/promises';
import { isIP } from 'node:net';
import { posix } from 'node:path';
import type { ConnectionOptions, TLSSocket } from 'node:tls';
import { isActiveFtp, type ReportedHash } from '@folvex/core';
import { Client, FileType, FTPError, type FileInfo } from 'basic-ftp';
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
import { makeActive } from './active-ftp';
import { hashCommandFrom, hashIn, refuseMismatch, type HashCommand } from './reported-hash';
import { filesBelow, type Entry } from './files-below';
import { certificateOf, trustOnly, type ShownCertificate } from './trust';
import type { TransferPort } from './port';

/** How long a server may take to answer, ms. */
const ANSWER_MS = 20_000;
/** Here TLS begins with the connection (IANA port numbers); elsewhere it is asked for (RFC 4217). */
const IMPLICIT_TLS_PORT = 990;
/** Code of a sign-in that is refused (RFC 959). */
const NOT_LOGGED_IN = 530;

/**
 * Connects and signs in. Rejects with a `StepFailed` that says at which step: connection, certificate or sign-in. A
 * certificate that is neither trusted nor the accepted one is never signed in to.
 */
export async function connectFtp(login: TransferLogin): Promise<{ client: Client; certificate?: ShownCertificate }> {
  const { name, user, secret, address } = login;
  let options: ConnectionOptions = {};
  let certificate: ShownCertificate | undefined;
  if (partsOf(address).scheme === 'ftps') {
    certificate = await shownCertificate(login);
    // An accepted one alone is trusted, for this connection and those of the files.
    options = trustOnly(login, certificate);
  }
  const client = await connected(login, options);
  try {
    await client.login(user || 'anonymous', secret);
    await client.useDefaultSettings();
    if (isActiveFtp(address)) makeActive(client);
    return { client, ...(certificate && { certificate }) };
  } catch (error) {
    client.close();
    if (!(error instanceof FTPError) || error.code !== NOT_LOGGED_IN) throw away(login, error);
    throw new StepFailed(
      'sign-in',
      `${name} refused to sign in ${user || 'nobody'} (${error.message}); check the user name and the password.`,
    );
  }
}

/** A connection that nobody has signed in to, with TLS where the address wants it. */
async function connected(login: TransferLogin, options: ConnectionOptions): Promise<Client> {
  const { scheme, host, port } = partsOf(login.address);
  const client = new Client(ANSWER_MS);
  // Addresses have no name that a certificate could be for (RFC 6066, 3).
  const secure = { ...(isIP(host) === 0 && { servername: host }), host, ...options };
  try {
    if (scheme === 'ftps' && port === IMPLICIT_TLS_PORT) await client.connectImplicitTLS(host, port, secure);
    else {
      await client.connect(host, port);
      if (scheme === 'ftps') await client.useTLS(secure);
    }
    return client;
  } catch (error) {
    client.close();
    throw away(login, error);
  }
}

async function shownCertificate(login: TransferLogin): Promise<ShownCertificate> {
  const client = await connected(login, { rejectUnauthorized: false });
  const certificate = certificateOf(client.ftp.socket as TLSSocket);
  client.close();
  return certificate;
}

function away({ address }: TransferLogin, error: unknown): StepFailed {
  const { host, port } = partsOf(address);
  const { message, code } = error as NodeJS.ErrnoException;
  const why = typeof code === 'string' ? code : message;
  return new StepFailed('connection', `${host}:${port} does not answer (${why}).`);
}

/**
 * A folder on an FTP server (RFC 959), by TLS where its address begins with `ftps` (RFC 4217); it is created when it is not
 * there. FTP cannot rename a file only where the name is free, so that is asked just before.
 */
export function ftpDestination(login: TransferLogin, below: string): TransferPort {
  const { scheme, host, port, folder } = partsOf(login.address);
  const base = posix.join('/', folder, below);
  const pathOf = (path: string): string => posix.join(base, path);
  let client: Client | undefined;
  let hashCommand: HashCommand | undefined;
  // A connection does one thing at a time.
  let last: Promise<unknown> = Promise.resolve();
  const use = <T>(work: (on: Client) => Promise<T>): Promise<T> => {
    const next = last.then(async () => {
      if (!client || client.closed) {
        ({ client } = await connectFtp(login));
        hashCommand = await chosenHashCommand(client);
      }
      return work(client);
    });
    last = next.catch(() => undefined);
    return next;
  };
  const askForHash = async (on: Client, path: string): Promise<ReportedHash | undefined> => {
    if (!hashCommand) return undefined;
    const { code, message } = await on.sendIgnoringError(`${hashCommand.verb} ${path}`);
    return code < 300 ? hashIn(message, hashCommand.algorithm) : undefined;
  };
  const made = new Set<string>();
  const where = `${scheme}://${host}:${port}${base}`;
  return {
    where,
    list: (paths) =>
      namedIn(paths, (name) => use(async (on) => (await entries(on, pathOf(name))).map((entry) => entry.name))),
    hashOf: (path) =>
      use(async (on) => {
        const found = await entryOf(on, pathOf(path));
        if (!found) return undefined;
        if (found.type !== FileType.File) return 'other';
        const reported = await askForHash(on, pathOf(path));
        if (reported?.algorithm === 'SHA-256') return reported.hex;
        const sink = new HashSink();
        await on.downloadTo(sink, pathOf(path));
        return sink.digest();
      }),
    put: (file, { replace }) =>
      use(async (on) => {
        const { from, path } = file;
        const target = pathOf(path);
        const unfinished = posix.join(posix.dirname(target), unfinishedName());
        if (!made.has(posix.dirname(target))) await makeFolder(on, posix.dirname(target));
        made.add(posix.dirname(target));
        try {
          await on.uploadFrom(from, unfinished);
          refuseShort(await on.size(unfinished), (await stat(from)).size);
          await refuseMismatch(await askForHash(on, unfinished), file);
          if (replace) await renameOver(on, unfinished, target);
          else if (!(await renamedToFree(on, unfinished, target))) {
            await on.remove(unfinished);
            return false;
          }
          return true;
        } catch (error) {
          if (!on.closed) await on.remove(unfinished).catch(() => undefined);
          throw error;
        }
      }),
    find: (path) =>
      use(async (on) => {
        const found = await entryOf(on, pathOf(path));
        if (!found) return undefined;
        const written = found.modifiedAt ?? (await on.lastMod(pathOf(path)));
        return { bytes: found.size, writtenAt: written.getTime() };
      }),
    reportedHash: (path) => use((on) => askForHash(on, pathOf(path))),
    rename: (path, to) => use((on) => renamedToFree(on, pathOf(path), pathOf(to))),
    files: () =>
      filesBelow(where, (folder) =>
        use(async (on) => {
          // Some servers answer with an empty list where there is no folder.
          if (folder === '' && base !== '/' && !(await entryOf(on, base))) return undefined;
          const found = await entries(on, pathOf(folder));
          const listed: Entry[] = [];
          for (const { name, type, size, modifiedAt } of found) {
            const kind = type === FileType.File ? 'file' : type === FileType.Directory ? 'folder' : 'other';
            // Servers without MLSD (RFC 3659) list no dates that a program can rely on.
            const written =
              modifiedAt ?? (kind === 'file' ? await on.lastMod(pathOf(posix.join(folder, name))) : undefined);
            listed.push({ name, kind, bytes: size, writtenAt: written?.getTime() ?? 0 });
          }
          return listed;
        }),
      ),
    copyTo: (path, into) => use(async (on) => void (await on.downloadTo(into, pathOf(path)))),
    close: async () => {
      await last;
      client?.close();
      client = undefined;
    },
  };
}

/** The command that asks a server for hashes, once it has been told which algorithm to use. */
async function chosenHashCommand(client: Client): Promise<HashCommand | undefined> {
  const command = hashCommandFrom(await client.features());
  if (command?.choice) await client.sendIgnoringError(command.choice);
  return command;
}

/** What is in a folder; nothing where there is none. */
async function entries(client: Client, folder: string): Promise<FileInfo[]> {
  return client.list(folder).catch((error: unknown) => {
    if (error instanceof FTPError && isAbsent(error)) return [];
    throw error;
  });
}

/** The file that a path names, or what else is there. */
async function entryOf(client: Client, path: string): Promise<FileInfo | undefined> {
  return (await entries(client, posix.dirname(path))).find(({ name }) => name === posix.basename(path));
}

/** Not found, or no access (RFC 959: 550, or 450 while it is busy). */
function isAbsent({ code }: FTPError): boolean {
  return code === 550 || code === 450;
}

async function renamedToFree(client: Client, from: string, to: string): Promise<boolean> {
  if (await entryOf(client, to)) return false;
  await client.rename(from, to);
  return true;
}

/** Renames over what has the name. Servers that refuse that have it removed first. */
async function renameOver(client: Client, from: string, to: string): Promise<void> {
  try {
    await client.rename(from, to);
  } catch (error) {
    if (!(error instanceof FTPError)) throw error;
    await client.remove(to);
    await client.rename(from, to);
  }
}

/** Makes a folder where there is none; removes from it what connections that broke off left long ago. */
async function makeFolder(client: Client, folder: string): Promise<void> {
  if (folder === '/') return;
  const found = await entryOf(client, folder);
  if (!found) {
    await makeFolder(client, posix.dirname(folder));
    // Somebody else may make it at the same time.
    await client.send(`MKD ${folder}`, true);
    if (!(await entryOf(client, folder))) throw new Error(`the folder ${folder} cannot be created`);
    return;
  }
  const old = Date.now() - LEFTOVER_MS;
  for (const { name, modifiedAt } of await entries(client, folder)) {
    if (!isUnfinished(name)) continue;
    const written = modifiedAt ?? (await client.lastMod(posix.join(folder, name)));
    if (written.getTime() < old) await client.remove(posix.join(folder, name));
  }
}
