import { randomUUID } from 'node:crypto';
import { posix } from 'node:path';
import { PassThrough } from 'node:stream';
import type { OfferedFile } from '@folvex/contract';
import { isIgnored, MAX_DRAWING_BYTES, ProblemError, takesAtOnce, tooLargeSentence, type Problem } from '@folvex/core';
import { openInbox, StepFailed, type FileBelow, type FileSource } from '@folvex/press';
import {
  addArrival,
  changeArrival,
  forgetArrival,
  latestArrivals,
  saveInboxState,
  watchedInboxes,
  type ArrivalRow,
  type WatchedInbox,
} from '../../data/arrivals';
import { recordAudit } from '../../data/audit';
import { databaseTime } from '../../data/clock';
import { earlierVersion } from '../../data/drawings';
import { isDatabaseAway, type Connection } from '../../data/database';
import { exclusively } from '../../data/exclusively';
import { loginOf, transferServerById } from '../../data/transfer-servers';
import type { Received as StoredContent } from '../../files/store';
import { recognise, takeOffer, type ReceiveDeps } from '../drawings/receive';
import type { Services } from '../services';
import { refuseFullProject } from '../storage';

/** What polling inboxes works with. */
export interface InboxDeps extends ReceiveDeps, Pick<Services, 'sealer' | 'maxProjectBytes'> {
  /** The folder below which inboxes of this machine are. */
  inboxFolder: string;
}

/** A file that has not changed for this long is complete, ms. */
export const SETTLED_MS = 10_000;

/** Polls every inbox, by the clock of the database, unless another worker is doing it. */
export async function pollInboxes(connection: Connection, deps: InboxDeps): Promise<void> {
  await exclusively(connection.pool, 'inboxes', async () => pollAt(deps, await databaseTime(connection.db)));
}

/** Polls every inbox. `now`: ms since 1970. */
export async function pollAt(deps: InboxDeps, now: number): Promise<void> {
  // Side by side: a slow server does not hold up the other inboxes.
  const polls = (await watchedInboxes(deps.db)).map((watched) => poll(deps, watched, now));
  const failed = (await Promise.allSettled(polls)).find(({ status }) => status === 'rejected');
  if (failed) throw (failed as PromiseRejectedResult).reason as Error;
}

async function poll(deps: InboxDeps, watched: WatchedInbox, now: number): Promise<void> {
  let port: FileSource | undefined;
  let problem: Problem | null = null;
  let isShorter = false;
  try {
    port = await open(deps, watched);
    const known = await latestArrivals(deps.db, watched.projectId, watched.inbox.id);
    const files = (await port.files()).filter(({ path }) => !isIgnored(path));
    const there = new Set(files.map(({ path }) => path));
    const gone = [...known.values()].filter(({ path, state }) => state === 'arriving' && !there.has(path));
    for (const { id } of gone) await forgetArrival(deps.db, id);
    isShorter = gone.length > 0;
    for (const file of files) {
      try {
        await note(deps, watched, port, { file, last: known.get(file.path), now });
      } catch (error) {
        // A file that cannot be read does not hold up the others.
        problem ??= problemOf(error, file.path);
        if (error instanceof StepFailed) break;
      }
    }
  } catch (error) {
    problem = problemOf(error, port?.where ?? watched.inbox.name);
  } finally {
    await port?.close();
  }
  const state = { location: port?.where ?? null, problem, polledAt: new Date(now) };
  await saveInboxState(deps.db, watched, state, isShorter);
}

async function open({ db, sealer, inboxFolder }: InboxDeps, { projectId, inbox }: WatchedInbox): Promise<FileSource> {
  const row = inbox.server === undefined ? undefined : await transferServerById(db, projectId, inbox.server);
  return openInbox(inbox, { inboxFolder, login: row && loginOf(row, sealer.unseal) });
}

/** Takes note of a file that is new or has changed; receives one that has not changed for a while. */
async function note(
  deps: InboxDeps,
  { projectId, inbox }: WatchedInbox,
  port: FileSource,
  { file, last, now }: { file: FileBelow; last: ArrivalRow | undefined; now: number },
): Promise<void> {
  const { path, bytes } = file;
  const seen = { bytes, writtenAt: new Date(Math.trunc(file.writtenAt)), seenAt: new Date(now) };
  const isSame = last?.bytes === bytes && last.writtenAt.getTime() === seen.writtenAt.getTime();
  if (last?.state === 'arriving' && !isSame) return void (await changeArrival(deps.db, last, seen));
  if (!last || !isSame) {
    if (last?.state === 'waiting') await changeArrival(deps.db, last, { state: 'replaced', offered: null });
    const named = { id: randomUUID(), projectId, inboxId: inbox.id, inboxName: inbox.name, path };
    return addArrival(deps.db, { ...named, ...seen, state: 'arriving' });
  }
  if (last.state !== 'arriving' || now - last.seenAt.getTime() < SETTLED_MS) return;
  const became = await receive(deps, { projectId, inbox }, port, last);
  if (!became || !(await changeArrival(deps.db, last, became))) return;
  await recordAudit(deps.db, { by: null, event: 'inbox.arrived', projectId, subject: `${inbox.name}: ${path}` });
}

/** What becomes of a complete file; undefined where it has changed in the meantime. Rejects where it cannot be fetched. */
async function receive(
  deps: InboxDeps,
  { projectId, inbox }: WatchedInbox,
  port: FileSource,
  { path, bytes }: ArrivalRow,
): Promise<Partial<ArrivalRow> | undefined> {
  const name = posix.basename(path);
  const refused = (problem: Problem): Partial<ArrivalRow> => ({ state: 'refused', problem });
  if (/\.zip$/i.test(name)) {
    const sentence = `${name} is an archive; unpack it into the folder, or add it under Gather.`;
    return refused({ code: 'inbox.archive', sentence, place: { file: name } });
  }
  if (bytes > MAX_DRAWING_BYTES)
    return refused({ code: 'upload.too-large', sentence: tooLargeSentence(name), place: { file: name } });
  await refuseFullProject(deps, projectId);
  const offered = { name, ...(await fetched(deps, port, path)) };
  if (offered.bytes !== bytes) return undefined;
  // An old version that is sent again must not replace the newer ones.
  const earlier = await earlierVersion(deps.db, projectId, offered.hash);
  if (earlier) return { state: 'known', ...earlier };
  return received(deps, { projectId, inbox }, offered).catch((error: unknown) => {
    if (error instanceof ProblemError) return refused(error.problem);
    throw error;
  });
}

/** What becomes of a file in the store. Rejects with a `ProblemError` where it cannot be read. */
async function received(
  deps: InboxDeps,
  { projectId, inbox }: WatchedInbox,
  offered: OfferedFile,
): Promise<Partial<ArrivalRow>> {
  const found = await recognise(deps, projectId, offered);
  if (found.outcome === 'known') return { state: 'known', drawingId: found.drawing.id, version: found.drawing.version };
  if (found.outcome === 'locked') return { state: 'waiting', offered, problem: found.problem };
  const older = found.outcome === 'newer' ? found.drawing.id : null;
  if (takesAtOnce(inbox, older !== null)) {
    const answer = older === null ? { as: 'drawing' as const } : { as: 'version' as const, drawing: older };
    const taken = await takeOffer(deps, projectId, { offered, ...answer });
    if ('drawing' in taken) return { state: 'taken', drawingId: taken.drawing.id, version: taken.drawing.version };
  }
  return { state: 'waiting', offered, drawingId: older };
}

/** Brings the content of a file into the store. */
async function fetched({ store }: InboxDeps, port: FileSource, path: string): Promise<StoredContent> {
  const stream = new PassThrough();
  const copying = port.copyTo(path, stream).catch((error: unknown) => {
    stream.destroy(error as Error);
    throw error;
  });
  const [content] = await Promise.all([store.receive(stream, () => undefined), copying]);
  return content;
}

/** Why a file, or all of an inbox, cannot be read. Rethrows what is no fault of theirs. */
function problemOf(error: unknown, where: string): Problem {
  if (error instanceof ProblemError) return error.problem;
  if (error instanceof StepFailed) return { code: 'inbox.away', sentence: error.sentence, place: {} };
  if (isDatabaseAway(error)) throw error;
  const code = (error as NodeJS.ErrnoException).code ?? (error as Error).message;
  const sentence = `${where} cannot be read (${code}); make sure that it can be reached and that Folvex may read it.`;
  return { code: 'inbox.away', sentence, place: {} };
}
