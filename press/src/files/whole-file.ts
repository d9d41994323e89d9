import { createHash, randomUUID } from 'node:crypto';
import { closeSync, fsyncSync, openSync, renameSync, rmSync, writeSync } from 'node:fs';
import { dirname, join } from 'node:path';
import type { Sink } from '@folvex/core';
import { makeFolders, syncFolder } from './make-folders';

/** SHA-256 of bytes, hexadecimal. */
export function sha256(bytes: Uint8Array | string): string {
  return createHash('sha256').update(bytes).digest('hex');
}

/** A finished file that waits under a temporary name; the caller gives it its place. */
export interface WrittenFile {
  /** Path of its synced bytes. */
  temporary: string;
  /** SHA-256 of its bytes, hexadecimal. */
  hash: string;
  bytes: number;
}

/** Writes bytes to a file in a folder, under a temporary name. */
export function writtenTo(folder: string, bytes: Uint8Array): WrittenFile {
  const file = new WholeFile(folder);
  file.write(bytes);
  return { hash: file.sync(), temporary: file.temporary, bytes: bytes.length };
}

const BUFFER = 1 << 20;

/**
 * A file that appears whole or not at all: written under a temporary name in the same folder, synced, then renamed; thrown
 * away when any of that fails. Small writes are gathered. The hash of all bytes is known at the end.
 */
export class WholeFile implements Sink {
  /** Path of the bytes until the file has its place. */
  readonly temporary: string;
  private readonly descriptor: number;
  private readonly hash = createHash('sha256');
  private readonly buffer = new Uint8Array(BUFFER);
  private filled = 0;
  private open = true;

  constructor(folder: string) {
    makeFolders(folder);
    this.temporary = join(folder, `.folvex-${randomUUID()}.part`);
    this.descriptor = openSync(this.temporary, 'wx');
  }

  write(bytes: Uint8Array): void {
    this.hash.update(bytes);
    this.orDiscard(() => {
      if (this.filled + bytes.length > BUFFER) this.flush();
      if (bytes.length > BUFFER) writeAll(this.descriptor, bytes);
      else {
        this.buffer.set(bytes, this.filled);
        this.filled += bytes.length;
      }
    });
  }

  /** Ends the writing; the bytes are synced under the temporary name. Returns their SHA-256. */
  sync(): string {
    this.orDiscard(() => {
      this.flush();
      fsyncSync(this.descriptor);
    });
    this.close();
    return this.hash.digest('hex');
  }

  /** Gives the file its place; whatever stood there is replaced. */
  moveTo(path: string): void {
    this.orDiscard(() => {
      makeFolders(dirname(path));
      renameSync(this.temporary, path);
      syncFolder(dirname(path));
    });
  }

  /** Throws the file away. */
  discard(): void {
    this.close();
    rmSync(this.temporary, { force: true });
  }

  /** A full disk must not keep half a file as well. */
  private orDiscard(work: () => void): void {
    try {
      work();
    } catch (error) {
      this.discard();
      throw error;
    }
  }

  private close(): void {
    if (this.open) closeSync(this.descriptor);
    this.open = false;
  }

  private flush(): void {
    writeAll(this.descriptor, this.buffer.subarray(0, this.filled));
    this.filled = 0;
  }
}

function writeAll(descriptor: number, bytes: Uint8Array): void {
  let at = 0;
  while (at < bytes.length) at += writeSync(descriptor, bytes, at);
}
