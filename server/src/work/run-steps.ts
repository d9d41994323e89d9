import { hostname } from 'node:os';
import { performance } from 'node:perf_hooks';
import { recipeOfPage, tilingOf, type Outcome, type Problem } from '@folvex/core';
import type { Press } from '@folvex/press';
import type { Database } from '../data/database';
import {
  beginRun,
  finishRun,
  finishRunSheet,
  madeBefore,
  rememberMade,
  rememberProof,
  runById,
  runFilesOf,
  runSheetAt,
  runSheetsOf,
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

/** A sheet whose worker died this often is given up: it is likely what kills them. */
const MOST_DEATHS = 5;

/** Makes one sheet of a run, or takes it from the store; the last one done asks for the files to be assembled. */
export async function sheetStep(shop: Workshop, job: SheetJob, retries: number): Promise<void> {
  const { db, queue } = shop;
  if (!(await beginRun(db, job.runId))) return;
  const row = await runSheetAt(db, job.runId, job.position);
  const run = await runById(db, job.runId);
  if (!row || !run) return;
  if (row.state === 'waiting') {
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

/** Puts the files of a run together and ends it. Done twice, the second time changes nothing. */
export async function assembleStep(shop: Workshop, runId: string): Promise<void> {
  const run = await runById(shop.db, runId);
  if (!run) return;
  if (run.state !== 'running' && run.state !== 'waiting') return proofFiles(shop, run);
  const { db, store, press } = shop;
  const parts = new Map((await runSheetsOf(db, runId)).map((row) => [row.sheetId, row]));
  const { project, package: pack, sheets, groups = [], recipe, plan, lock } = run.input;
  const numbers = sheets.map(({ id, number }) => ({ id, number }));
  const files: RunFileRow[] = [];
  for (const [position, file] of plan.files.entries()) {
    if (!file.sheets.every((id) => parts.get(id)?.partHash)) continue;
    const used = file.sheets.map((id) => [id, parts.get(id)!.partHash!] as const);
    const startedAt = new Date();
    const { temporary, hash, bytes, pages, milliseconds } = await press.assemble({
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
    });
    store.adopt(temporary, hash);
    const took = Math.round(milliseconds);
    files.push({
      runId,
      position,
      path: file.path,
      hash,
      bytes,
      pages,
      sheets: file.sheets,
      startedAt,
      milliseconds: took,
    });
  }
  const failed = [...parts.values()].filter((row) => row.state === 'failed');
  await finishRun(
    db,
    runId,
    failed.length > 0 ? 'failed' : 'done',
    files,
    failed.length > 0 ? summary(failed.length, files.length) : null,
  );
  await proofFiles(shop, run);
}

/** Has every file of a run that is over read again, once. The run is there to be used meanwhile. */
async function proofFiles({ db, store, press }: Workshop, { id, input }: RunRow): Promise<void> {
  const sheets = new Map((await runSheetsOf(db, id)).map(({ sheetId, partHash }) => [sheetId, partHash]));
  for (const file of await runFilesOf(db, id)) {
    if (file.proof) continue;
    const hashes = file.sheets.map((sheet) => sheets.get(sheet));
    if (!hashes.every((hash) => typeof hash === 'string')) continue;
    const proof = await press.proof({
      path: store.path(file.hash),
      parts: hashes.map((hash) => store.path(hash)),
      recipe: input.recipe,
      locked: input.lock !== undefined,
    });
    await rememberProof(db, id, file.position, proof);
  }
}

async function partOf({ db, store, press }: Workshop, run: RunRow, position: number): Promise<Outcome<string>> {
  const { project, package: pack, sheets, contexts, recipe, drawings } = run.input;
  const sheet = sheets[position]!;
  // Runs of an earlier version kept none.
  const own = recipeOfPage(recipe, pack, sheet.id);
  const task = sheetTask(store, project, sheet, contexts?.[sheet.id] ?? {}, own, drawings, tilingOf(pack, project));
  const key = inputHash(task);
  const known = await madeBefore(db, 'part', key);
  if (known && (await store.has(known))) return { ok: true, value: known };
  const made = await press.makePart({ ...task, folder: store.workFolder });
  if (!made.ok) return made;
  const { temporary, hash } = made.value;
  store.adopt(temporary, hash);
  await rememberMade(db, 'part', key, hash);
  return { ok: true, value: hash };
}

function gaveUp(run: RunRow, job: SheetJob): Outcome<never> {
  const sheet = run.input.sheets[job.position]?.number ?? '';
  const sentence = `Sheet ${sheet} stopped its worker ${MOST_DEATHS} times and was given up; look whether its drawing is extraordinarily large.`;
  return { ok: false, problem: { code: 'sheet.given-up', sentence, place: { sheet } } };
}

function summary(failed: number, written: number): Problem {
  const sheets = failed === 1 ? 'One sheet' : `${failed} sheets`;
  const files = written === 0 ? 'no file was' : written === 1 ? 'one file was' : `${written} files were`;
  const sentence = `${sheets} could not be made and ${files} written; see the sheets below, mend them and publish again.`;
  return { code: 'run.partial', sentence, place: {} };
}
