import { performance } from 'node:perf_hooks';
import type { ComposedFacts, Outcome, Problem } from '@folvex/core';
import { writtenTo, type WrittenFile } from './files/whole-file';
import type { ExtraFormatFile, FormatsTask } from './formats';
import { composeAndInk } from './sheet/compose';
import { pageFacts } from './sheet/page-facts';
import { attempt } from './sheet/sheet-task';
import { writeSheetPart } from './sheet/write-part';

/** A sheet to write: as a part of PDF files, in other formats, or both. */
export interface MakeSheetTask extends FormatsTask {
  /** Whether its part of PDF files is wanted. */
  part: boolean;
}

export interface MadeSheet {
  /** Absent where it was not asked for. */
  part?: WrittenFile;
  extraFormats: ExtraFormatFile[];
  /** What checks look at. */
  facts: ComposedFacts;
  /** Time that making all of it took. */
  milliseconds: number;
  warnings: Problem[];
}

/** Composes and inks a sheet once, and writes it in all forms asked for; what a person must fix comes back as a problem. */
export function makeSheet(task: MakeSheetTask): Promise<Outcome<MadeSheet>> {
  return attempt(task, async () => {
    const start = performance.now();
    const sheet = await composeAndInk(task);
    const part = task.part ? writtenTo(task.folder, await writeSheetPart(sheet, task)) : undefined;
    // Painting pictures brings much code with it that most threads never need.
    const extraFormats = task.formats.length > 0 ? await (await import('./formats')).writeFormats(sheet, task) : [];
    const facts = pageFacts(sheet, task);
    const { warnings } = sheet;
    return { ...(part && { part }), extraFormats, facts, milliseconds: performance.now() - start, warnings };
  });
}
