import { readFileSync } from 'node:fs';
import type { Outcome } from '@folvex/core';
import { openPdf, withComments } from '@folvex/core/foreign';
import { WholeFile } from '../files/whole-file';
import type { DrawingFile } from './load-drawing';

export interface MergeCommentsTask {
  file: Pick<DrawingFile, 'name' | 'path'>;
  /** Folder for the result. */
  folder: string;
}

/** Writes a PDF again with the comments and marks of its readers in its pages. */
export async function mergeComments({
  file,
  folder,
}: MergeCommentsTask): Promise<Outcome<{ temporary: string; hash: string; bytes: number }>> {
  const opened = await openPdf(new Uint8Array(readFileSync(file.path)), file.name);
  if (!opened.ok) return opened;
  const bytes = await withComments(opened.value.document);
  const whole = new WholeFile(folder);
  whole.write(bytes);
  return { ok: true, value: { hash: whole.sync(), temporary: whole.temporary, bytes: bytes.length } };
}
