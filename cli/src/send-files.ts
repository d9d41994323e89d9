import { randomUUID } from 'node:crypto';
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import {
  mailFaults,
  mediaIn,
  ProblemError,
  separateDestinations,
  type Delivered,
  type Destination,
  type Mail,
  type Plot,
  type Problem,
  type ProjectFacts,
} from '@folvex/core';
import {
  deliver,
  openDestination,
  openPlotFiles,
  printJobs,
  StepFailed,
  writtenTo,
  type DeliveredFile,
  type DestinationContext,
  type DestinationPort,
  type MailPort,
  type PlotterPort,
} from '@folvex/press';

/** How often a plotter is asked how far it is, ms. */
const POLL_MS = 1000;

/** What became of files at one destination. */
export interface SentTo {
  where: string;
  outcomes: { path: string; outcome: Delivered }[];
  /** Why none of them, or no more of them, arrived. */
  problem?: Problem;
}

export interface SendContext extends DestinationContext {
  project: ProjectFacts;
  packageName: string;
  /** Folder of unfinished files. */
  work: string;
  /** Called when a plotter begins to wait for something, such as paper. */
  waits(sentence: string): void;
}

/** Sends files to a destination; an email goes to each of its recipients. What is there already is not sent again. */
export async function sendTo(
  destination: Destination,
  files: readonly DeliveredFile[],
  context: SendContext,
): Promise<SentTo[]> {
  const sent: SentTo[] = [];
  if (destination.kind === 'mail') {
    const [fault] = mailFaults(destination, context.project.people);
    if (fault) return [{ where: destination.to, outcomes: [], problem: { ...fault, place: {} } }];
  }
  for (const one of separateDestinations(destination)) sent.push(await sendToOne(one, files, context));
  return sent;
}

async function sendToOne(
  destination: Destination,
  files: readonly DeliveredFile[],
  context: SendContext,
): Promise<SentTo> {
  const all = (outcomes: readonly Delivered[]) => files.map(({ path }, i) => ({ path, outcome: outcomes[i]! }));
  let port: DestinationPort | MailPort | PlotterPort | undefined;
  try {
    port = await openDestination(destination, context);
    const { where } = port;
    if ('send' in port) return { where, outcomes: all(await port.send(randomUUID(), files)) };
    if ('print' in port) return { where, outcomes: all(await printed(port, destination as Plot, files, context)) };
    const outcomes: SentTo['outcomes'] = [];
    for (const file of files) {
      const policy = 'onConflict' in destination ? destination.onConflict : 'stop';
      let outcome = await deliver(port, file, policy);
      // Perhaps only the connection broke.
      if ('problem' in outcome && outcome.problem.code === 'destination.copy')
        outcome = await deliver(port, file, policy);
      outcomes.push({ path: file.path, outcome });
    }
    return { where, outcomes };
  } catch (error) {
    const where = port?.where ?? whereOf(destination);
    if (error instanceof ProblemError) return { where, outcomes: [], problem: error.problem };
    if (!(error instanceof StepFailed)) throw error;
    const code = error.step === 'connection' ? 'destination.away' : 'destination.refused';
    return { where, outcomes: [], problem: { code, sentence: error.sentence, place: {} } };
  } finally {
    await port?.close();
  }
}

function whereOf(destination: Destination): string {
  return destination.kind === 'folder' ? destination.folder : (destination as Mail | Plot).server;
}

/** Prints files at true size, and waits until all of it came out. */
async function printed(
  port: PlotterPort,
  plot: Plot,
  files: readonly DeliveredFile[],
  { project, packageName, work, waits }: SendContext,
): Promise<Delivered[]> {
  const isPdf = ({ path }: DeliveredFile): boolean => path.endsWith('.pdf');
  const opened = await openPlotFiles(files.filter(isPdf));
  const stated = mediaIn(plot.media ?? '', project.papers).media;
  const media = stated.length > 0 ? stated : (await port.facts()).media;
  const groups = printJobs(opened, plot, { media, where: port.where });
  const run = randomUUID().slice(0, 8);
  const names: string[] = [];
  for (const [i, group] of groups.entries()) {
    const title = `${packageName.slice(0, 60)} ${i + 1} of ${groups.length}`;
    const name = `${title} [${run}.${i}]`;
    const { temporary } = writtenTo(work, await opened.pdfOf(group, { title, cutLines: plot.cutLines === true }));
    const { width, length } = group[0]!;
    await port.print({ name, file: temporary, width, length, isGrey: plot.colours === 'greys' });
    rmSync(temporary, { force: true });
    names.push(name);
  }
  const bad = await badlyEnded(port, names, waits);
  return files.map((file) => {
    const { path } = file;
    if (!isPdf(file)) return { path, how: 'not printed' };
    const own = groups.flatMap((group, i) => {
      const isOfFile = group.some(({ pages }) => pages.some(({ page }) => opened.sources[page]!.file === path));
      return isOfFile && bad.has(names[i]!) ? [names[i]!] : [];
    });
    if (own.length === 0) return { path, how: 'printed' };
    const sentence = `${path} did not come out whole: the job "${own[0]}" was cancelled, failed or is no longer known at ${port.where}.`;
    return { problem: { code: 'plot.ended', sentence, place: { file: path } } };
  });
}

/** Waits until jobs are over; resolves with the names of those that did not come out. */
async function badlyEnded(
  port: PlotterPort,
  names: readonly string[],
  waits: (sentence: string) => void,
): Promise<ReadonlySet<string>> {
  let told = '';
  for (;;) {
    const states = new Map((await port.jobs()).map(({ name, state }) => [name, state]));
    if (!names.some((name) => states.get(name) === 'open'))
      return new Set(names.filter((name) => states.get(name) !== 'done'));
    const { state, reasons } = await port.facts();
    const waiting = state === 'stopped' ? `${port.where} waits: ${reasons.join(', ') || 'it is stopped'}.` : '';
    if (waiting !== '' && waiting !== told) waits(waiting);
    told = waiting;
    await new Promise((next) => setTimeout(next, POLL_MS));
  }
}

/** Where a file of a run is, so that it can be sent. */
export function fileIn(folder: string, { path, sha256 }: { path: string; sha256: string }): DeliveredFile {
  return { from: join(folder, path), hash: sha256, path };
}
