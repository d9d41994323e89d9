import { createHash, randomUUID } from 'node:crypto';
import {
  chmodSync,
  createWriteStream,
  existsSync,
  mkdirSync,
  readdirSync,
  renameSync,
  rmSync,
  statSync,
  utimesSync,
} from 'node:fs';
import { open, readdir, readFile, rm, stat } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { makeFolders, sha256, syncFolder, writtenTo } from '@folvex/press';
import { folderProblem } from './folder-problem';
import { ContentDamaged, ContentMissing, isHash, type Content, type Store } from './store';

/** Rights of a folder that only its owner enters. */
const PRIVATE = 0o700;

/** A store in a local folder: two levels of folders by the first digits of the SHA-256. */
export function createFolderStore(folder: string): Store {
  const workFolder = join(folder, 'new');
  mkdirSync(workFolder, { recursive: true });
  keepPrivate(folder);
  const place = (hash: string): string => {
    if (!isHash(hash)) throw new Error('not a SHA-256');
    return join(folder, hash.slice(0, 2), hash.slice(2, 4), hash);
  };
  const adopt = (file: string, hash: string): void => {
    const path = place(hash);
    if (touch(path)) return rmSync(file, { force: true });
    makeFolders(dirname(path));
    renameSync(file, path);
    syncFolder(dirname(path));
  };
  const read: Store['read'] = async (hash) => {
    const content = await readFile(place(hash)).catch(throwMissing(hash));
    if (sha256(content) !== hash) throw new ContentDamaged(hash);
    return content;
  };
  return {
    workFolder,
    read,
    put: async (bytes) => {
      const hash = sha256(bytes);
      if (!touch(place(hash))) adopt(writtenTo(workFolder, bytes).temporary, hash);
      return hash;
    },
    adopt: async (file, hash) => adopt(file, hash),
    receive: async (source, check) => {
      const temporary = join(workFolder, `.folvex-${randomUUID()}.part`);
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
    has: async (hash) => touch(place(hash)),
    localFile: async (hash) => {
      if (!touch(place(hash))) throw new ContentMissing(hash);
      return place(hash);
    },
    stream: async (hash) => {
      const file = await open(place(hash)).catch(throwMissing(hash));
      return file.createReadStream();
    },
    contents: () => contentsIn(folder),
    removeUnused: async (hash, since) => {
      // Out of the way first: whoever asks for it now finds it missing and writes it again, or has touched it before.
      const aside = join(workFolder, `.folvex-${randomUUID()}.swept`);
      renameSync(place(hash), aside);
      const isUnused = statSync(aside).mtimeMs < since;
      if (isUnused) rmSync(aside, { force: true });
      else renameSync(aside, place(hash));
      return isUnused;
    },
    // What is removed is deleted at once.
    purge: async () => 0,
    removeUnfinished: async (before) => {
      const begun = (await readdir(workFolder)).map((name) => join(workFolder, name));
      const dead = begun.filter((file) => (statSync(file, { throwIfNoEntry: false })?.mtimeMs ?? before) < before);
      for (const file of dead) rmSync(file, { force: true });
      return dead.length;
    },
    problem: async () => folderProblem(workFolder),
  };
}

/** Says that a content is missing where its file is. */
function throwMissing(hash: string) {
  return (error: NodeJS.ErrnoException): never => {
    throw error.code === 'ENOENT' ? new ContentMissing(hash) : error;
  };
}

/** Drawings of clients are nobody else's on this machine; stores of earlier releases were open to all. */
function keepPrivate(folder: string): void {
  try {
    chmodSync(folder, PRIVATE);
  } catch (error) {
    // Some shares know no rights, and then have those that their server gives.
    if (!['EPERM', 'ENOTSUP', 'ENOSYS'].includes((error as NodeJS.ErrnoException).code ?? '')) throw error;
  }
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

async function* contentsIn(folder: string): AsyncGenerator<Content> {
  for (const first of readdirSync(folder).filter((name) => /^[0-9a-f]{2}$/.test(name)))
    for (const second of readdirSync(join(folder, first)))
      for (const hash of await readdir(join(folder, first, second))) {
        const found = await stat(join(folder, first, second, hash)).catch(() => undefined);
        if (found && isHash(hash)) yield { hash, bytes: found.size, usedAt: found.mtimeMs };
      }
}
