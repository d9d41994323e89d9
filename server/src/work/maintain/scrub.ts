import { createReadStream } from 'node:fs';
import { createHash } from 'node:crypto';
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
    if ((await hashOf(store.path(hash))) !== hash) found.damaged.push(hash);
  }
  return found;
}

async function hashOf(file: string): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(file), hash);
  return hash.digest('hex');
}
