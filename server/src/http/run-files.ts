import type { Response } from 'express';
import { FORMATS } from '@folvex/core';
import type { RunFileRow, RunRow } from '../data/runs';
import { notFound, Refused } from '../errors';
import { Archive } from '../files/archive';
import type { Store } from '../files/store';
import type { Services } from '../work/services';
import { sendArchive } from './answers';

type FileOfRun = Pick<RunFileRow, 'path' | 'hash' | 'format'>;

/** Sends a file of a run, to be looked at or to be saved; `cache`: what browsers may keep of it (RFC 9111, 5.2). */
export async function sendRunFile(
  { store }: Services,
  response: Response,
  file: FileOfRun,
  { disposition, cache }: { disposition: 'inline' | 'attachment'; cache: string },
): Promise<void> {
  await refuseMissing(store, file);
  const name = file.path.slice(file.path.lastIndexOf('/') + 1);
  response.setHeader('Content-Disposition', `${disposition}; filename*=UTF-8''${encodeURIComponent(name)}`);
  response.setHeader('Cache-Control', cache);
  response
    .type(FORMATS[file.format ?? 'pdf'].mediaType)
    .sendFile(await store.localFile(file.hash), { dotfiles: 'allow' });
}

/** Sends files of a run as an archive. Its date is the run's, so that the same run gives the same archive. */
export async function sendRunFiles(
  { store }: Services,
  response: Response,
  run: RunRow,
  files: readonly RunFileRow[],
): Promise<void> {
  if (files.length === 0) throw notFound('The run');
  const archive = new Archive();
  for (const file of files) {
    await refuseMissing(store, file);
    const { path, hash, format } = file;
    // Most formats are packed already.
    const compress = FORMATS[format ?? 'pdf'].compressible;
    archive.file(() => store.localFile(hash), path, { compress, mtime: run.createdAt });
  }
  sendArchive(response, archive, run.packageName);
}

async function refuseMissing(store: Store, { path, hash }: FileOfRun): Promise<void> {
  if (await store.has(hash)) return;
  const sentence = `${path} is no longer in the store; publish the package again.`;
  throw new Refused(410, 'run.file-missing', sentence, { file: path });
}
