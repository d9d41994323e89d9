import { randomUUID } from 'node:crypto';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import {
  fileFilter,
  mailFaults,
  ProblemError,
  separateDestinations,
  type Delivered,
  type Destination,
  type Mail,
  type Plot,
  type Problem,
  type PlanInput,
  type PlannedFile,
} from '@folvex/core';
import {
  deliver,
  endedBadly,
  openDestination,
  openPlotFiles,
  plannedJobs,
  printJob,
  StepFailed,
  waitsFor,
  type BadEnd,
  type DeliveredFile,
  type DestinationContext,
  type DestinationPort,
  type MailPort,
  type PlotterPort,
} from '@folvex/press';
import type { FileReport } from './publish-files';

/** How often a plotter is asked how far it is, ms, and how often in a row it may not answer. */
const [POLL_MS, MAX_FAILURES] = [1000, 60];

/** What became of files at one destination. */
export interface SentTo {
  where: string;
  outcomes: { path: string; outcome: Delivered }[];
  /** Why none of the files arrived. */
  problem?: Problem;
}

export interface SendContext extends DestinationContext {
  /** What the files were made from. */
  input: PlanInput;
  /** Folder of unfinished files. */
  work: string;
  /** Called when a plotter starts waiting for something, such as paper. */
  waits(sentence: string): void;
}

/** A file with what recipients are told apart by. */
type FileToSend = DeliveredFile & Pick<PlannedFile, 'format' | 'sheets'>;

/** Sends files to a destination; an email goes to each of its recipients. What is there already is not sent again. */
export async function sendTo(
  destination: Destination,
  files: readonly FileToSend[],
  context: SendContext,
): Promise<SentTo[]> {
  const sent: SentTo[] = [];
  if (destination.kind === 'mail') {
    const [fault] = mailFaults(destination, context.input.project.people);
    if (fault) return [{ where: destination.to, outcomes: [], problem: { ...fault, place: {} } }];
  }
  for (const one of separateDestinations(destination)) sent.push(await sendToOne(one, files, context));
  return sent;
}

async function sendToOne(
  destination: Destination,
  files: readonly FileToSend[],
  context: SendContext,
): Promise<SentTo> {
  const named = (outcomes: readonly Delivered[]) => files.map(({ path }, i) => ({ path, outcome: outcomes[i]! }));
  let port: DestinationPort | MailPort | PlotterPort | undefined;
  try {
    port = await openDestination(destination, context);
    const { where } = port;
    if ('send' in port) return { where, outcomes: named(await mailed(port, destination as Mail, files, context)) };
    if ('print' in port) return { where, outcomes: named(await printed(port, destination as Plot, files, context)) };
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

/** Sends the files that a recipient gets in one email; where they get none of them, no email is sent. */
async function mailed(
  port: MailPort,
  { to }: Mail,
  files: readonly FileToSend[],
  { input }: SendContext,
): Promise<Delivered[]> {
  const theirs = files.filter(fileFilter(input, to));
  const outcomes = theirs.length > 0 ? await port.send(randomUUID(), theirs) : [];
  const sent = new Map(theirs.map((file, i) => [file, outcomes[i]!]));
  return files.map((file): Delivered => sent.get(file) ?? { path: file.path, how: 'left out' });
}

/** Prints files at true size, and waits until all of it came out. */
async function printed(
  port: PlotterPort,
  plot: Plot,
  files: readonly DeliveredFile[],
  { input: { project, package: pack }, work, waits }: SendContext,
): Promise<Delivered[]> {
  const isPdf = ({ path }: DeliveredFile): boolean => path.endsWith('.pdf');
  const opened = await openPlotFiles(files.filter(isPdf));
  const options = { facts: await port.facts(), papers: project.papers, packageName: pack.name, where: port.where };
  const jobs = plannedJobs(opened, plot, options).map((job) => ({ ...job, name: `${job.title} [${randomUUID()}]` }));
  for (const job of jobs) await printJob(port, opened, job, { name: job.name, plot, folder: work });
  const bad = await badEnds(
    port,
    jobs.map(({ name }) => name),
    waits,
  );
  return files.map((file) => {
    const { path } = file;
    if (!isPdf(file)) return { path, how: 'not printed' };
    const job = jobs.find((one) => one.files.has(path) && bad.has(one.name));
    if (!job) return { path, how: 'printed' };
    return { problem: endedBadly(path, { name: job.name, end: bad.get(job.name)! }, port.where) };
  });
}

/** Waits until jobs are over; resolves with those that did not come out, by their names. */
async function badEnds(
  port: PlotterPort,
  names: readonly string[],
  waits: SendContext['waits'],
): Promise<ReadonlyMap<string, BadEnd>> {
  let told: string | null = null;
  for (let failures = 0; ; await pause(POLL_MS)) {
    try {
      const states = new Map((await port.jobs()).map(({ name, state }) => [name, state]));
      if (!names.some((name) => states.get(name) === 'open'))
        return new Map(
          names.flatMap((name) => {
            const end = states.get(name) ?? 'unknown';
            return end === 'done' || end === 'open' ? [] : [[name, end] as const];
          }),
        );
      const waiting = waitsFor(await port.facts());
      if (waiting !== null && waiting !== told) waits(`${port.where} waits: ${waiting}.`);
      told = waiting;
      failures = 0;
    } catch (error) {
      // It goes on printing while nobody can ask it.
      if (!(error instanceof StepFailed) || ++failures > MAX_FAILURES) throw error;
    }
  }
}

/** Where a file of a run is, so that it can be sent. */
export function fileIn(
  folder: string,
  { path, sha256, format, sheets }: Pick<FileReport, 'path' | 'sha256' | 'format' | 'sheets'>,
): FileToSend {
  return { from: join(folder, path), hash: sha256, path, sheets, ...(format && { format }) };
}
