import { writeFileSync } from 'node:fs';
import { paperOf } from '@folvex/core';
import { testSheetPdf } from '@folvex/press';
import { DONE, printProblems, STOPPED, UNREADABLE } from './console';

/** Writes the test sheet of a named paper; returns the exit code of the command. */
export async function writeTestSheet(name: string, file: string): Promise<number> {
  const paper = paperOf(name);
  if (!paper) {
    const sentence = `There is no paper "${name}"; write a size such as A3 or "D (ASME)".`;
    printProblems([{ code: 'job.value', sentence, place: {} }]);
    return UNREADABLE;
  }
  const pdf = await testSheetPdf(paper, name);
  try {
    // Never over a file that is there.
    writeFileSync(file, pdf, { flag: 'wx' });
    return DONE;
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    const there = code === 'EEXIST';
    const sentence = there
      ? 'The file is there already; choose another name.'
      : `The file cannot be written (${code}); choose another folder.`;
    printProblems([{ code: there ? 'file.exists' : 'file.write', sentence, place: { file } }]);
    return STOPPED;
  }
}
