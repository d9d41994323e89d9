import { createServer, request, type IncomingMessage } from 'node:http';
import type { AddressInfo } from 'node:net';
import { S3_ACCOUNT } from '../../../stand-ins/src/index';
import type { BucketSettings } from '../../src/files/bucket';

export { startBucket } from '../../../stand-ins/src/index';

export const { user: ACCESS_KEY, password: SECRET } = S3_ACCOUNT;

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
