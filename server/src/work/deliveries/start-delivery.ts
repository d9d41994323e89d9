import type { AtDestination } from '@folvex/contract';
import {
  mailFaults,
  mediaFor,
  plotDraft,
  resolveDestination,
  ProblemError,
  type Destination,
  type Mail,
  type Plot,
} from '@folvex/core';
import { openPlotFiles } from '@folvex/press';
import { inTransaction, type Connection, type Database } from '../../data/database';
import { projectFacts } from '../../data/projects';
import { runById, runFilesOf, type RunFileRow, type RunRow } from '../../data/runs';
import { Refused } from '../../errors';
import type { Store } from '../../files/store';
import { lookInto } from '../destinations';
import type { Queue } from '../queue/queue';
import type { Sealer } from '../access/secrets';
import { addDeliveries } from './add-deliveries';

interface Deps {
  connection: Connection;
  deliveryFolder: string;
  sealer: Sealer;
  store: Store;
  queue: Queue;
}

/** What of a run is at a destination already. Undefined where there is no such run. */
export async function lookForRun(
  deps: Deps,
  runId: string,
  destination: Destination,
): Promise<AtDestination | undefined> {
  const run = await runById(deps.connection.db, runId);
  if (!run) return undefined;
  const files = await runFilesOf(deps.connection.db, runId);
  const { db } = deps.connection;
  const sentTo = await resolved(db, run, destination);
  const paths = files.map(({ path }) => path);
  const found = await lookInto({ ...deps, db }, run.projectId, sentTo, paths);
  return sentTo.kind === 'plotter'
    ? { ...found, ...(await draftOf(deps, run, files, { plot: sentTo, found })) }
    : found;
}

/** What comes out of a plotter for the PDF files of a run; nothing where it is not known which paper it holds. */
async function draftOf(
  { store }: Pick<Deps, 'store'>,
  { input: { project, sheets } }: RunRow,
  files: readonly RunFileRow[],
  { plot, found: { plotter } }: { plot: Plot; found: AtDestination },
): Promise<Pick<AtDestination, 'draft'>> {
  const { media } = mediaFor(plot, project.papers, plotter);
  if (media.length === 0) return {};
  const pdfs = files.filter(({ format }) => format === null);
  const local = pdfs.map(async ({ path, hash }) => ({ path, from: await store.localFile(hash) }));
  const { sources } = await openPlotFiles(await Promise.all(local));
  const numbers = new Map(sheets.map(({ id, number }) => [id, number]));
  // A sheet that is cut in several has several pages, of which nobody knows which is whose.
  const labels = new Map(pdfs.map((file) => [file.path, file.sheets.length === file.pages ? file.sheets : []]));
  const pages = sources.map(({ file, page, ...size }) => {
    const number = numbers.get(labels.get(file)?.[page - 1] ?? '');
    return { ...size, label: number === undefined || number === '' ? `${page}` : number };
  });
  return { draft: plotDraft(pages, plot, media) };
}

/** Has a finished run sent to a destination, in addition to where it was sent before. False where there is no such run. */
export async function startDelivery(
  deps: Deps,
  runId: string,
  destination: Destination,
  startedBy: string | null,
): Promise<boolean> {
  const { connection, queue } = deps;
  const run = await runById(connection.db, runId);
  if (!run) return false;
  if (run.state !== 'done' || run.removedAt)
    throw new Refused(409, 'delivery.run', 'Only a run that is complete, and not removed, can be sent.');
  const sentTo = await resolved(connection.db, run, destination);
  if (sentTo.kind === 'mail') refuseAddresses(sentTo);
  else if ('onConflict' in sentTo && sentTo.onConflict === 'stop') await refuseTaken(deps, run, destination);
  await inTransaction(connection.pool, (tx) => addDeliveries(tx, queue, { runId, startedBy, destination: sentTo }));
  return true;
}

/** Refuses a destination where names are taken. If it cannot be reached now, each name is checked when its file is sent. */
async function refuseTaken(deps: Deps, { id }: RunRow, destination: Destination): Promise<void> {
  const found = await lookForRun(deps, id, destination).catch((error: unknown) => {
    if (error instanceof ProblemError && error.problem.code === 'destination.away') return undefined;
    throw error;
  });
  const [first, ...others] = found?.paths ?? [];
  if (first === undefined) return;
  const taken = others.length === 0 ? `${first} is` : `${first} and ${others.length} more are`;
  const sentence = `${taken} at the destination already, and nothing was sent; choose what to do about files that exist.`;
  throw new Refused(409, 'destination.conflict', sentence, { file: first });
}

function refuseAddresses(mail: Mail): void {
  const [fault] = mailFaults(mail);
  if (fault) throw new Refused(400, fault.code, fault.sentence);
}

/** A destination with the fields in its rules as they were when the run was started, and people as they are now. */
async function resolved(db: Database, { projectId, input }: RunRow, destination: Destination): Promise<Destination> {
  const { package: pack, runDate = '' } = input;
  const people = (await projectFacts(db, projectId))?.facts.people;
  const project = { ...input.project, ...(people && { people }) };
  const outcome = resolveDestination(destination, { project, package: pack, runDate });
  if (!outcome.ok) throw new ProblemError(outcome.problem);
  return outcome.value;
}
