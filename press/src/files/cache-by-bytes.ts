import { LRUCache } from 'lru-cache';

/** How many things of files a thread keeps, and how many bytes of files they are made of. */
interface CacheLimits {
  max: number;
  maxFileBytes: number;
}

/**
 * A cache of what is made of files, of which those used last stay. Bounded by the bytes of the files; the last one stays
 * however large it is.
 */
export class CacheByBytes<T> {
  private readonly kept: LRUCache<string, Promise<T>>;

  constructor(private readonly limits: CacheLimits) {
    this.kept = new LRUCache({ max: limits.max, maxSize: limits.maxFileBytes });
  }

  /** What is kept under a key, or is made now of a file of so many bytes. What could not be made is not kept. */
  get(key: string, make: () => Promise<T>, fileBytes: number): Promise<T> {
    const known = this.kept.get(key);
    if (known) return known;
    const made = make();
    made.catch(() => this.kept.delete(key));
    this.kept.set(key, made, { size: Math.max(1, Math.min(fileBytes, this.limits.maxFileBytes)) });
    return made;
  }
}
