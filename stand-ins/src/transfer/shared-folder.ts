import type { Stats } from 'node:fs';
import { link, lstat, mkdir, readdir, rename, stat, unlink } from 'node:fs/promises';
import { join, posix } from 'node:path';
import { Transform } from 'node:stream';
import { setTimeout as pause } from 'node:timers/promises';

/** What can be wrong with a transfer server, in words. */
export const TRANSFER_FAULTS = {
  slow: 'slow (100 kB/s)',
  full: 'full',
  refuses: 'refuses sign-in',
  breaks: 'drops the connection in the middle of files',
  damages: 'changes a byte of each file',
} as const;
export type TransferFault = keyof typeof TRANSFER_FAULTS;

const SLOW_BYTES_PER_SECOND = 100_000;
/** How far into a file a connection breaks off. */
const BREAK_AFTER_BYTES = 8000;
const MAX_FILES_SHOWN = 500;

/** A file is not taken because there is no room, or because the connection is to break off. */
export class NotTaken extends Error {
  constructor(readonly why: 'full' | 'breaks') {
    super(why);
  }
}

/** A folder of this machine as transfer servers show it: paths stay below it, whatever they are called. */
export class SharedFolder {
  readonly faults = new Set<TransferFault>();

  /** Until when it is busy with what it has taken, where it is slow, ms since 1970. */
  private busyUntil = 0;

  constructor(
    readonly root: string,
    private readonly wait: (ms: number) => Promise<unknown> = pause,
    private readonly now: () => number = Date.now,
  ) {}

  /** Where a path of a client is on this machine. */
  at(path: string): string {
    return join(this.root, this.inside(path));
  }

  /** A path of a client with a slash before it, and nothing that leads out. */
  inside(path: string): string {
    return posix.normalize(posix.join('/', path));
  }

  /** Renames a file, or a folder, to a name that is free; rejects with `EEXIST` where it is taken. */
  async renameToFree(path: string, to: string): Promise<void> {
    const [from, target] = [this.at(path), this.at(to)];
    if ((await stat(from)).isDirectory()) {
      await mkdir(target);
      return rename(from, target);
    }
    // A link is made under a free name only, also where two do this at once.
    await link(from, target);
    await unlink(from);
  }

  /** Takes a part of a file of which there are some bytes already; resolves to what is kept, rejects with `NotTaken`. */
  async take(chunk: Buffer, before: number): Promise<Buffer> {
    const bytes = chunk.length;
    if (this.faults.has('full')) throw new NotTaken('full');
    if (this.faults.has('slow')) {
      this.busyUntil = Math.max(this.now(), this.busyUntil) + (1000 * bytes) / SLOW_BYTES_PER_SECOND;
      await this.wait(this.busyUntil - this.now());
    }
    if (this.faults.has('breaks') && before + bytes > BREAK_AFTER_BYTES) throw new NotTaken('breaks');
    if (!this.faults.has('damages') || before > 0) return chunk;
    return Buffer.concat([Buffer.of(chunk[0]! ^ 1), chunk.subarray(1)]);
  }

  /** What a file goes through on its way in. */
  intake(): Transform {
    let taken = 0;
    return new Transform({
      transform: (chunk: Buffer, _encoding, done) => {
        this.take(chunk, taken).then(
          (kept) => {
            taken += kept.length;
            done(null, kept);
          },
          (error: Error) => done(error),
        );
      },
    });
  }

  /** What is in a folder, without what goes away while it is looked at. */
  async entries(path: string): Promise<{ name: string; stats: Stats }[]> {
    const folder = this.at(path);
    const found = await Promise.all(
      (await readdir(folder)).map(async (name) => {
        const stats = await lstat(join(folder, name)).catch(() => undefined);
        return stats && { name, stats };
      }),
    );
    return found.filter((entry) => entry !== undefined);
  }

  /** The files, by their paths. */
  async files(): Promise<{ path: string; bytes: number; at: Date }[]> {
    const found: { path: string; bytes: number; at: Date }[] = [];
    const look = async (folder: string): Promise<void> => {
      for (const { name, stats } of await this.entries(folder)) {
        const path = posix.join(folder, name);
        if (stats.isDirectory()) await look(path);
        else if (found.length < MAX_FILES_SHOWN) found.push({ path, bytes: stats.size, at: stats.mtime });
      }
    };
    await look('');
    return found.sort((a, b) => (a.path < b.path ? -1 : 1));
  }
}

/** Who may sign in to a stand-in. */
export interface Account {
  user: string;
  password: string;
}

/** A transfer server on loopback. */
export interface StandInServer {
  address: string;
  /** Fingerprint of its host key or certificate, as OpenSSH prints them; null: it has none. */
  fingerprint: string | null;
  stop(): Promise<void>;
}

/** Where a stand-in listens, what it shows, and to whom. */
export interface ShareOptions {
  folder: SharedFolder;
  account: Account;
  /** 0: any that is free. */
  port?: number;
}
