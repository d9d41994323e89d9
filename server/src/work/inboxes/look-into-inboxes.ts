import { randomUUID } from 'node:crypto';
import { PassThrough } from 'node:stream';
import type { ArrivalState } from '@folvex/contract';
import {
  isPassedOver,
  MAX_DRAWING_BYTES,
  ProblemError,
  takesAtOnce,
  tooLargeSentence,
  type Problem,
} from '@folvex/core';
import { openInbox, StepFailed, type FileBelow, type FileSource } from '@folvex/press';
import {
  addArrival,
  changeArrival,
  fileNameOf,
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
import type { Connection } from '../../data/database';
import { exclusively } from '../../data/exclusively';
import { loginOf, transferServerById } from '../../data/transfer-servers';
import type { Received as StoredContent } from '../../files/store';
import { recognise, takeOffer, type ReceiveDeps } from '../drawings/receive';
import type { Services } from '../services';
import { refuseFullProject } from '../storage';

/** What looking into inboxes works with. */
export interface InboxDeps extends ReceiveDeps, Pick<Services, 'sealer' | 'maxProjectBytes'> {
  /** The folder below which inboxes of this machine are. */
  inboxFolder: string;
}

/** A file that has not changed for this long is complete, ms. */
export const SETTLED_MS = 10_000;

/** Looks into every inbox, by the clock of the database; not where another worker is at it. */
export async function lookIntoInboxes(connection: Connection, deps: InboxDeps): Promise<void> {
  await exclusively(connection.pool, 'inboxes', async () => lookInto(deps, await databaseTime(connection.db)));
}

/** Looks into every inbox. `now`: ms since 1970. */
export async function lookInto(deps: InboxDeps, now: number): Promise<void> {
  // Side by side: one whose server is slow does not hold up the others.
  const looks = (await watchedInboxes(deps.db)).map((watched) => lookIntoOne(deps, watched, now));
  const failed = (await Promise.allSettled(looks)).find((look) => look.status === 'rejected');
  if (failed) throw failed.reason as Error;
}

async function lookIntoOne(deps: InboxDeps, watched: WatchedInbox, now: number): Promise<void> {
  let port: FileSource | undefined;
  let problem: Problem | null = null;
  try {
    port = await open(deps, watched);
    const known = await latestArrivals(deps.db, watched.projectId, watched.inbox.id);
    const files = (await port.files()).filter(({ path }) => !isPassedOver(path));
    const there = new Set(files.map(({ path }) => path));
    for (const { id, path, state } of known.values())
      if (state === 'arriving' && !there.has(path)) await forgetArrival(deps.db, id);
    for (const file of files) {
      try {
        await see(deps, watched, port, { file, last: known.get(file.path), now });
      } catch (error) {
        // One file that cannot be fetched does not hold up the others.
        problem ??= problemOf(error, file.path);
        if (error instanceof StepFailed) break;
      }
    }
  } catch (error) {
    problem = problemOf(error, port?.where ?? watched.inbox.name);
  } finally {
    await port?.close();
  }
  const state = { location: port?.where ?? null, problem, lookedAt: new Date(now) };
  await saveInboxState(deps.db, watched, state);
}

async function open({ db, sealer, inboxFolder }: InboxDeps, { projectId, inbox }: WatchedInbox): Promise<FileSource> {
  const row = inbox.server === undefined ? undefined : await transferServerById(db, projectId, inbox.server);
  return openInbox(inbox, { inboxFolder, login: row && loginOf(row, sealer.unseal) });
}

/** Notes a file that is new or has changed, and receives one that has not changed for a while. */
async function see(
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
    if (last?.state === 'waiting') await changeArrival(deps.db, last, { state: 'replaced', hash: null });
    const named = { id: randomUUID(), projectId, inboxId: inbox.id, inboxName: inbox.name, path };
    return addArrival(deps.db, { ...named, ...seen, state: 'arriving', changedAt: seen.seenAt });
  }
  if (last.state !== 'arriving' || now - last.seenAt.getTime() < SETTLED_MS) return;
  const became = await receive(deps, { projectId, inbox }, port, last);
  if (!became || !(await changeArrival(deps.db, last, became))) return;
  await recordAudit(deps.db, { by: null, event: 'inbox.arrived', projectId, subject: `${inbox.name}: ${path}` });
}

/** What becomes of a file that is complete; undefined where it has changed meanwhile. Rejects where it cannot be fetched. */
async function receive(
  deps: InboxDeps,
  { projectId, inbox }: WatchedInbox,
  port: FileSource,
  { path, bytes }: ArrivalRow,
): Promise<Partial<ArrivalRow> | undefined> {
  const name = fileNameOf(path);
  const refused = (problem: Problem): Partial<ArrivalRow> => ({ state: 'refused', problem });
  if (/\.zip$/i.test(name)) {
    const sentence = `${name} is an archive; unpack it into the folder, or add it under Gather.`;
    return refused({ code: 'inbox.archive', sentence, place: { file: name } });
  }
  if (bytes > MAX_DRAWING_BYTES)
    return refused({ code: 'upload.too-large', sentence: tooLargeSentence(name), place: { file: name } });
  await refuseFullProject(deps, projectId);
  const content = await fetched(deps, port, path);
  if (content.bytes !== bytes) return undefined;
  const offered = { name, ...content };
  const earlier = await earlierVersion(deps.db, projectId, content.hash);
  // Sent once more, it must not take the place of what came after it.
  if (earlier) return { hash: content.hash, ...earlier, state: 'known' };
  try {
    const found = await recognise(deps, projectId, offered);
    const { hash } = content;
    const drawing = 'drawing' in found ? found.drawing : undefined;
    const of = { hash, drawingId: drawing?.id ?? null };
    if (found.outcome === 'known') return { ...of, state: 'known', version: drawing!.version };
    const waiting: ArrivalState = 'waiting';
    if (found.outcome === 'locked') return { ...of, state: waiting, problem: found.problem };
    if (!takesAtOnce(inbox, found.outcome === 'newer')) return { ...of, state: waiting };
    const as = found.outcome === 'newer' ? 'version' : 'drawing';
    const taken = await takeOffer(deps, projectId, { offered, as, ...(drawing && { drawing: drawing.id }) });
    if (!('drawing' in taken)) return { ...of, state: waiting };
    return { hash, drawingId: taken.drawing.id, version: taken.drawing.version, state: 'taken' };
  } catch (error) {
    if (error instanceof ProblemError) return refused(error.problem);
    throw error;
  }
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

/** Why an inbox cannot be looked into. */
function problemOf(error: unknown, where: string): Problem {
  if (error instanceof ProblemError) return error.problem;
  if (error instanceof StepFailed) return { code: 'inbox.away', sentence: error.sentence, place: {} };
  const code = (error as NodeJS.ErrnoException).code ?? (error as Error).message;
  const sentence = `${where} cannot be looked into (${code}); make sure that it can be reached and read.`;
  return { code: 'inbox.away', sentence, place: {} };
}
