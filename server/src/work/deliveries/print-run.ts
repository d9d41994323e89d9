import { paperTaken, type Plot, type PlotPiece } from '@folvex/core';
import type { Delivered } from '@folvex/contract';
import {
  endedBadly,
  openPlotFiles,
  plannedJobs,
  printJob,
  sha256,
  waitsFor,
  type BadEnd,
  type PlotterFacts,
  type PlotterPort,
} from '@folvex/press';
import { saveReceipts, savePlot, type DeliveryRow } from '../../data/deliveries';
import { projectFacts } from '../../data/projects';
import { runById } from '../../data/runs';
import type { PlotJobRecord, PlotRecord } from '../../model/plot-jobs';
import type { LeasedJob } from '../queue/worker-queue';
import type { RunDeps } from '../runs/run-deps';
import { whileHeld, type Attempt, type UnsentFile } from './attempt';

/**
 * Prints files at true size, or looks how far the plotter is with them. A job is known by its name: after a break it is not
 * sent a second time.
 */
export async function printFiles(
  deps: RunDeps,
  job: LeasedJob,
  { delivery, projectId }: { delivery: DeliveryRow; projectId: string },
  { port, unsent }: { port: PlotterPort; unsent: readonly UnsentFile[] },
): Promise<Attempt> {
  const print = { port, facts: await port.facts() };
  const before = delivery.plot;
  let [files, plot] = [unsent, before];
  if (before && before.renewals !== delivery.renewals) {
    // It was cancelled or given up, and is sent again: what had come out by then is not printed twice.
    files = await settled(deps, job, delivery, { ...print, unsent, plot: before });
    plot = null;
  }
  if (files.length === 0) return { ended: 'through' };
  plot ??= await sendJobs(deps, job, { delivery, projectId }, { ...print, unsent: files });
  if (!plot) return { ended: 'given up' };
  const seen = await lookedAt(print, plot);
  if (!(await whileHeld(deps, job, (db) => savePlot(db, delivery, seen)))) {
    await cancelPrinting(port, seen);
    return { ended: 'given up' };
  }
  if (seen.jobs.some(({ state }) => state === 'open')) return { ended: 'printing' };
  const receipts = files.map((file) => [file.position, outcomeOf(file, seen.jobs, port.where)] as const);
  const goesOn = await whileHeld(deps, job, (db) => saveReceipts(db, delivery, receipts));
  return { ended: goesOn ? 'through' : 'given up' };
}

/** Ends what the plotter was sent before; resolves with the files of which not everything had come out. */
async function settled(
  deps: RunDeps,
  job: LeasedJob,
  delivery: DeliveryRow,
  { port, facts, unsent, plot }: Printing & { plot: PlotRecord },
): Promise<readonly UnsentFile[]> {
  await cancelPrinting(port, plot);
  const { jobs } = await lookedAt({ port, facts }, plot);
  // A job may take a while to end, but what is being cancelled does not come out any more.
  const isOut = ({ position }: UnsentFile): boolean => {
    const own = jobs.filter(({ files }) => files.includes(position));
    return own.length > 0 && own.every(({ state }) => state === 'done');
  };
  const receipts = unsent.filter(isOut).map(({ position, path }) => [position, { path, how: 'printed' }] as const);
  await whileHeld(deps, job, (db) => saveReceipts(db, delivery, receipts));
  return unsent.filter((file) => !isOut(file));
}

/** A plotter with what it tells of itself. */
interface Plotter {
  port: PlotterPort;
  facts: PlotterFacts;
}

type Printing = Plotter & { unsent: readonly UnsentFile[] };

/** Cancels the jobs of a delivery that are not over. */
export async function cancelPrinting(port: PlotterPort, plot: PlotRecord | null): Promise<void> {
  const open = (plot?.jobs ?? []).filter(({ state }) => state === 'open');
  // One that ended meanwhile refuses to be cancelled, and is over.
  await Promise.all(open.map(({ id }) => port.cancel(id).catch(() => undefined)));
}

/** Sends all jobs that the plotter does not have yet; null where the delivery is no longer this worker's. */
async function sendJobs(
  deps: RunDeps,
  job: LeasedJob,
  { delivery, projectId }: { delivery: DeliveryRow; projectId: string },
  { port, unsent, facts }: Printing,
): Promise<PlotRecord | null> {
  const plot = delivery.destination as Plot;
  const [run, project] = await Promise.all([runById(deps.db, delivery.runId), projectFacts(deps.db, projectId)]);
  const printed = unsent.filter(({ format }) => format === null);
  const local = printed.map(async ({ path, hash }) => ({ from: await deps.store.localFile(hash), path }));
  const files = await openPlotFiles(await Promise.all(local));
  const options = { facts, papers: project?.facts.papers, packageName: run!.packageName, where: port.where };
  const planned = plannedJobs(files, plot, options);
  const pieces = planned.flatMap((one) => one.pieces);
  const known = new Map((await port.jobs()).map(({ name, id }) => [name, id]));
  const jobs: PlotJobRecord[] = [];
  for (const [i, one] of planned.entries()) {
    // What it is first, then what tells it from all others.
    const name = `${one.title} [${delivery.id.slice(0, 8)}.${delivery.renewals}.${i}.${shortHashOf(one.pieces)}]`;
    if (!(await whileHeld(deps, job, () => Promise.resolve(true)))) return null;
    const id = known.get(name) ?? (await printJob(port, files, one, { name, plot, folder: deps.store.workFolder }));
    const positions = printed.filter(({ path }) => one.files.has(path)).map(({ position }) => position);
    jobs.push({ name, id, pieces: one.pieces.length, files: positions, state: 'open' });
  }
  const taken = paperTaken(pieces, plot.costPerM2);
  return { jobs, renewals: delivery.renewals, pieces: pieces.length, ...taken, waitsFor: null };
}

/** Tells pieces from others: after a break-off another roll may be loaded, and other pages lie on them. */
function shortHashOf(group: readonly PlotPiece[]): string {
  return sha256(JSON.stringify(group)).slice(0, 6);
}

/** The same with what has become of its jobs. */
async function lookedAt({ port, facts }: Plotter, plot: PlotRecord): Promise<PlotRecord> {
  const states = new Map((await port.jobs()).map((one) => [one.name, one.state]));
  const jobs = plot.jobs.map((one): PlotJobRecord => {
    return one.state === 'open' ? { ...one, state: states.get(one.name) ?? 'unknown' } : one;
  });
  const isOpen = jobs.some((one) => one.state === 'open');
  return { ...plot, jobs, waitsFor: isOpen ? waitsFor(facts) : null };
}

/** What became of a file: printed once all pieces that have pages of it came out. */
function outcomeOf({ position, path, format }: UnsentFile, jobs: readonly PlotJobRecord[], where: string): Delivered {
  if (format !== null) return { path, how: 'not printed' };
  const bad = jobs.find((one) => one.files.includes(position) && one.state !== 'done');
  if (!bad) return { path, how: 'printed' };
  return { problem: endedBadly(path, { name: bad.name, end: bad.state as BadEnd }, where) };
}
