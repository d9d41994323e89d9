import { createWriteStream } from 'node:fs';
import { mkdir, mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { openPromise, type ZipFile } from 'yauzl';
import { MAX_DRAWING_BYTES, tooLargeSentence } from '@folvex/core';
import { storageProblem } from '@folvex/press';
import { Refused } from '../../errors';
import type { Services } from '../services';
import { ARCHIVED_JOB } from './export-project';
import { importJobFile } from './import-job-file';

/** Bytes of all files of an archive, and how many there may be. */
const [MAX_BYTES, MAX_FILES] = [4 * 1024 ** 3, 20_000];

/**
 * Creates a project from an archive that was exported; returns its id. `receive` writes the archive to a path, and resolves
 * with the name that it was sent under. Throws the signal's reason once it is aborted; then nothing is created.
 */
export async function importArchive(
  { db, store, press }: Services,
  receive: (path: string) => Promise<{ name: string }>,
  signal: AbortSignal,
): Promise<string> {
  const folder = await mkdtemp(join(tmpdir(), 'folvex-project-'));
  try {
    const path = join(folder, 'archive.zip');
    const { name } = await receive(path);
    const jobFile = await unpack({ path, name }, join(folder, 'unpacked'), signal);
    return await importJobFile(db, store, press, jobFile, signal);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** Unpacks an archive into a folder; returns the path of its job file. */
async function unpack(
  { path, name }: { path: string; name: string },
  folder: string,
  signal: AbortSignal,
): Promise<string> {
  const zip = await opened(path, name);
  let [bytes, files] = [0, 0];
  let jobFile: string | undefined;
  try {
    // Paths that lead out of the folder, and sizes that are not those stated, are refused by the reader.
    for await (const entry of zip.eachEntry()) {
      signal.throwIfAborted();
      if (entry.fileName.endsWith('/')) continue;
      bytes += entry.uncompressedSize;
      files += 1;
      if (entry.uncompressedSize > MAX_DRAWING_BYTES) {
        throw new Refused(413, 'upload.too-large', tooLargeSentence(entry.fileName), { file: entry.fileName });
      }
      if (bytes > MAX_BYTES || files > MAX_FILES) throw notAProject(name, 'is larger than a project archive can be');
      const target = join(folder, entry.fileName);
      await mkdir(dirname(target), { recursive: true });
      await pipeline(await zip.openReadStreamPromise(entry), createWriteStream(target, { flags: 'wx' }));
      if (entry.fileName === ARCHIVED_JOB || entry.fileName.endsWith(`/${ARCHIVED_JOB}`)) jobFile ??= target;
    }
  } catch (error) {
    // A full disk is not the archive's fault.
    throw error instanceof Refused || storageProblem(error) ? error : notAProject(name, 'is damaged');
  } finally {
    zip.close();
  }
  if (!jobFile) throw notAProject(name, `has no ${ARCHIVED_JOB}`);
  return jobFile;
}

async function opened(path: string, name: string): Promise<ZipFile> {
  try {
    return await openPromise(path, { autoClose: false });
  } catch {
    throw notAProject(name, 'is not a ZIP archive');
  }
}

function notAProject(name: string, why: string): Refused {
  return new Refused(422, 'project.archive', `${name} ${why}; choose a project that was exported from Folvex.`, {
    file: name,
  });
}
