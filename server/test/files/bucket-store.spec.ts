import { readdirSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { randomBytes } from 'node:crypto';
import { Readable } from 'node:stream';
import { ownFolder } from '../../../scripts/lib/own-folder.mjs';
import { BucketAway, sha256 } from '@folvex/press';
import { Bucket } from '@folvex/press/bucket';
import { createBucketStore } from '../../src/files/bucket-store';
import { createFolderStore } from '../../src/files/folder-store';
import type { Store } from '../../src/files/store';
import { bucketSettings, faultyProxy, startBucket } from '../../../press/test/support/bucket';

const folder = ownFolder('folvex-bucket-');
const service = startBucket(join(folder, 'service'));
const ending: (() => void)[] = [];
afterAll(async () => {
  for (const end of ending) end();
  await (await service).close();
  rmSync(folder, { recursive: true, force: true });
});
const HOUR_MS = 3600_000;

interface Machine {
  store: Store;
  /** Names of the contents in its cache. */
  cached(): string[];
}

let machines = 0;

/** A machine with a cache of its own, which reaches the bucket by a port. */
async function machine({
  port,
  maxCacheBytes = 1e9,
  now,
}: { port?: number; maxCacheBytes?: number; now?: () => number } = {}): Promise<Machine> {
  const own = join(folder, `machine-${machines++}`);
  const cache = createFolderStore(own);
  const bucket = new Bucket(bucketSettings(port ?? (await service).port));
  const cached = (): string[] =>
    readdirSync(own, { recursive: true, withFileTypes: true })
      .filter((entry) => entry.isFile())
      .map(({ name }) => name);
  return { store: createBucketStore(bucket, { cache, maxCacheBytes, ...(now && { now }) }), cached };
}

it('a content that one machine wrote is there for every other, and fetched once', async () => {
  const [a, b] = [await machine(), await machine()];
  const content = randomBytes(300_000);
  const hash = await a.store.put(content);
  expect(b.cached()).toEqual([]);
  const files = await Promise.all([b.store.localFile(hash), b.store.localFile(hash), b.store.localFile(hash)]);
  expect(new Set(files).size).toBe(1);
  expect(b.cached()).toEqual([hash]);
  expect((await b.store.read(hash)).equals(content)).toBe(true);
});

it('of very many contents only some are fetched at a time', async () => {
  const [contents, hashes] = [new Map<string, Buffer>(), [] as string[]];
  const cache = createFolderStore(join(folder, 'many'));
  for (let i = 0; i < 100; i++) {
    const content = randomBytes(10);
    hashes.push(sha256(content));
    contents.set(`content/${hashes.at(-1)}`, content);
  }
  let [active, most] = [0, 0];
  const read = async (key: string): Promise<Readable> => {
    most = Math.max(most, ++active);
    return Readable.from([contents.get(key)!]).on('close', () => active--);
  };
  const store = createBucketStore({ read } as Bucket, { cache, maxCacheBytes: 1e9 });
  await Promise.all(hashes.map((hash) => store.localFile(hash)));
  expect(most).toBeLessThanOrEqual(32);
  expect((await cache.read(hashes[99]!)).equals(contents.get(`content/${hashes[99]}`)!)).toBe(true);
});

it('a content of many megabytes goes up in parts and comes back whole', async () => {
  const [a, b] = [await machine(), await machine()];
  const content = randomBytes(40 << 20);
  expect((await b.store.read(await a.store.put(content))).equals(content)).toBe(true);
});

it('requests that are refused for a moment, and answers that break off, are tried again', async () => {
  const seen = new Map<string, number>();
  const proxy = await faultyProxy((await service).port, ({ method, url }) => {
    const key = `${method} ${url}`;
    seen.set(key, (seen.get(key) ?? 0) + 1);
    if (seen.get(key)! === 1) return 'refuse';
    return method === 'GET' && seen.get(key)! < 4 ? 'break' : undefined;
  });
  ending.push(() => proxy.close());
  const { store } = await machine({ port: proxy.port });
  const content = randomBytes(200_000);
  const hash = await store.put(content);
  const other = await machine({ port: proxy.port });
  expect((await other.store.read(hash)).equals(content)).toBe(true);
  expect([...seen.values()].every((times) => times > 1)).toBe(true);
});

it('a bucket that is away, or is another one, is told in a sentence, and nothing counts as written', async () => {
  const proxy = await faultyProxy((await service).port, () => 'refuse');
  ending.push(() => proxy.close());
  const { store } = await machine({ port: proxy.port });
  await expect(store.put(randomBytes(10))).rejects.toThrow(BucketAway);
  expect(await store.problem()).toMatch(/^The bucket plans at http:.* cannot be used/);
  const other = new Bucket(bucketSettings((await service).port, 'other-plans'));
  expect(await other.problem()).toMatch(/^The bucket other-plans .* \(NoSuchBucket\)/);
});

it('content that the disk of a machine damaged is fetched again', async () => {
  const { store } = await machine();
  const hash = await store.put(Buffer.from('a roof'));
  writeFileSync(await store.localFile(hash), 'a root');
  expect((await store.read(hash)).toString()).toBe('a roof');
});

it('the cache keeps what was used last, and what was used within the hour', async () => {
  const { store } = await machine();
  const hashes: string[] = [];
  for (let i = 0; i < 4; i++) hashes.push(await store.put(randomBytes(40_000)));
  const other = await machine({ maxCacheBytes: 100_000 });
  for (const hash of hashes) await other.store.localFile(hash);
  expect(other.cached().sort()).toEqual([...hashes].sort());
  const then = new Date(Date.now() - 2 * HOUR_MS);
  for (const hash of hashes.slice(0, 3)) utimesSync(await other.store.localFile(hash), then, then);
  await other.store.localFile(hashes[1]!);
  const more = await store.put(randomBytes(40_000));
  await other.store.localFile(more);
  expect(other.cached().sort()).toEqual([hashes[1], hashes[3], more].sort());
  // What is written makes room too.
  utimesSync(await other.store.localFile(more), then, then);
  const own = await other.store.put(randomBytes(40_000));
  expect(other.cached().sort()).toEqual([hashes[1], hashes[3], own].sort());
});

describe('what a sweep removed', () => {
  it('comes back while somebody may have asked for it at that moment, and goes a day later', async () => {
    const [a, b] = [await machine(), await machine()];
    const [asked, unasked] = [await a.store.put(Buffer.from('asked')), await a.store.put(Buffer.from('unasked'))];
    const now = Date.now();
    for (const hash of [asked, unasked]) expect(await a.store.removeUnused(hash, now + HOUR_MS)).toBe(true);
    expect((await b.store.read(asked)).toString()).toBe('asked');
    await a.store.purge(now + HOUR_MS, () => false);
    expect(await a.store.has(asked)).toBe(true);
    expect(await b.store.has(unasked)).toBe(false);
  });

  it('stays where something refers to it after all', async () => {
    const { store } = await machine();
    const hash = await store.put(Buffer.from('referred to'));
    const later = Date.now() + HOUR_MS;
    await store.removeUnused(hash, later);
    expect(await store.purge(later, (one) => one === hash)).toBe(0);
    expect(await store.has(hash)).toBe(true);
  });
});

it('a content that is asked for half a day later counts as new again', async () => {
  const renewed: string[] = [];
  // Amazon S3 API, CopyObject: an object that is copied onto itself is written anew.
  const proxy = await faultyProxy((await service).port, ({ method, headers }) => {
    if (method === 'PUT' && headers['x-amz-copy-source']) renewed.push(String(headers['x-amz-copy-source']));
    return undefined;
  });
  ending.push(() => proxy.close());
  let now = Date.now();
  const { store } = await machine({ port: proxy.port, now: () => now });
  const hash = await store.put(Buffer.from('a stair'));
  now += 11 * HOUR_MS;
  expect(await store.has(hash)).toBe(true);
  expect(renewed.filter((source) => source.includes('content'))).toEqual([]);
  now += 2 * HOUR_MS;
  expect(await store.has(hash)).toBe(true);
  expect(renewed).toContain(`plans/folvex/content/${hash}`);
});
