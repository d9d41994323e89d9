import { createServer, request, type IncomingMessage } from 'node:http';
import type { AddressInfo } from 'node:net';
import S3rver from 's3rver';
import type { BucketSettings } from '../../src/files/bucket';

/** Who may use the bucket: the one account that s3rver has. */
export const [ACCESS_KEY, SECRET] = ['S3RVER', 'S3RVER'];

/** An S3-compatible service (s3rver) with one bucket, whose objects lie in a folder. */
export async function startBucket(directory: string): Promise<{ port: number; close(): Promise<void> }> {
  const service = new S3rver({
    ...{ address: '127.0.0.1', port: 0, silent: true, directory },
    configureBuckets: [{ name: 'plans' }],
  });
  const { port } = await service.run();
  return { port, close: () => service.close() };
}

export function bucketSettings(port: number, bucket = 'plans'): BucketSettings {
  const endpoint = `http://127.0.0.1:${port}`;
  return { endpoint, bucket, prefix: 'folvex/', region: 'us-east-1', accessKeyId: ACCESS_KEY, secretAccessKey: SECRET };
}

/** What happens to a request on its way: it is answered with 503, or its answer breaks off after some bytes. */
type Fault = 'refuse' | 'break' | undefined;

/** A proxy to a service that is not always well; `faultOf` decides for each request. */
export async function faultyProxy(
  port: number,
  faultOf: (request: IncomingMessage) => Fault,
): Promise<{ port: number; close(): void }> {
  const server = createServer((incoming, answer) => {
    const fault = faultOf(incoming);
    if (fault === 'refuse') {
      incoming.resume();
      return void answer.writeHead(503).end('<Error><Code>SlowDown</Code></Error>');
    }
    const { method, url, headers } = incoming;
    const outgoing = request({ host: '127.0.0.1', port, method, path: url, headers }, (found) => {
      answer.writeHead(found.statusCode!, found.headers);
      if (fault === undefined) return void found.pipe(answer);
      found.once('data', (chunk: Buffer) => {
        answer.write(chunk.subarray(0, chunk.length / 2), () => answer.destroy());
        found.destroy();
      });
    });
    outgoing.on('error', () => answer.destroy());
    incoming.pipe(outgoing);
  });
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  return { port: (server.address() as AddressInfo).port, close: () => void server.close() };
}

/**
 * A proxy with two habits that services have and s3rver has not: a write of a key that is taken is answered with 412
 * where it is only to be written if it is free, and one whose bytes did not all arrive is none.
 */
export async function conditionalProxy(
  port: number,
  isTaken: (url: string) => boolean,
): Promise<{ port: number; close(): void }> {
  /** The last write of each key, after which the next one begins. */
  const writes = new Map<string, Promise<void>>();
  const server = createServer((incoming, answer) => {
    const { method, url = '', headers } = incoming;
    const pass = (body: readonly Buffer[]): Promise<void> =>
      new Promise((done) => {
        answer.on('close', done);
        if (answer.destroyed) return done();
        if (headers['if-none-match'] === '*' && isTaken(url))
          return void answer.writeHead(412).end('<Error><Code>PreconditionFailed</Code></Error>');
        const outgoing = request({ host: '127.0.0.1', port, method, path: url, headers }, (found) => {
          answer.writeHead(found.statusCode!, found.headers);
          found.pipe(answer);
        });
        outgoing.on('error', () => answer.destroy());
        outgoing.end(Buffer.concat(body));
      });
    const body: Buffer[] = [];
    incoming.on('data', (chunk: Buffer) => body.push(chunk));
    incoming.on('error', () => answer.destroy());
    incoming.on('end', () => {
      if (method !== 'PUT') return void pass(body);
      writes.set(
        url,
        (writes.get(url) ?? Promise.resolve()).then(() => pass(body)),
      );
    });
  });
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  return { port: (server.address() as AddressInfo).port, close: () => void server.close() };
}
