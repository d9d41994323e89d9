import { createHash } from 'node:crypto';
import { existsSync } from 'node:fs';
import { createServer, request, type IncomingMessage, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { basename, dirname } from 'node:path';
import S3rver from 's3rver';
import type { Account, SharedFolder, StandInServer } from './shared-folder';

/** Who may use a bucket: the one account that s3rver has. */
export const S3_ACCOUNT: Account = { user: 'S3RVER', password: 'S3RVER' };
/** What comes after the name of a file in which s3rver keeps an object. */
const OBJECT_SUFFIX = '._S3rver_object';

/** An S3-compatible service (s3rver) with one bucket, whose objects lie in a folder. */
export async function startBucket(
  directory: string,
  bucket = 'plans',
): Promise<{ port: number; close(): Promise<void> }> {
  const service = new S3rver({
    ...{ address: '127.0.0.1', port: 0, silent: true, directory },
    configureBuckets: [{ name: bucket }],
  });
  const { port } = await service.run();
  return { port, close: () => service.close() };
}

/** Where on this machine the object of a key lies. */
export function objectPath(bucket: SharedFolder, key: string): string {
  return `${bucket.at(key)}${OBJECT_SUFFIX}`;
}

/**
 * A bucket, with habits that services have and s3rver has not: a write of a key that is taken is answered with 412 where it
 * is only to be written if it is free (`If-None-Match: *`; Amazon S3 API, PutObject), one write of a key after the other;
 * one whose bytes did not all arrive, or whose SHA-256 is not the stated one, does not count; the stated SHA-256 is reported
 * afterwards (`x-amz-checksum-sha256`). `folder`: that of the bucket, which is called as the folder is.
 */
export async function startS3Server({
  folder,
  port = 0,
}: {
  folder: SharedFolder;
  port?: number;
}): Promise<StandInServer> {
  const bucket = basename(folder.root);
  const service = await startBucket(dirname(folder.root), bucket);
  /** The last write of each key, after which the next one begins. */
  const writes = new Map<string, Promise<void>>();
  /** The stated SHA-256 of objects in Base64, by key. */
  const checksums = new Map<string, string>();
  const server = createServer((incoming, answer) => {
    const { method, url = '' } = incoming;
    const key = decodeURIComponent(new URL(url, 'http://s3').pathname).slice(bucket.length + 2);
    const isTaken = (): boolean => existsSync(objectPath(folder, key));
    const isRefused = folder.faults.has('refuses');
    if (isRefused || (method === 'PUT' && folder.faults.has('full'))) {
      incoming.resume();
      return isRefused ? refuse(answer, 403, 'AccessDenied') : refuse(answer, 400, 'QuotaExceeded');
    }
    bodyOf(folder, incoming).then(
      (body) => {
        const pass = (): Promise<void> =>
          passOn({ port: service.port, incoming, answer, body, isTaken, checksums, key });
        if (method !== 'PUT') return void pass();
        writes.set(url, (writes.get(url) ?? Promise.resolve()).then(pass));
      },
      // It is to break off, or did.
      () => answer.destroy(),
    );
  });
  await new Promise<void>((listening) => server.listen(port, '127.0.0.1', listening));
  return {
    address: `s3+http://127.0.0.1:${(server.address() as AddressInfo).port}/${bucket}`,
    fingerprint: null,
    stop: async () => {
      server.closeAllConnections();
      await new Promise<void>((closed) => server.close(() => closed()));
      await service.close();
    },
  };
}

async function bodyOf(folder: SharedFolder, incoming: IncomingMessage): Promise<Buffer> {
  const chunks: Buffer[] = [];
  let bytes = 0;
  for await (const chunk of incoming as AsyncIterable<Buffer>) {
    chunks.push(incoming.method === 'PUT' ? await folder.take(chunk, bytes) : chunk);
    bytes += chunk.length;
  }
  return Buffer.concat(chunks);
}

function refuse(answer: ServerResponse, status: number, code: string): void {
  answer.writeHead(status, { 'Content-Type': 'application/xml' }).end(`<Error><Code>${code}</Code></Error>`);
}

interface Passed {
  port: number;
  incoming: IncomingMessage;
  answer: ServerResponse;
  body: Buffer;
  isTaken(): boolean;
  key: string;
  checksums: Map<string, string>;
}

const CHECKSUM = 'x-amz-checksum-sha256';

/** Resolves once the answer is over. */
function passOn({ port, incoming, answer, body, isTaken, key, checksums }: Passed): Promise<void> {
  const { method, url, headers } = incoming;
  return new Promise((done) => {
    answer.on('close', done);
    if (answer.destroyed) return done();
    if (headers['if-none-match'] === '*' && isTaken()) return refuse(answer, 412, 'PreconditionFailed');
    const stated = headers[CHECKSUM];
    if (method === 'PUT') {
      checksums.delete(key);
      if (typeof stated === 'string') {
        if (stated !== createHash('sha256').update(body).digest('base64')) return refuse(answer, 400, 'BadDigest');
        checksums.set(key, stated);
      }
    }
    const checksum = headers['x-amz-checksum-mode'] === 'ENABLED' ? checksums.get(key) : undefined;
    if (checksum !== undefined) answer.setHeader(CHECKSUM, checksum);
    const outgoing = request({ host: '127.0.0.1', port, method, path: url, headers }, (found) => {
      answer.writeHead(found.statusCode!, found.headers);
      found.pipe(answer);
    });
    outgoing.on('error', () => answer.destroy());
    outgoing.end(body);
  });
}
