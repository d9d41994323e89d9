import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { faceIn, ProblemError, type OwnTypeface, type Problem } from '@folvex/core';
import { openTypefaces, sha256, type TypefaceFile } from '@folvex/press';

/** The typefaces of a job in the folder of its file, and what is wrong with those that cannot be used. */
export async function findTypefaces(
  typefaces: readonly OwnTypeface[],
  folder: string,
): Promise<{ typefaces: TypefaceFile[]; problems: Problem[] }> {
  const found: TypefaceFile[] = [];
  const problems: Problem[] = [];
  for (const typeface of typefaces) {
    const { id, file, asked } = typeface;
    const place = { path: `project.typefaces ${id}` };
    try {
      const opened = faceIn(await openTypefaces(readFileSync(resolve(folder, file)), file), typeface);
      found.push({ id, asked: asked.length > 0 ? asked : opened.asked, ...written(opened.bytes) });
    } catch (error) {
      const sentence = `The typeface ${file} does not exist; put it next to the job file or correct its path.`;
      problems.push(
        error instanceof ProblemError ? { ...error.problem, place } : { code: 'typeface.missing', sentence, place },
      );
    }
  }
  return { typefaces: found, problems };
}

let temporary: string | undefined;

/** A typeface as a file of its own, which is gone when the process ends. */
function written(bytes: Uint8Array): { hash: string; path: string } {
  if (temporary === undefined) {
    const folder = mkdtempSync(join(tmpdir(), 'folvex-typefaces-'));
    temporary = folder;
    process.once('exit', () => rmSync(folder, { recursive: true, force: true }));
  }
  const hash = sha256(bytes);
  const path = join(temporary, hash);
  writeFileSync(path, bytes);
  return { hash, path };
}
