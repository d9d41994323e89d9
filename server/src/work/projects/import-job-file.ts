import { randomUUID } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { basename, dirname, resolve, sep } from 'node:path';
import { faceIn, ProblemError, readJobFile, withoutPasswords, type JobFile, type OwnTypeface } from '@folvex/core';
import type { Press } from '@folvex/press';
import type { Store } from '../../files/store';
import type { Database } from '../../data/database';
import type { NewDrawing } from '../../data/drawings';
import { takenIn } from './typeface-files';
import { insertProject } from '../../data/projects';

/**
 * Makes a project from a job file and the drawings next to it; returns its id. Throws a `ProblemError` when something
 * in it cannot be read, and the signal's reason once it is aborted; then nothing is made.
 */
export async function importJobFile(
  db: Database,
  store: Store,
  press: Press,
  jobFile: string,
  signal?: AbortSignal,
): Promise<string> {
  const read = readJobFile(await readFile(jobFile, 'utf8'));
  if (!read.ok) throw new ProblemError(read.problems[0]!);
  const projectId = randomUUID();
  const received: NewDrawing[] = [];
  const ids = new Map<string, string>();
  for (const { id, file, unit, windows = [] } of read.job.drawings) {
    signal?.throwIfAborted();
    const { hash, bytes } = await receiveNamed(store, dirname(jobFile), file);
    const inspected = await press.inspect({ name: basename(file), hash, path: await store.localFile(hash) });
    if (!inspected.ok) throw new ProblemError(inspected.problem);
    const { facts, miniature } = inspected.value;
    ids.set(id, randomUUID());
    received.push({
      id: ids.get(id)!,
      projectId,
      name: basename(file),
      hash,
      bytes,
      unit: unit ?? null,
      facts,
      miniature: miniature && (await store.put(miniature)),
      windows,
    });
  }
  const typefaces = await Promise.all(
    (read.job.project.typefaces ?? []).map((typeface) => takeInTypeface(store, press, dirname(jobFile), typeface)),
  );
  signal?.throwIfAborted();
  const job = { ...read.job, project: { ...read.job.project, ...(typefaces.length > 0 && { typefaces }) } };
  await insertProject(db, projectId, withDrawingIds(job, ids), received);
  return projectId;
}

/** Takes a file that a job file names into the store. Job files come from anywhere: they reach no file outside their folder. */
async function receiveNamed(store: Store, folder: string, file: string): Promise<{ hash: string; bytes: number }> {
  const refuse = (sentence: string): ProblemError =>
    new ProblemError({ code: 'job.file', sentence: `The job file names ${file}, which ${sentence}`, place: { file } });
  const path = resolve(folder, file);
  if (!path.startsWith(resolve(folder) + sep)) throw refuse('is outside the folder of the job file; move it there.');
  return store
    .receive(createReadStream(path), () => undefined)
    .catch((error: NodeJS.ErrnoException) => {
      throw error.code === 'ENOENT' ? refuse('is not next to it; add the file, or remove its entry.') : error;
    });
}

/** Takes the typeface of a job file into the store, and says what it is. */
async function takeInTypeface(store: Store, press: Press, folder: string, typeface: OwnTypeface): Promise<OwnTypeface> {
  const { face: _, ...kept } = typeface;
  const { file, asked } = typeface;
  const { hash: sent } = await receiveNamed(store, folder, file);
  const held = await takenIn({ press, store }, file, await store.localFile(sent));
  const { hash, embedding, asked: usual } = faceIn(held, typeface);
  const names = asked.length > 0 ? asked : usual;
  return { ...kept, file: basename(file), hash, asked: names, ...(embedding !== 'subset' && { embedding }) };
}

/** Ids of drawings are unique across projects in the database, in a job file only within it. */
function withDrawingIds(job: JobFile, ids: ReadonlyMap<string, string>): JobFile {
  const known = <T extends { drawing?: string }>(shown: T): T =>
    shown.drawing === undefined ? shown : { ...shown, drawing: ids.get(shown.drawing) ?? shown.drawing };
  const sheets = job.sheets.map((sheet) => ({
    ...sheet,
    views: sheet.views.map(known),
    ...(sheet.notes && { notes: sheet.notes.map(known) }),
    ...(sheet.from && { from: known(sheet.from) }),
  }));
  const titleBlocks = job.project.titleBlocks?.map((block) => ({ ...block, cells: block.cells.map(known) }));
  const recipes = job.recipes.map(withoutPasswords);
  const packages = job.packages.map((pack) => ({ ...pack, ...(pack.extras && { extras: pack.extras.map(known) }) }));
  return { ...job, recipes, packages, project: { ...job.project, ...(titleBlocks && { titleBlocks }) }, sheets };
}
