import type { Readable } from 'node:stream';
import { Refused } from '../errors';

/** A store of files by their content. Nothing in it is ever changed. */
export interface Store {
  put(bytes: Uint8Array): Promise<string>;
  /** Takes in a stream; `check` is called with its hash once all of it has come, and nothing is kept where it throws. */
  receive(source: Readable, check: (hash: string) => void): Promise<Received>;
  /** Takes in a finished file of known content from the work folder. */
  adopt(file: string, hash: string): Promise<void>;
  /** The content of a hash. Rejects with `ContentMissing` or `ContentDamaged` where it cannot be had. */
  read(hash: string): Promise<Buffer>;
  /** The content of a hash as it is stored, which the caller checks. Rejects with `ContentMissing`. */
  stream(hash: string): Promise<Readable>;
  /** Whether a content is there; the sweep leaves it alone for its grace period then. */
  has(hash: string): Promise<boolean>;
  /**
   * Path of a local file with the content, for worker threads that read it themselves. It stays for an hour at least.
   * Rejects with `ContentMissing` where the store has no such content.
   */
  localFile(hash: string): Promise<string>;
  /** Every content, with its size in bytes and when it was last asked for, ms. */
  contents(): AsyncIterable<Content>;
  /** Removes a content that nobody has asked for since a moment, ms; false where somebody has. */
  removeUnused(hash: string, since: number): Promise<boolean>;
  /** Deletes for good what was removed before a moment, ms, and is not needed after all. Returns how many. */
  purge(before: number, isNeeded: (hash: string) => boolean): Promise<number>;
  /** Removes what was begun before a moment, ms, and never finished: its process was killed. Returns how many. */
  removeUnfinished(before: number): Promise<number>;
  /** Folder for files that are being written on this machine. */
  readonly workFolder: string;
  /** Says in one sentence why nothing can be written to the store; undefined when it can. */
  problem(): Promise<string | undefined>;
}

export interface Received {
  hash: string;
  bytes: number;
}

export interface Content {
  hash: string;
  bytes: number;
  usedAt: number;
}

/** The store has no content of a hash. */
export class ContentMissing extends Refused {
  constructor(hash: string) {
    const sentence = `A file that this needs is no longer in the store (${hash}); restore it from a backup, or send it again.`;
    // Gone (RFC 9110, 15.5.11).
    super(410, 'storage.missing', sentence);
  }
}

/** What the store has under a hash is no longer what was put there. */
export class ContentDamaged extends Error {
  constructor(hash: string) {
    super(`the store holds something else under ${hash}`);
  }
}

/** Whether a text has the form of a hash: SHA-256, hexadecimal. */
export function isHash(text: string): boolean {
  return /^[0-9a-f]{64}$/.test(text);
}
