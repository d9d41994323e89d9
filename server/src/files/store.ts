import {
  chmodSync,
  closeSync,
  existsSync,
  fsyncSync,
  mkdirSync,
  openSync,
  readdirSync,
  renameSync,
  rmSync,
  statSync,
  utimesSync,
  writeSync,
} from 'node:fs';
import { createHash, randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { readdir, readFile, rm, stat } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { Transform, type Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { makeFolders, sha256, WholeFile } from '@folvex/press';

/** A store of files by their content. Nothing in it is ever changed. */
export interface Store {
  put(bytes: Uint8Array): Promise<string>;
  /** Takes in a stream; `check` is called with its hash once all of it has come, and nothing is kept where it throws. */
  receive(source: Readable, check: (hash: string) => void): Promise<{ hash: string; bytes: number }>;
  /** The content of a hash. Rejects where it is missing, or where its bytes no longer have that hash. */
  read(hash: string): Promise<Buffer>;
  /** Whether a content is there; the sweep leaves it alone for its grace period then. */
  has(hash: string): Promise<boolean>;
  /** Every content, with its size in bytes and when it was last asked for, ms. */
  contents(): AsyncIterable<{ hash: string; bytes: number; usedAt: number }>;
  /** Removes a content that nobody has asked for since a moment, ms; false where somebody has. */
  removeUnused(hash: string, since: number): boolean;
  /** A local path to the content, for worker threads that read it themselves. */
  path(hash: string): string;
  /** A file to write to; `keep` gives it its place and returns its hash. */
  createFile(): { file: WholeFile; keep(): string; discard(): void };
  /** Folder for files that are being written on the store's disk. */
  readonly workFolder: string;
  /** Takes in a finished file of known content from the work folder. */
  adopt(file: string, hash: string): void;
  /** Removes what was begun before a moment, ms, and never finished: its process was killed. Returns how many. */
  sweepUnfinished(before: number): number;
}

/** Rights of a folder that only its owner enters. */
const PRIVATE = 0o700;

/** Drawings of clients are nobody else's on this machine; stores of earlier releases were open to all. */
function keepPrivate(folder: string): void {
  try {
    chmodSync(folder, PRIVATE);
  } catch (error) {
    // Some shares know no rights, and then have those that their server gives.
    if (!['EPERM', 'ENOTSUP', 'ENOSYS'].includes((error as NodeJS.ErrnoException).code ?? '')) throw error;
  }
}

/** A store in a local folder: two levels of folders by the first digits of the SHA-256. */
export function createFolderStore(folder: string): Store {
  mkdirSync(join(folder, 'new'), { recursive: true });
  keepPrivate(folder);
  const place = (hash: string): string => {
    if (!/^[0-9a-f]{64}$/.test(hash)) throw new Error('not a SHA-256');
    return join(folder, hash.slice(0, 2), hash.slice(2, 4), hash);
  };
  const create: Store['createFile'] = () => {
    const file = new WholeFile(join(folder, 'new'));
    return {
      file,
      keep: () => {
        const hash = file.sync();
        if (touch(place(hash))) file.discard();
        else file.moveTo(place(hash));
        return hash;
      },
      discard: () => file.discard(),
    };
  };
  const adopt: Store['adopt'] = (file, hash) => {
    if (touch(place(hash))) return rmSync(file, { force: true });
    mkdirSync(dirname(place(hash)), { recursive: true });
    renameSync(file, place(hash));
  };
  return {
    createFile: create,
    workFolder: join(folder, 'new'),
    adopt,
    sweepUnfinished: (before) => {
      const begun = readdirSync(join(folder, 'new')).map((name) => join(folder, 'new', name));
      const dead = begun.filter((file) => (statSync(file, { throwIfNoEntry: false })?.mtimeMs ?? before) < before);
      for (const file of dead) rmSync(file, { force: true });
      return dead.length;
    },
    path: place,
    put: (bytes) => {
      const hash = sha256(bytes);
      if (touch(place(hash))) return Promise.resolve(hash);
      const { file, keep } = create();
      file.write(bytes);
      return Promise.resolve(keep());
    },
    receive: async (source, check) => {
      const temporary = join(folder, 'new', `.folvex-${randomUUID()}.part`);
      const hash = createHash('sha256');
      let bytes = 0;
      const meter = new Transform({
        transform: (chunk: Buffer, _encoding, done) => {
          hash.update(chunk);
          bytes += chunk.length;
          done(null, chunk);
        },
      });
      try {
        await pipeline(source, meter, createWriteStream(temporary, { flags: 'wx', flush: true }));
        const content = hash.digest('hex');
        check(content);
        adopt(temporary, content);
        return { hash: content, bytes };
      } catch (error) {
        await rm(temporary, { force: true }).catch(() => undefined);
        throw error;
      }
    },
    read: async (hash) => {
      const content = await readFile(place(hash));
      if (sha256(content) !== hash) throw new Error(`the store holds something else under ${hash}`);
      return content;
    },
    has: (hash) => Promise.resolve(touch(place(hash))),
    contents: () => contentsIn(folder),
    removeUnused: (hash, since) => {
      // Out of the way first: whoever asks for it now finds it missing and writes it again, or has touched it before.
      const aside = join(folder, 'new', `.folvex-${randomUUID()}.swept`);
      renameSync(place(hash), aside);
      const isUnused = statSync(aside).mtimeMs < since;
      if (isUnused) rmSync(aside, { force: true });
      else renameSync(aside, place(hash));
      return isUnused;
    },
  };
}

/** Sets the time of a file to now; false where there is none. */
function touch(file: string): boolean {
  try {
    const now = new Date();
    utimesSync(file, now, now);
    return true;
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return false;
    // On a disk that cannot be written to nothing is swept either.
    if (['EROFS', 'EACCES', 'EPERM'].includes((error as NodeJS.ErrnoException).code ?? '')) return existsSync(file);
    throw error;
  }
}

async function* contentsIn(folder: string): AsyncGenerator<{ hash: string; bytes: number; usedAt: number }> {
  for (const first of readdirSync(folder).filter((name) => /^[0-9a-f]{2}$/.test(name)))
    for (const second of readdirSync(join(folder, first)))
      for (const hash of await readdir(join(folder, first, second))) {
        const found = await stat(join(folder, first, second, hash)).catch(() => undefined);
        if (found && /^[0-9a-f]{64}$/.test(hash)) yield { hash, bytes: found.size, usedAt: found.mtimeMs };
      }
}

/** Says in one sentence why a folder cannot be used; undefined when it can. */
export function folderProblem(folder: string): string | undefined {
  try {
    makeFolders(folder);
    const probe = join(folder, '.probe');
    const descriptor = openSync(probe, 'w');
    writeSync(descriptor, 'x');
    fsyncSync(descriptor);
    closeSync(descriptor);
    return undefined;
  } catch (error) {
    const code = (error as NodeJS.ErrnoException).code ?? 'error';
    return `Folvex cannot write to ${folder} (${code}); give it permission there, or set FOLVEX_DATA to another folder.`;
  }
}
