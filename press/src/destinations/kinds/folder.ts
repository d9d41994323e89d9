import { createHash, randomUUID } from 'node:crypto';
import { createReadStream, existsSync } from 'node:fs';
import { copyFile, lstat, mkdtemp, open, readdir, rename, rm } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { makeFolders, syncFolder } from '../../files/make-folders';
import { placeNew } from '../../files/place-new';
import { legalPath, type Destination } from '@folvex/core';
import { filesBelow, type Entry } from '../files-below';
import type { DestinationContext, DestinationPort, FolderPort } from '../port';

/** A folder below the one that this machine delivers to. */
export function openDestination(
  { folder }: Extract<Destination, { kind: 'folder' }>,
  { deliveryFolder }: DestinationContext,
): DestinationPort {
  return folderDestination(join(deliveryFolder, legalPath(folder)));
}

/** A folder of this machine; it is created when it is not there. */
export function folderDestination(folder: string): FolderPort {
  const pathOf = (path: string): string => join(folder, ...path.split('/'));
  return {
    where: folder,
    test: async () => {
      try {
        makeFolders(folder);
        const probe = await mkdtemp(join(folder, '.folvex-'));
        await rm(probe, { recursive: true });
        return undefined;
      } catch (error) {
        const code = (error as NodeJS.ErrnoException).code ?? 'error';
        const sentence = `Nothing can be written to ${folder} (${code}); give the path of a folder that can be written to.`;
        return { code: 'destination.folder', sentence, place: {} };
      }
    },
    list: async (paths) => {
      const found = await Promise.all(paths.map(async (path) => [path, await isThere(pathOf(path))] as const));
      return found.flatMap(([path, there]) => (there ? [path] : []));
    },
    hashOf: async (path) => ((await isThere(pathOf(path))) ? fileHash(pathOf(path)) : undefined),
    put: async ({ from, path }, { replace }) => {
      const target = pathOf(path);
      const unfinished = join(dirname(target), `.folvex-${randomUUID()}.part`);
      try {
        makeFolders(dirname(target));
        await copyFile(from, unfinished);
        await syncFile(unfinished);
        if (replace) await rename(unfinished, target);
        else await placeNew(unfinished, target);
        syncFolder(dirname(target));
        return true;
      } catch (error) {
        if (!replace && (error as NodeJS.ErrnoException).code === 'EEXIST' && existsSync(unfinished)) return false;
        throw error;
      } finally {
        await rm(unfinished, { force: true }).catch(() => undefined);
      }
    },
    find: async (path) => {
      const found = await lstat(pathOf(path)).catch(() => undefined);
      return found && { bytes: found.size, writtenAt: found.mtimeMs };
    },
    reportedHash: async (path) => {
      // Read again from where it was written to.
      const hex = await fileHash(pathOf(path));
      return hex === 'other' ? undefined : { algorithm: 'SHA-256', hex };
    },
    rename: async (path, to) => {
      try {
        await placeNew(pathOf(path), pathOf(to));
        await rm(pathOf(path), { force: true });
        syncFolder(dirname(pathOf(path)));
        return true;
      } catch (error) {
        if ((error as NodeJS.ErrnoException).code === 'EEXIST') return false;
        throw error;
      }
    },
    files: async () => {
      makeFolders(folder);
      return filesBelow(folder, async (below) => entriesIn(pathOf(below)));
    },
    copyTo: (path, into) => pipeline(createReadStream(pathOf(path)), into),
    close: () => Promise.resolve(),
  };
}

/** What is in a folder; undefined where there is none. A link is neither file nor folder: it may lead anywhere. */
async function entriesIn(folder: string): Promise<Entry[] | undefined> {
  const names = await readdir(folder).catch((error: NodeJS.ErrnoException) => {
    if (error.code === 'ENOENT') return undefined;
    throw error;
  });
  const entries = names?.map(async (name): Promise<Entry[]> => {
    const found = await lstat(join(folder, name)).catch(() => undefined);
    if (!found) return [];
    const kind = found.isFile() ? 'file' : found.isDirectory() ? 'folder' : 'other';
    return [{ name, kind, bytes: found.size, writtenAt: found.mtimeMs }];
  });
  return entries && (await Promise.all(entries)).flat();
}

/** True where a path names something, be it a link that leads nowhere. */
async function isThere(path: string): Promise<boolean> {
  return lstat(path).then(
    () => true,
    () => false,
  );
}

/** SHA-256 of a file; `other` for what cannot be read as one, such as a folder or a link that leads nowhere. */
async function fileHash(path: string): Promise<string> {
  const hash = createHash('sha256');
  try {
    await pipeline(createReadStream(path), hash);
    return hash.digest('hex');
  } catch {
    return 'other';
  }
}

async function syncFile(path: string): Promise<void> {
  const file = await open(path, 'r+');
  await file.sync();
  await file.close();
}
