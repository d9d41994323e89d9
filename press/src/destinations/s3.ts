import { createHash } from 'node:crypto';
import { posix } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { bucketRegion, DEFAULT_REGION } from '@folvex/core';
import type { Bucket } from '../files/bucket';
import { namedIn, partsOf, type TransferLogin } from './transfer-login';
import { listedBelow } from './files-below';
import type { FileBelow, TransferPort } from './port';

/** The parts of an address: the service, the name of the bucket, and the folder within it. */
export function bucketParts(address: string): { endpoint: string; bucket: string; folder: string; region: string } {
  const { scheme, folder } = partsOf(address);
  const { host } = new URL(address);
  const [bucket = '', ...folders] = folder.split('/').filter(Boolean);
  return {
    endpoint: `${scheme === 's3' ? 'https' : 'http'}://${host}`,
    ...{ bucket, folder: folders.join('/'), region: bucketRegion(address) ?? DEFAULT_REGION },
  };
}

/** The bucket of a login. Its client takes time to load, which other destinations do not need. */
export async function openBucket({ address, user, secret }: TransferLogin): Promise<Bucket> {
  const { Bucket: Opened } = await import('../files/bucket');
  const { endpoint, bucket, region } = bucketParts(address);
  return new Opened({ endpoint, bucket, prefix: '', region, accessKeyId: user, secretAccessKey: secret });
}

/**
 * A folder in a bucket of an S3-compatible service: keys that begin with its path. A file takes a name that is free by a
 * conditional write (`If-None-Match: *`); services that ignore that are asked whether the name is free just before.
 */
export function s3Destination(login: TransferLogin, below: string): TransferPort {
  const { endpoint, bucket, folder } = bucketParts(login.address);
  const base = posix.join(folder, below);
  const keyOf = (path: string): string => posix.join(base, path);
  let opened: Promise<Bucket> | undefined;
  const open = (): Promise<Bucket> => (opened ??= openBucket(login));
  const where = posix.join(`${new URL(endpoint).host}/${bucket}`, base);
  return {
    where,
    list: (paths) =>
      namedIn(paths, async (name) => {
        const begin = posix.join(base, name, '/').replace(/^\.?\//, '');
        const names: string[] = [];
        for await (const { key } of (await open()).list(begin, { flat: true })) names.push(posix.basename(key));
        return names;
      }),
    hashOf: async (path) => {
      const reported = await (await open()).sha256(keyOf(path));
      if (reported !== undefined) return reported;
      const content = await (await open()).read(keyOf(path));
      if (!content) return undefined;
      const hash = createHash('sha256');
      await pipeline(content, hash);
      return hash.digest('hex');
    },
    put: async ({ from, path }, { replace }) => {
      const client = await open();
      if (!replace && (await client.find(keyOf(path)))) return false;
      return client.write(keyOf(path), from, { replace });
    },
    find: async (path) => (await open()).find(keyOf(path)),
    reportedHash: async (path) => {
      const hex = await (await open()).sha256(keyOf(path));
      return hex === undefined ? undefined : { algorithm: 'SHA-256', hex };
    },
    rename: async (path, to) => {
      const client = await open();
      if (await client.find(keyOf(to))) return false;
      if (!(await client.copy(keyOf(path), keyOf(to)))) throw new Error(`${path} is no longer there`);
      await client.remove(keyOf(path));
      return true;
    },
    // A bucket has no folders that could be missing.
    files: async () => listedBelow(where, objectsBelow(await open(), base)),
    copyTo: async (path, into) => {
      const content = await (await open()).read(keyOf(path));
      if (!content) throw new Error(`${path} is no longer there`);
      await pipeline(content, into);
    },
    close: () => Promise.resolve(),
  };
}

/** The objects of a folder and of those below it, by their paths in it. */
async function* objectsBelow(bucket: Bucket, folder: string): AsyncGenerator<FileBelow> {
  const begin = posix.join(folder, '/').replace(/^\.?\//, '');
  for await (const { key, bytes, writtenAt } of bucket.list(begin))
    yield { path: key.slice(begin.length), bytes, writtenAt };
}
