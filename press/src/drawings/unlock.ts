import type { Outcome } from '@folvex/core';
import { openPdf, withoutProtection } from '@folvex/core/foreign';
import { readFileSync } from 'node:fs';
import type { DrawingFile } from './load-drawing';
import { writtenTo, type WrittenFile } from '../files/whole-file';

export interface UnlockTask {
  file: Pick<DrawingFile, 'name' | 'path'>;
  password: string;
  /** Folder for the result. */
  folder: string;
}

/** Writes a protected PDF again without its protection; the password is not kept. */
export async function unlockPdf({ file, password, folder }: UnlockTask): Promise<Outcome<WrittenFile>> {
  const opened = await openPdf(new Uint8Array(readFileSync(file.path)), file.name, password);
  if (!opened.ok) return opened;
  const bytes = await withoutProtection(opened.value.document);
  return { ok: true, value: writtenTo(folder, bytes) };
}
