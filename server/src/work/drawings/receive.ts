import { randomUUID } from 'node:crypto';
import type { DrawingInfo, OfferAnswer, OfferedFile, Received } from '@folvex/contract';
import { ProblemError } from '@folvex/core';
import type { InspectedDrawing, Press } from '@folvex/press';
import type { Database } from '../../data/database';
import {
  addDrawing,
  addVersion,
  drawingById,
  drawingInfoOf,
  findDrawing,
  olderDrawing,
  type DrawingRow,
} from '../../data/drawings';
import { isOfferedFile, saveOfferedFile } from '../../data/offered-files';
import type { Store } from '../../files/store';

export interface ReceiveDeps {
  db: Database;
  store: Store;
  press: Press;
}

/** What a file is: as it is told to whoever sent it, or a new drawing. */
export type Recognised = Exclude<Received, { outcome: 'added' }> | { outcome: 'new'; inspected: InspectedDrawing };

/**
 * Says what a file that was sent is: a new drawing, one that is here already, the newer version of another, or one that
 * needs a password. Only a new drawing is taken in at once. `newerOf` names the drawing it is meant to be newer than.
 */
export async function receiveDrawing(
  desk: ReceiveDeps,
  projectId: string,
  file: OfferedFile,
  newerOf?: string,
): Promise<Received> {
  const found = await recognise(desk, projectId, file, newerOf);
  const received = found.outcome === 'new' ? await add(desk, projectId, file, found.inspected, 'refuse') : found;
  if ('offered' in received) await saveOfferedFile(desk.db, projectId, file.hash);
  return received;
}

/** Says the same and takes nothing in. Rejects with a `ProblemError` where the file cannot be read. */
export async function recognise(
  desk: ReceiveDeps,
  projectId: string,
  file: OfferedFile,
  newerOf?: string,
): Promise<Recognised> {
  const { db } = desk;
  const same = await findDrawing(db, projectId, { hash: file.hash });
  if (same) return { outcome: 'known', drawing: await infoOf(db, same.id) };
  const inspected = await inspect(desk, file);
  if ('outcome' in inspected) return inspected;
  const meant = newerOf === undefined ? undefined : await drawingById(db, newerOf);
  const older = meant?.projectId === projectId ? meant.id : await olderDrawing(db, projectId, file.name);
  if (older !== undefined) return { outcome: 'newer', drawing: await infoOf(db, older), offered: file };
  return { outcome: 'new', inspected };
}

/** Does with an offered file what was decided. */
export async function answerOffer(desk: ReceiveDeps, projectId: string, answer: OfferAnswer): Promise<Received> {
  const { db } = desk;
  const { name, hash } = answer.offered;
  if (!(await isOfferedFile(db, projectId, hash))) throw gone(name);
  const received = await takeOffer(desk, projectId, answer);
  if ('offered' in received) await saveOfferedFile(db, projectId, received.offered.hash);
  return received;
}

/** The same for a file that the project has a right to. */
export async function takeOffer(desk: ReceiveDeps, projectId: string, answer: OfferAnswer): Promise<Received> {
  const { db, store, press } = desk;
  const { offered, as } = answer;
  if (!(await store.has(offered.hash))) throw gone(offered.name);
  if (as === 'unlock') {
    const file = { name: offered.name, path: await store.localFile(offered.hash) };
    const opened = await press.unlock({ file, password: answer.password ?? '', folder: store.workFolder });
    if (!opened.ok) return { outcome: 'locked', offered, problem: opened.problem };
    const { temporary, hash, bytes } = opened.value;
    await store.adopt(temporary, hash);
    const open = { name: offered.name, hash, bytes };
    const found = await recognise(desk, projectId, open, answer.drawing);
    return found.outcome === 'new' ? add(desk, projectId, open, found.inspected, 'refuse') : found;
  }
  const inspected = await inspect(desk, offered);
  if ('outcome' in inspected) return inspected;
  if (as === 'drawing') {
    return add(desk, projectId, offered, inspected, 'allow');
  }
  const row = answer.drawing === undefined ? undefined : await drawingById(db, answer.drawing);
  if (!row || row.projectId !== projectId) {
    const sentence = `The drawing that ${offered.name} is a newer version of no longer exists; reload the page.`;
    throw new ProblemError({ code: 'drawing.gone', sentence, place: { file: offered.name } });
  }
  await addVersion(db, row.id, { ...offered, facts: inspected.facts, miniature: await miniatureOf(store, inspected) });
  return { outcome: 'added', drawing: await infoOf(db, row.id) };
}

function gone(name: string): ProblemError {
  return new ProblemError({
    code: 'upload.gone',
    sentence: `${name} is no longer on the server; send it again.`,
    place: { file: name },
  });
}

/** Draws the comments and marks in a PDF into its pages: a newer version of the drawing, unless there are none to draw. */
export async function mergeComments(desk: ReceiveDeps, { id, name, hash: from }: DrawingRow): Promise<DrawingInfo> {
  const { db, store, press } = desk;
  const file = { name, path: await store.localFile(from) };
  const made = await press.mergeComments({ file, folder: store.workFolder });
  if (!made.ok) throw new ProblemError(made.problem);
  if (!made.value) return infoOf(db, id);
  const { temporary, hash, bytes } = made.value;
  await store.adopt(temporary, hash);
  const inspected = await inspect(desk, { name, hash, bytes });
  if ('outcome' in inspected) throw new ProblemError(inspected.problem);
  const { facts } = inspected;
  await addVersion(db, id, { name, hash, bytes, facts, miniature: await miniatureOf(store, inspected) });
  return infoOf(db, id);
}

/** Inspects a file; one protected by a password is reported as such, any other that cannot be read is refused. */
async function inspect(
  { store, press }: ReceiveDeps,
  file: OfferedFile,
): Promise<InspectedDrawing | Extract<Received, { outcome: 'locked' }>> {
  const path = await store.localFile(file.hash);
  const inspected = await press.inspect({ name: file.name, hash: file.hash, path });
  if (inspected.ok) return inspected.value;
  const { problem } = inspected;
  if (problem.code === 'pdf.password') return { outcome: 'locked', offered: file, problem };
  throw new ProblemError(problem);
}

async function add(
  { db, store }: ReceiveDeps,
  projectId: string,
  file: OfferedFile,
  inspected: InspectedDrawing,
  nameTaken: 'refuse' | 'allow',
): Promise<Received> {
  const { name, hash, bytes } = file;
  const id = randomUUID();
  const miniature = await miniatureOf(store, inspected);
  const row = { id, projectId, name, hash, bytes, unit: null, facts: inspected.facts, miniature };
  const added = await addDrawing(db, row, nameTaken);
  if (added === 'added') return { outcome: 'added', drawing: await infoOf(db, id) };
  if ('known' in added) return { outcome: 'known', drawing: await infoOf(db, added.known) };
  return { outcome: 'newer', drawing: await infoOf(db, added.sameName), offered: file };
}

async function miniatureOf(store: Store, { miniature }: InspectedDrawing): Promise<string | null> {
  return miniature && store.put(miniature);
}

async function infoOf(db: Database, id: string) {
  const info = await drawingInfoOf(db, id);
  if (!info) throw new Error('a drawing that was just there is gone');
  return info;
}
