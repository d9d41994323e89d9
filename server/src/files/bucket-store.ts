import { rm, stat } from 'node:fs/promises';
import { setTimeout } from 'node:timers/promises';
import pLimit from 'p-limit';
import { BucketAway, sha256, writtenTo } from '@folvex/press';
import type { Bucket } from '@folvex/press/bucket';
import { ContentDamaged, ContentMissing, isHash, type Content, type Store } from './store';

/**
 * An object that was last written this long ago is written anew when it is asked for, ms: half of a sweep's grace period,
 * so that one request for each content in that time is enough.
 */
const RENEW_AFTER_MS = 12 * 3600_000;
/** What was used within this time stays in the cache, however full that is, ms: threads may still read it. */
const IN_USE_MS = 3600_000;
/** The cache is looked through whenever this share of what it may hold has come in. */
const TRIM_SHARE = 0.05;
/** A download that broke off is begun again so often, after growing pauses, ms. */
const [DOWNLOAD_RETRIES, RETRY_MS] = [3, 100];

/** Downloads in parallel. The client has more sockets than that: it counts the wait for a free one as a silent service. */
const MAX_DOWNLOADS = 32;

const CONTENT = 'content/';
/** What a sweep removed stays here for a grace period: whoever asks for it meanwhile brings it back. */
const REMOVED = 'removed/';

export interface BucketStoreOptions {
  /** A folder store of this machine for what was used last; its other processes may use it too. */
  cache: Store;
  maxCacheBytes: number;
  /** Milliseconds since 1970. */
  now?: () => number;
}

/**
 * A store in a bucket that servers and workers on any number of machines share. What they read or write stays in a cache
 * on their own disk as long as there is room.
 */
export function createBucketStore(bucket: Bucket, { cache, maxCacheBytes, now = Date.now }: BucketStoreOptions): Store {
  const keyOf = (hash: string, kind = CONTENT): string => {
    if (!isHash(hash)) throw new Error('not a SHA-256');
    return kind + hash;
  };
  let incoming = 0;
  const trimAfter = async (bytes: number): Promise<void> => {
    incoming += bytes;
    if (incoming < maxCacheBytes * TRIM_SHARE) return;
    incoming = 0;
    await trim(cache, maxCacheBytes, now() - IN_USE_MS);
  };

  const has: Store['has'] = async (hash) => {
    const found = await bucket.find(keyOf(hash));
    if (!found) return bucket.copy(keyOf(hash, REMOVED), keyOf(hash));
    return found.writtenAt > now() - RENEW_AFTER_MS || bucket.copy(keyOf(hash), keyOf(hash));
  };
  const upload = async (hash: string, file: string): Promise<void> => {
    if (!(await has(hash))) await bucket.write(keyOf(hash), file);
  };
  const adopt: Store['adopt'] = async (file, hash) => {
    try {
      const { size } = await stat(file);
      await upload(hash, file);
      await cache.adopt(file, hash);
      await trimAfter(size);
    } finally {
      await rm(file, { force: true });
    }
  };

  const stream: Store['stream'] = async (hash) => {
    const source = (await bucket.read(keyOf(hash))) ?? ((await has(hash)) ? await bucket.read(keyOf(hash)) : undefined);
    if (!source) throw new ContentMissing(hash);
    return source;
  };
  const download = async (hash: string): Promise<void> => {
    const { bytes } = await cache.receive(await stream(hash), (found) => {
      if (found !== hash) throw new ContentDamaged(hash);
    });
    await trimAfter(bytes);
  };
  const downloadWithRetries = async (hash: string): Promise<void> => {
    for (let retry = 1; ; retry++) {
      try {
        return await download(hash);
      } catch (error) {
        if (error instanceof ContentMissing || error instanceof BucketAway || retry > DOWNLOAD_RETRIES) throw error;
        await setTimeout(retry * RETRY_MS);
      }
    }
  };
  const downloads = new Map<string, Promise<void>>();
  const turns = pLimit(MAX_DOWNLOADS);
  const downloadOnce = (hash: string): Promise<void> => {
    const begun = downloads.get(hash) ?? turns(downloadWithRetries, hash).finally(() => downloads.delete(hash));
    downloads.set(hash, begun);
    return begun;
  };
  const localFile: Store['localFile'] = (hash) =>
    cache.localFile(hash).catch(async (error: unknown) => {
      if (!(error instanceof ContentMissing)) throw error;
      await downloadOnce(hash);
      return cache.localFile(hash);
    });

  return {
    workFolder: cache.workFolder,
    has,
    adopt,
    localFile,
    stream,
    put: async (bytes) => {
      const hash = sha256(bytes);
      await adopt(writtenTo(cache.workFolder, bytes).temporary, hash);
      return hash;
    },
    receive: async (source, check) => {
      const received = await cache.receive(source, check);
      await upload(received.hash, await cache.localFile(received.hash));
      await trimAfter(received.bytes);
      return received;
    },
    read: async (hash) => {
      await localFile(hash);
      return cache.read(hash).catch(async (error: unknown) => {
        if (!(error instanceof ContentDamaged)) throw error;
        // The disk of this machine damaged it; the bucket has it still.
        await cache.removeUnused(hash, Infinity);
        await downloadOnce(hash);
        return cache.read(hash);
      });
    },
    contents: async function* (): AsyncGenerator<Content> {
      for await (const { key, bytes, writtenAt } of bucket.list(CONTENT))
        yield { hash: key.slice(CONTENT.length), bytes, usedAt: writtenAt };
    },
    removeUnused: async (hash, since) => {
      const found = await bucket.find(keyOf(hash));
      if (!found || found.writtenAt >= since) return false;
      // Buckets know no removal on a condition. Who asks for it right now finds it among what was removed.
      await bucket.copy(keyOf(hash), keyOf(hash, REMOVED));
      await bucket.remove(keyOf(hash));
      return true;
    },
    purge: async (before, isNeeded) => {
      let count = 0;
      for await (const { key, writtenAt } of bucket.list(REMOVED)) {
        if (writtenAt >= before || isNeeded(key.slice(REMOVED.length))) continue;
        await bucket.remove(key);
        count++;
      }
      return count;
    },
    removeUnfinished: (before) => cache.removeUnfinished(before),
    problem: async () => (await cache.problem()) ?? (await bucket.problem()),
  };
}

/** Removes from a cache what was used longest ago until it holds no more than it may; what was used since a moment stays. */
async function trim(cache: Store, maxBytes: number, since: number): Promise<void> {
  const contents: Content[] = [];
  for await (const content of cache.contents()) contents.push(content);
  let total = contents.reduce((sum, { bytes }) => sum + bytes, 0);
  for (const { hash, bytes, usedAt } of contents.sort((a, b) => a.usedAt - b.usedAt)) {
    if (total <= maxBytes || usedAt >= since) return;
    // Another process of this machine may trim too.
    if (await cache.removeUnused(hash, since).catch(() => true)) total -= bytes;
  }
}
