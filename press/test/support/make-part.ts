import type { Outcome } from '@folvex/core';
import { makeSheet, type MadeSheet, type SheetTask, type WrittenFile } from '../../src/index';

/** Makes a sheet's part of PDF files only. */
export async function makePart(
  task: SheetTask & { folder: string },
): Promise<Outcome<WrittenFile & Pick<MadeSheet, 'milliseconds' | 'warnings'>>> {
  const made = await makeSheet({ ...task, part: true, formats: [] });
  if (!made.ok) return made;
  const { part, milliseconds, warnings } = made.value;
  return { ok: true, value: { ...part!, milliseconds, warnings } };
}
