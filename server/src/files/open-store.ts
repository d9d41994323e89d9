import { join } from 'node:path';
import type { BucketSettings } from '@folvex/press/bucket';
import { createFolderStore } from './folder-store';
import type { Store } from './store';

/** Where content is stored. */
export interface StoreSettings {
  dataFolder: string;
  /** Undefined: content is in the data folder; else that holds a cache of the bucket only. */
  bucket: BucketSettings | undefined;
  maxCacheBytes: number;
}

/** Opens the store of this installation. */
export async function openStore({ dataFolder, bucket, maxCacheBytes }: StoreSettings): Promise<Store> {
  if (!bucket) return createFolderStore(join(dataFolder, 'store'));
  // It takes time to load, which a server without a bucket does not need.
  const [{ Bucket }, { createBucketStore }] = await Promise.all([
    import('@folvex/press/bucket'),
    import('./bucket-store'),
  ]);
  return createBucketStore(new Bucket(bucket), { cache: createFolderStore(join(dataFolder, 'cache')), maxCacheBytes });
}
