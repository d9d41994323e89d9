import { readFileSync, statSync } from 'node:fs';
import { basename, resolve } from 'node:path';
import {
  MAX_DRAWING_BYTES,
  readJobFile,
  tooLargeSentence,
  type JobFile,
  type JobFileDrawing,
  type JobFileResult,
  type Problem,
  type SheetPackage,
} from '@folvex/core';
import { lockFor, sha256, type DrawingFile, type Lock } from '@folvex/press';

/** Reads a job file from a path. */
export function loadJobFile(path: string): JobFileResult {
  try {
    return readJobFile(readFileSync(path, 'utf8'));
  } catch (error) {
    const sentence = `${path} cannot be read (${(error as NodeJS.ErrnoException).code ?? 'error'}); give the path of a job file.`;
    return { ok: false, problems: [{ code: 'job.file', sentence, place: {} }] };
  }
}

/** The package of a job that is asked for, or the only one; else the sentence that says what there is. */
export function packageOf(job: JobFile, id: string | undefined): SheetPackage | string {
  const names = job.packages.map((pack) => pack.id).join(', ');
  if (!id && job.packages.length === 1) return job.packages[0]!;
  if (!id) return `Say with --package which of these to publish: ${names || 'none'}.`;
  return (
    job.packages.find((pack) => pack.id === id) ?? `There is no package "${id}"; the job file has ${names || 'none'}.`
  );
}

/** The drawings of a job in the folder of its file, and what is wrong with those that cannot be used. */
export function findDrawings(
  drawings: readonly JobFileDrawing[],
  folder: string,
): { drawings: DrawingFile[]; problems: Problem[] } {
  const found: DrawingFile[] = [];
  const problems: Problem[] = [];
  for (const { id, file, unit } of drawings) {
    const path = resolve(folder, file);
    const place = { path: `drawings ${id}` };
    try {
      if (statSync(path).size > MAX_DRAWING_BYTES) {
        problems.push({ code: 'drawing.too-large', sentence: tooLargeSentence(file), place });
      } else found.push({ id, name: basename(file), path, hash: sha256(readFileSync(path)), unit });
    } catch {
      const sentence = `The drawing ${file} does not exist; put it next to the job file or correct its path.`;
      problems.push({ code: 'drawing.missing', sentence, place });
    }
  }
  return { drawings: found, problems };
}

/** What the package's recipe protects its files by; undefined: nothing. */
export function lockOf({ recipes }: JobFile, { recipe }: SheetPackage): Lock | undefined {
  const { protect } = recipes.find(({ id }) => id === recipe) ?? {};
  if (!protect) return undefined;
  const { open = '', change = '', allow = ['print'] } = protect;
  const may = (what: (typeof allow)[number]): boolean => allow.includes(what);
  return lockFor({ open, change }, { print: may('print'), change: may('change'), copy: may('copy') });
}
