import { createHash } from 'node:crypto';
import { createReadStream, createWriteStream, type Stats } from 'node:fs';
import { mkdir, rename, rm, stat } from 'node:fs/promises';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { posix } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { escaped } from '../html';
import { NotTaken, type Account, type ShareOptions, type StandInServer } from './shared-folder';

/** A WebDAV server (RFC 4918) without locks that reports hashes (RFC 9530) which asks for user and password (RFC 7617). */
export async function startDavServer({ account, folder, port = 0 }: ShareOptions): Promise<StandInServer> {
  const server = createServer((request, response) => {
    if (!isSignedIn(account, request) || folder.faults.has('refuses')) return refuse(request, response);
    answerTo(folder, request, response).catch((error: NodeJS.ErrnoException) => {
      // The connection broke off with the file.
      if (error instanceof NotTaken) return void response.destroy();
      const status = error.code === 'ENOENT' ? 404 : 500;
      request.resume();
      if (!response.headersSent) response.writeHead(status).end();
    });
  });
  await new Promise<void>((listening) => server.listen(port, '127.0.0.1', listening));
  return {
    address: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    fingerprint: null,
    stop: () => {
      server.closeAllConnections();
      return new Promise((closed) => server.close(() => closed()));
    },
  };
}

function isSignedIn({ user, password }: Account, { headers }: IncomingMessage): boolean {
  return headers.authorization === `Basic ${Buffer.from(`${user}:${password}`).toString('base64')}`;
}

function refuse(request: IncomingMessage, response: ServerResponse): void {
  request.resume();
  response.writeHead(401, { 'WWW-Authenticate': 'Basic realm="stand-in"' }).end();
}

async function answerTo(
  folder: ShareOptions['folder'],
  request: IncomingMessage,
  response: ServerResponse,
): Promise<void> {
  const pathOf = (url: string): string => decodeURIComponent(new URL(url, 'http://dav').pathname);
  const path = pathOf(request.url ?? '/');
  const file = folder.at(path);
  const end = (status: number): void => void response.writeHead(status).end();
  if (request.method !== 'PUT') request.resume();
  switch (request.method) {
    case 'OPTIONS':
      response.setHeader('DAV', '1');
      return end(200);
    case 'PROPFIND': {
      const found = [[path, await stat(file)] as const];
      if (found[0]![1].isDirectory() && request.headers['depth'] !== '0')
        for (const { name, stats } of await folder.entries(path)) found.push([posix.join(path, name), stats]);
      response.writeHead(207, { 'Content-Type': 'application/xml; charset=utf-8' });
      return void response.end(multistatus(found));
    }
    case 'HEAD':
      response.setHeader('Content-Length', (await stat(file)).size);
      if (/\bsha-256\b/.test(String(request.headers['want-repr-digest']))) {
        const hash = createHash('sha256');
        await pipeline(createReadStream(file), hash);
        response.setHeader('Repr-Digest', `sha-256=:${hash.digest('base64')}:`);
      }
      return end(200);
    case 'GET':
      if ((await stat(file)).isDirectory()) return end(405);
      response.writeHead(200, { 'Content-Type': 'application/octet-stream' });
      return pipeline(createReadStream(file), response);
    case 'PUT':
      if (folder.faults.has('full')) {
        request.resume();
        return end(507);
      }
      await pipeline(request, folder.intake(), createWriteStream(file));
      return end(201);
    case 'DELETE':
      await stat(file);
      await rm(file, { recursive: true });
      return end(204);
    case 'MKCOL':
      return mkdir(file).then(
        () => end(201),
        (error: NodeJS.ErrnoException) => end(error.code === 'EEXIST' ? 405 : 409),
      );
    case 'MOVE': {
      const to = pathOf(String(request.headers['destination']));
      if (request.headers['overwrite'] !== 'F') {
        await rename(file, folder.at(to));
        return end(204);
      }
      return folder.renameToFree(path, to).then(
        () => end(201),
        (error: NodeJS.ErrnoException) => {
          // The name is taken (RFC 4918, 9.9.4).
          if (error.code !== 'EEXIST') throw error;
          end(412);
        },
      );
    }
    default:
      return end(405);
  }
}

/** What there is under some paths (RFC 4918, 9.1). */
function multistatus(found: readonly (readonly [path: string, stats: Stats])[]): string {
  const responses = found.map(([path, stats]) => {
    const type = stats.isDirectory() ? '<D:collection/>' : '';
    return `<D:response><D:href>${escaped(encodeURI(path))}</D:href><D:propstat><D:prop>
      <D:resourcetype>${type}</D:resourcetype><D:getcontentlength>${stats.size}</D:getcontentlength>
      <D:getlastmodified>${stats.mtime.toUTCString()}</D:getlastmodified></D:prop>
      <D:status>HTTP/1.1 200 OK</D:status></D:propstat></D:response>`;
  });
  return `<?xml version="1.0" encoding="utf-8"?><D:multistatus xmlns:D="DAV:">${responses.join('')}</D:multistatus>`;
}
