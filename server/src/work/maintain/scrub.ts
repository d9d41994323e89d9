import { createHash } from 'node:crypto';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Store } from '../../files/store';

/** Content that is not what its hash says. */
export interface Scrubbed {
  contents: number;
  damaged: string[];
}

/** Reads every content again and compares it with its hash. */
export async function scrub(store: Store): Promise<Scrubbed> {
  const found: Scrubbed = { contents: 0, damaged: [] };
  for await (const { hash } of store.contents()) {
    found.contents++;
    if ((await hashOf(await store.stream(hash))) !== hash) found.damaged.push(hash);
  }
  return found;
}

async function hashOf(content: Readable): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(content, hash);
  return hash.digest('hex');
}
