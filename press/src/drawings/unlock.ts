import type { Outcome } from '@folvex/core';
import { openPdf, withoutProtection } from '@folvex/core/foreign';
import { readFileSync } from 'node:fs';
import type { DrawingFile } from './load-drawing';
import { WholeFile } from '../files/whole-file';

export interface UnlockTask {
  file: Pick<DrawingFile, 'name' | 'path'>;
  password: string;
  /** Folder for the result. */
  folder: string;
}

/** Writes a protected PDF again without its protection; the password is not kept. */
export async function unlockPdf({
  file,
  password,
  folder,
}: UnlockTask): Promise<Outcome<{ temporary: string; hash: string; bytes: number }>> {
  const opened = await openPdf(new Uint8Array(readFileSync(file.path)), file.name, password);
  if (!opened.ok) return opened;
  const bytes = await withoutProtection(opened.value.document);
  const whole = new WholeFile(folder);
  whole.write(bytes);
  return { ok: true, value: { hash: whole.sync(), temporary: whole.temporary, bytes: bytes.length } };
}
