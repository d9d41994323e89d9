import { hostname } from 'node:os';
import { performance } from 'node:perf_hooks';
import { formatOptions, ProblemError, type Outcome } from '@folvex/core';
import { storageProblem } from '@folvex/press';
import { saveArtifacts } from '../../data/artifacts';
import { databaseClock } from '../../data/clock';
import { beginRun, finishRunSheets, sheetStates, type SheetResult } from '../../data/runs';
import type { SheetFiles } from '../../model/artifacts';
import type { SheetQueueTask } from '../../model/queue-task';
import type { LeasedJob } from '../queue/worker-queue';
import { inputHash, inputOfSheet, sheetTask } from '../sheets/sheet-task';
import { untilCancelled } from './until-cancelled';
import { knownSheets, wholeSheet, type KnownSheet } from './known-sheets';
import { frozenRun, type FrozenRun, type RunDeps } from './run-deps';

/** A sheet whose worker crashed this often, or which failed this often, is given up. */
export const MAX_WORKER_CRASHES = 5;
export const MAX_FAILURES = 8;

export type SheetJob = LeasedJob & { task: SheetQueueTask };

type NewArtifact = Parameters<typeof saveArtifacts>[1][number];

/** True where a job was tried so often that another attempt would likely end the same way. */
export function isHopeless({ crashes, failures }: Pick<LeasedJob, 'crashes' | 'failures'>): boolean {
  return crashes >= MAX_WORKER_CRASHES || failures >= MAX_FAILURES;
}

/**
 * Makes sheets of one run, or takes them from the store, and ends their jobs in one transaction; when they were the last
 * ones, that also asks for the files to be assembled. What an attempt that lost its lease made stays in the store only.
 */
export async function makeSheets(deps: RunDeps, runId: string, jobs: readonly SheetJob[]): Promise<void> {
  const { db, held, queue } = deps;
  const positions = jobs.map(({ task }) => task.position);
  const states = await sheetStates(db, runId, positions);
  const run = await frozenRun(db, runId);
  if (!states || !run || (states.run !== 'waiting' && states.run !== 'running')) {
    return held.finish(jobs, async () => undefined);
  }
  if (states.run === 'waiting') await beginRun(db, runId);
  const waiting = jobs.filter(({ task }) => states.sheets.get(task.position)?.state === 'waiting');
  const hashes = new Map(
    waiting.map(({ task: { position } }) => [
      position,
      states.sheets.get(position)!.inputHash ?? inputHash(inputOfSheet(run.input, position)),
    ]),
  );
  const known = await knownSheets(deps, run.input, hashes);
  const made: NewArtifact[] = [];
  const now = await databaseClock(db);
  const results = await untilCancelled(deps.notifications, runId, async (signal) => {
    const results: SheetResult[] = [];
    for (const job of waiting) {
      const { position } = job.task;
      const [start, startedAt] = [performance.now(), now()];
      const files = isHopeless(job)
        ? gaveUp(run, job)
        : await sheetFiles(deps, run, position, known.get(position)!, made, signal);
      results.push({
        position,
        startedAt,
        worker: `${hostname()} ${process.pid}`,
        ...outcomeOf(files),
        milliseconds: Math.round(performance.now() - start),
      });
    }
    return results;
  });
  if (!results) return held.finish(jobs, async () => undefined);
  await held.finish(jobs, async (tx, still) => {
    await saveArtifacts(tx.db, made);
    const own = new Set(still.map(({ task }) => (task as SheetQueueTask).position));
    const left = await finishRunSheets(
      tx.db,
      runId,
      results.filter(({ position }) => own.has(position)),
    );
    if (left === 0) await queue.addAssembly(tx, runId);
  });
}

function outcomeOf(
  files: Outcome<SheetFiles>,
): Omit<SheetResult, 'position' | 'startedAt' | 'worker' | 'milliseconds'> {
  if (!files.ok) {
    return { state: 'failed', partHash: null, extraFormats: null, pageFacts: null, problem: files.problem };
  }
  const { part, facts, extraFormats } = files.value;
  const formats = extraFormats.length > 0 ? extraFormats : null;
  return { state: 'done', partHash: part, extraFormats: formats, pageFacts: facts, problem: null };
}

/** The files of a sheet: those known, and those made now, composed once for all. What was made is added to `made`. */
async function sheetFiles(
  { store, press }: RunDeps,
  { input }: FrozenRun,
  position: number,
  known: KnownSheet,
  made: NewArtifact[],
  signal: AbortSignal,
): Promise<Outcome<SheetFiles>> {
  const whole = wholeSheet(known);
  if (whole) return { ok: true, value: whole };
  const found = new Map(known.extraFormats.map((file) => [file.format, file]));
  const missing = known.keys.filter(({ format }) => !found.has(format));
  return orStorageProblem(async () => {
    const task = {
      ...(await sheetTask(store, inputOfSheet(input, position))),
      part: known.part === undefined,
      formats: missing.map(({ format }) => format),
      options: formatOptions(input.package),
      folder: store.workFolder,
    };
    const result = await press.makeSheet(task, signal);
    if (!result.ok) return result;
    const { part, extraFormats, facts } = result.value;
    if (part) {
      await store.adopt(part.temporary, part.hash);
      made.push({ kind: 'part', key: known.partKey, hash: part.hash, facts: { page: facts } });
    }
    for (const { temporary, pictures, ...written } of extraFormats) {
      await store.adopt(temporary, written.hash);
      for (const picture of pictures ?? []) await store.adopt(picture.temporary, picture.hash);
      const stored = pictures?.map(({ temporary: _, ...picture }) => picture);
      const file = { ...written, ...(stored && { pictures: stored }) };
      const { key } = missing.find(({ format }) => format === file.format)!;
      made.push({ kind: 'extra-format', key, hash: file.hash, facts: { file } });
      found.set(file.format, file);
    }
    const files = known.keys.map(({ format }) => found.get(format)!);
    return { ok: true, value: { part: part?.hash ?? known.part!, facts, extraFormats: files } };
  });
}

/** What comes of work on the store, or what is wrong with its disk. */
export async function orStorageProblem<T>(work: () => Promise<Outcome<T>>): Promise<Outcome<T>> {
  try {
    return await work();
  } catch (error) {
    const problem = error instanceof ProblemError ? error.problem : storageProblem(error);
    if (!problem) throw error;
    return { ok: false, problem };
  }
}

function gaveUp(run: FrozenRun, { task, crashes }: SheetJob): Outcome<never> {
  const sheet = run.input.sheets[task.position]?.number ?? '';
  const sentence =
    crashes >= MAX_WORKER_CRASHES
      ? `Sheet ${sheet} crashed its worker ${crashes} times and was given up; check whether its drawing is unusually large.`
      : `Sheet ${sheet} failed ${MAX_FAILURES} times for an unknown reason and was given up; the server's log says why.`;
  return { ok: false, problem: { code: 'sheet.given-up', sentence, place: { sheet } } };
}
