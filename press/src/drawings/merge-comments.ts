import { readFileSync } from 'node:fs';
import type { Outcome } from '@folvex/core';
import { openPdf, withComments } from '@folvex/core/foreign';
import { writtenTo, type WrittenFile } from '../files/whole-file';
import type { DrawingFile } from './load-drawing';

export interface MergeCommentsTask {
  file: Pick<DrawingFile, 'name' | 'path'>;
  /** Folder for the result. */
  folder: string;
}

/** Writes a PDF again with the comments and marks of its readers in its pages; null where it draws none. */
export async function mergeComments({ file, folder }: MergeCommentsTask): Promise<Outcome<WrittenFile | null>> {
  const opened = await openPdf(new Uint8Array(readFileSync(file.path)), file.name);
  if (!opened.ok) return opened;
  const bytes = await withComments(opened.value.document);
  if (!bytes) return { ok: true, value: null };
  return { ok: true, value: writtenTo(folder, bytes) };
}
