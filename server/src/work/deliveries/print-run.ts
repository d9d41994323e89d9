import { rm } from 'node:fs/promises';
import { mediaIn, paperTaken, type Plot, type PlotPiece, type Problem } from '@folvex/core';
import type { Delivered } from '@folvex/contract';
import {
  openPlotFiles,
  printJobs,
  sha256,
  writtenTo,
  type PlotFiles,
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

/** Characters of the package's name in that of a job, which may have 255 bytes (RFC 8011, 5.1.3). */
const MAX_TITLE = 60;

/** Why plotters wait (RFC 8011, 5.4.12), without the suffix that says how bad it is. */
const REASONS: Readonly<Record<string, string>> = {
  'media-empty': 'out of paper',
  'media-needed': 'other paper is needed',
  'media-jam': 'paper jam',
  'cover-open': 'a cover is open',
  'marker-supply-empty': 'out of ink',
  'toner-empty': 'out of toner',
  paused: 'paused',
};

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
  const stated = mediaIn(plot.media ?? '', project?.facts.papers).media;
  const media = stated.length > 0 ? stated : facts.media;
  const groups = printJobs(files, plot, { media, where: port.where });
  const pieces = groups.flat();
  const known = new Map((await port.jobs()).map(({ name, id }) => [name, id]));
  const jobs: PlotJobRecord[] = [];
  for (const [i, group] of groups.entries()) {
    // A plotter's own display has room for little: what it is first, then what tells it from all others.
    const title = `${run!.packageName.slice(0, MAX_TITLE)} ${i + 1} of ${groups.length}`;
    const name = `${title} [${delivery.id.slice(0, 8)}.${delivery.renewals}.${i}.${shortHashOf(group)}]`;
    if (!(await whileHeld(deps, job, () => Promise.resolve(true)))) return null;
    const id = known.get(name) ?? (await printGroup(deps, port, files, { group, name, title, plot }));
    const names = new Set(group.flatMap(({ pages }) => pages.map(({ page }) => files.sources[page]!.file)));
    const positions = printed.filter(({ path }) => names.has(path)).map(({ position }) => position);
    jobs.push({ name, id, pieces: group.length, files: positions, state: 'open' });
  }
  const taken = paperTaken(pieces, plot.costPerM2);
  return { jobs, renewals: delivery.renewals, pieces: pieces.length, ...taken, waitsFor: null };
}

/** Tells pieces from others: after a break-off another roll may be loaded, and other pages lie on them. */
function shortHashOf(group: readonly PlotPiece[]): string {
  return sha256(JSON.stringify(group)).slice(0, 6);
}

async function printGroup(
  { store }: RunDeps,
  port: PlotterPort,
  files: PlotFiles,
  { group, name, title, plot }: { group: readonly PlotPiece[]; name: string; title: string; plot: Plot },
): Promise<number> {
  const pdf = await files.pdfOf(group, { title, cutLines: plot.cutLines === true });
  const { temporary } = writtenTo(store.workFolder, pdf);
  const { width, length } = group[0]!;
  try {
    return await port.print({ name, file: temporary, width, length, isGrey: plot.colours === 'greys' });
  } finally {
    await rm(temporary, { force: true });
  }
}

/** The same with what has become of its jobs. */
async function lookedAt({ port, facts: { state, reasons } }: Plotter, plot: PlotRecord): Promise<PlotRecord> {
  const states = new Map((await port.jobs()).map((one) => [one.name, one.state]));
  const jobs = plot.jobs.map((one): PlotJobRecord => {
    return one.state === 'open' ? { ...one, state: states.get(one.name) ?? 'unknown' } : one;
  });
  const isOpen = jobs.some((one) => one.state === 'open');
  const words = [...new Set(reasons.map(reasonInWords))].join(', ');
  return { ...plot, jobs, waitsFor: isOpen && state === 'stopped' ? words || 'it is stopped' : null };
}

function reasonInWords(keyword: string): string {
  const plain = keyword.replace(/-(error|warning|report)$/, '');
  return REASONS[plain] ?? plain.replaceAll('-', ' ');
}

/** What became of a file: printed once all pieces that have pages of it came out. */
function outcomeOf({ position, path, format }: UnsentFile, jobs: readonly PlotJobRecord[], where: string): Delivered {
  if (format !== null) return { path, how: 'not printed' };
  const bad = jobs.find((one) => one.files.includes(position) && one.state !== 'done');
  return bad ? { problem: endedBadly(path, bad, where) } : { path, how: 'printed' };
}

function endedBadly(path: string, { name, state }: PlotJobRecord, where: string): Problem {
  const ENDINGS = {
    cancelled: `was cancelled at ${where}`,
    failed: `failed at ${where}`,
    unknown: `is no longer known to ${where}; look whether it came out`,
  } as const;
  const sentence = `${path} did not come out: the job "${name}" ${ENDINGS[state as keyof typeof ENDINGS]}.`;
  return { code: 'plot.ended', sentence, place: { file: path } };
}
