import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { posix } from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { ReportedHash } from '@folvex/core';
import { createClient, type FileStat, type WebDAVClient, type WebDAVClientError } from 'webdav';
import {
  isUnfinished,
  LEFTOVER_MS,
  namedIn,
  partsOf,
  refuseShort,
  unfinishedName,
  type TransferLogin,
} from './transfer-login';
import { filesBelow } from './files-below';
import { digestIn, refuseMismatch } from './reported-hash';
import type { TransferPort } from './port';

/** The client of a WebDAV server (RFC 4918), with the folder that its address names as root. */
export function webDavClient({ address, user, secret }: TransferLogin): WebDAVClient {
  return createClient(address.replace(/\/+$/, ''), user ? { username: user, password: secret } : {});
}

/** A folder on a WebDAV server; it is created when it is not there. */
export function webDavDestination(login: TransferLogin, below: string): TransferPort {
  const client = webDavClient(login);
  const { folder } = partsOf(login.address);
  const base = posix.join('/', below);
  const pathOf = (path: string): string => posix.join(base, path);
  const made = new Set<string>();
  const makeFolder = async (path: string): Promise<void> => {
    if (made.has(path) || path === '/') return;
    if (!(await client.exists(path))) {
      await makeFolder(posix.dirname(path));
      // Two may make it at once; the later one is told that it is there (RFC 4918, 9.3.1).
      await client.createDirectory(path).catch((error: unknown) => {
        if ((error as WebDAVClientError).status !== 405) throw error;
      });
    } else {
      // What connections that broke off left long ago.
      const old = Date.now() - LEFTOVER_MS;
      for (const { basename, filename, lastmod } of (await client.getDirectoryContents(path)) as FileStat[])
        if (isUnfinished(basename) && Date.parse(lastmod) < old) await client.deleteFile(filename);
    }
    made.add(path);
  };
  const { href: where } = new URL(posix.join(folder || '/', base), login.address);
  return {
    where,
    list: (paths) =>
      namedIn(paths, async (name) => {
        const found = (await client.getDirectoryContents(pathOf(name)).catch(nothingWhereAbsent)) as FileStat[];
        return found.map(({ basename }) => basename);
      }),
    hashOf: async (path) => {
      const found = await client.stat(pathOf(path)).catch(nothingWhereAbsent);
      if (Array.isArray(found)) return undefined;
      if ((found as FileStat).type !== 'file') return 'other';
      const reported = await askForHash(client, pathOf(path));
      if (reported?.algorithm === 'SHA-256') return reported.hex;
      const hash = createHash('sha256');
      await pipeline(client.createReadStream(pathOf(path)) as unknown as NodeJS.ReadableStream, hash);
      return hash.digest('hex');
    },
    put: async (file, { replace }) => {
      const { from, path } = file;
      const target = pathOf(path);
      const unfinished = posix.join(posix.dirname(target), unfinishedName());
      await makeFolder(posix.dirname(target));
      try {
        const { size } = await stat(from);
        await client.putFileContents(unfinished, createReadStream(from), { contentLength: size });
        refuseShort(((await client.stat(unfinished)) as FileStat).size, size);
        await refuseMismatch(await askForHash(client, unfinished), file);
        await client.moveFile(unfinished, target, { overwrite: replace });
        return true;
      } catch (error) {
        await client.deleteFile(unfinished).catch(() => undefined);
        // Precondition failed: the name is taken (RFC 4918, 9.9.4).
        if (!replace && (error as WebDAVClientError).status === 412) return false;
        throw error;
      }
    },
    find: async (path) => {
      const found = await client.stat(pathOf(path)).catch(nothingWhereAbsent);
      if (Array.isArray(found)) return undefined;
      const { size, lastmod } = found as FileStat;
      return { bytes: size, writtenAt: Date.parse(lastmod) };
    },
    reportedHash: (path) => askForHash(client, pathOf(path)),
    rename: async (path, to) => {
      try {
        await client.moveFile(pathOf(path), pathOf(to), { overwrite: false });
        return true;
      } catch (error) {
        if ((error as WebDAVClientError).status === 412) return false;
        throw error;
      }
    },
    files: () =>
      filesBelow(where, async (below) => {
        const found = await client.getDirectoryContents(pathOf(below)).catch(undefinedWhereAbsent);
        return (found as FileStat[] | undefined)?.map(({ basename, type, size, lastmod }) => ({
          ...{ name: basename, bytes: size, writtenAt: Date.parse(lastmod) },
          kind: type === 'file' ? 'file' : 'folder',
        }));
      }),
    copyTo: (path, into) => pipeline(client.createReadStream(pathOf(path)) as unknown as NodeJS.ReadableStream, into),
    close: () => Promise.resolve(),
  };
}

/** The hash of a file as the server reports it (RFC 9530, or RFC 3230 before it); undefined where it reports none. */
async function askForHash(client: WebDAVClient, path: string): Promise<ReportedHash | undefined> {
  const wanted = { 'Want-Repr-Digest': 'sha-256=10, sha-512=5', 'Want-Digest': 'SHA-256, SHA-512;q=0.5' };
  const answer = await client.customRequest(path, { method: 'HEAD', headers: wanted }).catch((error: unknown) => {
    // A server that refuses the question has the file all the same.
    if ((error as WebDAVClientError).status === undefined) throw error;
    return undefined;
  });
  return answer && digestIn(answer.headers.get('Repr-Digest') ?? answer.headers.get('Digest') ?? '');
}

/** Undefined for what is not there; any other error goes on. */
function undefinedWhereAbsent(error: unknown): undefined {
  if ((error as WebDAVClientError).status !== 404) throw error;
}

/** An empty list for what is not there; any other error goes on. */
function nothingWhereAbsent(error: unknown): never[] {
  undefinedWhereAbsent(error);
  return [];
}
