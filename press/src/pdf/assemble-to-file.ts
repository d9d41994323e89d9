import { readFileSync } from 'node:fs';
import { performance } from 'node:perf_hooks';
import {
  unpackParts,
  type Group,
  type PlannedFile,
  type ProjectFacts,
  type Recipe,
  type Sheet,
  type SheetPackage,
} from '@folvex/core';
import { assembleFile } from './assemble';
import { WholeFile, type WrittenFile } from '../files/whole-file';
import { fontsWith, type TypefaceFile } from '../typefaces/own';
import { protectionOf, type Lock } from './protect';
import { pdfTools } from './tools';

/** One file to put together from parts stored in files. */
export interface AssemblyTask {
  project: ProjectFacts;
  package: SheetPackage;
  sheets: Sheet[];
  plan: { files: PlannedFile[]; sheets: Pick<Sheet, 'id' | 'number'>[] };
  groups: Pick<Group, 'id' | 'name'>[];
  recipe: Recipe;
  /** What the file is protected by; absent: nothing. */
  lock?: Lock;
  file: PlannedFile;
  /** By sheet: the path of its packed part, and its SHA-256. */
  parts: Record<string, { path: string; hash: string }>;
  /** Files of the project's typefaces. */
  typefaces?: TypefaceFile[];
  /** Folder for the result. */
  folder: string;
}

export interface AssembledFile extends WrittenFile {
  pages: number;
  /** What assembling took. */
  milliseconds: number;
}

/** Assembles a file under a temporary name; one part at a time is in memory. */
export async function assembleToFile(task: AssemblyTask): Promise<AssembledFile> {
  const start = performance.now();
  const tools = await pdfTools(fontsWith(task.typefaces));
  const whole = new WholeFile(task.folder);
  try {
    const { project, package: pack, sheets, plan, groups, recipe, lock, file, parts } = task;
    const partHash = (id: string): string => parts[id]!.hash;
    const unpacked = (id: string) => unpackParts(readFileSync(parts[id]!.path));
    const input = {
      project,
      package: pack,
      sheets,
      plan,
      groups,
      recipe,
      ...(lock && { protection: protectionOf(lock) }),
      file,
      partHash,
      parts: unpacked,
    };
    const { bytes, pages } = assembleFile(input, tools, whole);
    const hash = whole.sync();
    return { temporary: whole.temporary, hash, bytes, pages, milliseconds: performance.now() - start };
  } catch (error) {
    whole.discard();
    throw error;
  }
}
