import { hostname } from 'node:os';
import { performance } from 'node:perf_hooks';
import type { Outcome, PlannedFile, Problem } from '@folvex/core';
import { storeTrouble, type SheetTask } from '@folvex/press';
import {
  beginRun,
  finishRun,
  finishRunSheet,
  madeBefore,
  rememberMade,
  runById,
  runFilesOf,
  runSheetsOf,
  statesAt,
  waitingSheets,
  type RunFileRow,
} from '../data/runs';
import { deliverFiles } from './after-run';
import { besideFiles, type MadeBesideFile } from './beside-files';
import type { SheetJob } from './queue';
import type { SheetFiles } from './known-sheets';
import { inputHash, taskOfSheet } from './sheet-task';
import { frozen, type FrozenRun, type Workshop } from './workshop';

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
    const result = retries >= MOST_DEATHS ? gaveUp(run, job) : await sheetFiles(shop, run, job.position);
    await finishRunSheet(db, job.runId, job.position, {
      startedAt: begun,
      worker: `${hostname()} ${process.pid}`,
      state: result.ok ? 'done' : 'failed',
      partHash: result.ok ? result.value.part : null,
      beside: result.ok && result.value.beside.length > 0 ? result.value.beside : null,
      problem: result.ok ? null : result.problem,
      milliseconds: Math.round(performance.now() - start),
    });
  }
  if ((await waitingSheets(db, job.runId)) === 0) await queue.addAssembly(job.runId);
}

/** Puts the files of a run together and ends it. Done twice, the second time changes nothing. */
export async function assembleStep(shop: Workshop, runId: string, retries: number): Promise<void> {
  const run = await runById(shop.db, runId);
  if (!run) return;
  let { state } = run;
  if (run.state === 'running' || run.state === 'waiting') {
    const sheets = await runSheetsOf(shop.db, runId);
    const files = retries >= MOST_DEATHS ? neverAssembled() : await filesOf(shop, run, sheets);
    const failed = sheets.filter((row) => row.state === 'failed').length;
    const problem = !files.ok ? files.problem : failed > 0 ? summary(failed, files.value.length) : null;
    state = problem ? 'failed' : 'done';
    await finishRun(shop.db, runId, state, files.ok ? files.value : [], problem);
  }
  // What is not whole is not delivered.
  if (state === 'done') await deliverFiles(shop, run);
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
  for (const file of plan.files) {
    // Files that could not be made have no place among them.
    const position = files.length;
    if (file.format) {
      const row = parts.get(file.sheets[0]!);
      const made = row?.beside?.find(({ format }) => format === file.format);
      if (row && made) files.push(besideRow(runId, position, file, made, row));
      continue;
    }
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

function besideRow(
  runId: string,
  position: number,
  { path, sheets }: PlannedFile,
  { format, hash, bytes }: MadeBesideFile,
  { startedAt, milliseconds }: RunSheets[number],
): RunFileRow {
  return { runId, position, path, format, hash, bytes, pages: 1, sheets, startedAt, milliseconds };
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

/** What is made of a sheet of a run: its part of PDFs, and what is written beside them. */
async function sheetFiles(shop: Workshop, run: FrozenRun, position: number): Promise<Outcome<SheetFiles>> {
  const task = taskOfSheet(shop.store, run.input, position);
  const part = await partOf(shop, task);
  if (!part.ok) return part;
  const tried = await orTrouble(() => besideFiles(shop, run.input, task));
  const beside = tried.ok ? tried.value : tried;
  return beside.ok ? { ok: true, value: { part: part.value, beside: beside.value } } : beside;
}

async function partOf({ db, store, press }: Workshop, task: SheetTask): Promise<Outcome<string>> {
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
