import { hostname } from 'node:os';
import { performance } from 'node:perf_hooks';
import { layingOf, recipeOfPage, type Outcome, type Problem } from '@folvex/core';
import { storeTrouble, type Press } from '@folvex/press';
import type { Database } from '../data/database';
import {
  beginRun,
  finishRun,
  finishRunSheet,
  madeBefore,
  rememberMade,
  rememberProof,
  runById,
  runFileAt,
  runFilesOf,
  runSheetsOf,
  statesAt,
  waitingSheets,
  type RunFileRow,
  type RunRow,
} from '../data/runs';
import type { Store } from '../files/store';
import type { Queue, SheetJob } from './queue';
import { inputHash, sheetTask } from './sheet-task';

/** What the steps of a run need. */
export interface Workshop {
  db: Database;
  store: Store;
  press: Press;
  queue: Queue;
}

/** What its worker died of this often is given up: it is likely what kills them. */
const MOST_DEATHS = 5;

/** Makes one sheet of a run, or takes it from the store; the last one done asks for the files to be assembled. */
export async function sheetStep(shop: Workshop, job: SheetJob, retries: number): Promise<void> {
  const { db, queue } = shop;
  const states = await statesAt(db, job.runId, job.position);
  if (!states || (states.run !== 'waiting' && states.run !== 'running')) return;
  if (states.run === 'waiting') await beginRun(db, job.runId);
  const run = await frozen(db, job.runId);
  if (!run) return;
  if (states.sheet === 'waiting') {
    const [start, begun] = [performance.now(), new Date()];
    const result = retries >= MOST_DEATHS ? gaveUp(run, job) : await partOf(shop, run, job.position);
    await finishRunSheet(db, job.runId, job.position, {
      startedAt: begun,
      worker: `${hostname()} ${process.pid}`,
      state: result.ok ? 'done' : 'failed',
      partHash: result.ok ? result.value : null,
      problem: result.ok ? null : result.problem,
      milliseconds: Math.round(performance.now() - start),
    });
  }
  if ((await waitingSheets(db, job.runId)) === 0) await queue.addAssembly(job.runId);
}

const KEPT_RUNS = 4;
/** What of a run never changes. */
type FrozenRun = Pick<RunRow, 'id' | 'input'>;

const kept = new Map<string, FrozenRun>();

/** A run as it was begun, read once for all its sheets. */
async function frozen(db: Database, runId: string): Promise<FrozenRun | undefined> {
  const known = kept.get(runId) ?? (await runById(db, runId));
  if (known) kept.set(runId, known);
  if (kept.size > KEPT_RUNS) kept.delete(kept.keys().next().value!);
  return known;
}

/** Puts the files of a run together and ends it. Done twice, the second time changes nothing. */
export async function assembleStep(shop: Workshop, runId: string, retries: number): Promise<void> {
  const run = await runById(shop.db, runId);
  if (!run) return;
  if (run.state === 'running' || run.state === 'waiting') {
    const sheets = await runSheetsOf(shop.db, runId);
    const files = retries >= MOST_DEATHS ? neverAssembled() : await filesOf(shop, run, sheets);
    const failed = sheets.filter((row) => row.state === 'failed').length;
    const problem = !files.ok ? files.problem : failed > 0 ? summary(failed, files.value.length) : null;
    await finishRun(shop.db, runId, problem ? 'failed' : 'done', files.ok ? files.value : [], problem);
  }
  for (const { position, proof } of await runFilesOf(shop.db, runId)) {
    if (!proof) await shop.queue.addProof({ runId, position });
  }
}

type RunSheets = Awaited<ReturnType<typeof runSheetsOf>>;

/** Assembles every file whose sheets are all made. */
async function filesOf(
  { store, press }: Workshop,
  { id: runId, input }: FrozenRun,
  made: RunSheets,
): Promise<Outcome<RunFileRow[]>> {
  const parts = new Map(made.map((row) => [row.sheetId, row]));
  const { project, package: pack, sheets, groups = [], recipe, plan, lock } = input;
  const numbers = sheets.map(({ id, number }) => ({ id, number }));
  const files: RunFileRow[] = [];
  for (const [position, file] of plan.files.entries()) {
    if (!file.sheets.every((id) => parts.get(id)?.partHash)) continue;
    const used = file.sheets.map((id) => [id, parts.get(id)!.partHash!] as const);
    const startedAt = new Date();
    const task = {
      project,
      package: pack,
      sheets: sheets.filter(({ id }) => file.sheets.includes(id)),
      plan: { files: plan.files, sheets: numbers },
      groups,
      recipe,
      ...(lock && { lock }),
      file,
      parts: Object.fromEntries(used.map(([id, part]) => [id, { path: store.path(part), hash: part }])),
      folder: store.workFolder,
    };
    const assembled = await orTrouble(async () => {
      const { temporary, ...rest } = await press.assemble(task);
      store.adopt(temporary, rest.hash);
      return rest;
    });
    if (!assembled.ok) return assembled;
    const { hash, bytes, pages } = assembled.value;
    const milliseconds = Math.round(assembled.value.milliseconds);
    files.push({
      ...{ runId, position, path: file.path, hash, bytes, pages },
      sheets: file.sheets,
      startedAt,
      milliseconds,
    });
  }
  return { ok: true, value: files };
}

/** What comes of work on the store, or what is wrong with its disk. */
async function orTrouble<T>(work: () => Promise<T>): Promise<Outcome<T>> {
  try {
    return { ok: true, value: await work() };
  } catch (error) {
    const problem = storeTrouble(error);
    if (!problem) throw error;
    return { ok: false, problem };
  }
}

/** Has a file of a run that is over read again, once. The run is there to be used meanwhile. */
export async function proofStep({ db, store, press }: Workshop, { runId, position }: SheetJob): Promise<void> {
  const [run, file] = [await frozen(db, runId), await runFileAt(db, runId, position)];
  if (!run || !file || file.proof) return;
  const sheets = new Map((await runSheetsOf(db, runId)).map(({ sheetId, partHash }) => [sheetId, partHash]));
  const hashes = file.sheets.map((sheet) => sheets.get(sheet));
  if (!hashes.every((hash) => typeof hash === 'string')) return;
  const { recipe, lock } = run.input;
  const parts = hashes.map((hash) => store.path(hash));
  const proof = await press.proof({ path: store.path(file.hash), parts, recipe, locked: lock !== undefined });
  await rememberProof(db, runId, position, proof);
}

async function partOf({ db, store, press }: Workshop, run: FrozenRun, position: number): Promise<Outcome<string>> {
  const { project, package: pack, sheets, contexts, recipe, drawings } = run.input;
  const sheet = sheets[position]!;
  // Runs of an earlier version kept none.
  const own = recipeOfPage(recipe, pack, sheet.id);
  const task = sheetTask(
    store,
    project,
    sheet,
    contexts?.[sheet.id] ?? {},
    own,
    drawings,
    layingOf(pack, sheet.id, project),
  );
  const key = inputHash(task);
  const known = await madeBefore(db, 'part', key);
  if (known && (await store.has(known))) return { ok: true, value: known };
  const tried = await orTrouble(async () => {
    const made = await press.makePart({ ...task, folder: store.workFolder });
    if (made.ok) store.adopt(made.value.temporary, made.value.hash);
    return made;
  });
  if (!tried.ok) return tried;
  const made = tried.value;
  if (!made.ok) return made;
  await rememberMade(db, 'part', key, made.value.hash);
  return { ok: true, value: made.value.hash };
}

function gaveUp(run: FrozenRun, job: SheetJob): Outcome<never> {
  const sheet = run.input.sheets[job.position]?.number ?? '';
  const sentence = `Sheet ${sheet} stopped its worker ${MOST_DEATHS} times and was given up; look whether its drawing is extraordinarily large.`;
  return { ok: false, problem: { code: 'sheet.given-up', sentence, place: { sheet } } };
}

function neverAssembled(): Outcome<never> {
  const sentence = `Putting the files together stopped the worker ${MOST_DEATHS} times and was given up; publish fewer sheets in one file, or give the worker more memory.`;
  return { ok: false, problem: { code: 'run.given-up', sentence, place: {} } };
}

function summary(failed: number, written: number): Problem {
  const sheets = failed === 1 ? 'One sheet' : `${failed} sheets`;
  const files = written === 0 ? 'no file was' : written === 1 ? 'one file was' : `${written} files were`;
  const sentence = `${sheets} could not be made and ${files} written; see the sheets below, mend them and publish again.`;
  return { code: 'run.partial', sentence, place: {} };
}
