import { BY_SCHEDULE } from '@folvex/contract';
import { checkRun, joinedPath, type Outcome, type PlannedFile, type Problem } from '@folvex/core';
import { databaseClock } from '../../data/clock';
import type { Transaction } from '../../data/database';
import { finishRun, runById, runSheetsOf, type RunFileRow, type RunRow } from '../../data/runs';
import type { ExtraFormatFile } from '../../model/artifacts';
import { addDeliveries } from '../deliveries/add-deliveries';
import { typefaceFiles } from '../projects/typeface-files';
import type { Store } from '../../files/store';
import type { LeasedJob } from '../queue/worker-queue';
import { announceRun } from '../webhooks/announce';
import { isHopeless, orStorageProblem } from './make-sheets';
import { tellResult } from './tell-result';
import { untilCancelled } from './until-cancelled';
import type { FrozenRun, RunDeps } from './run-deps';

type RunSheets = Awaited<ReturnType<typeof runSheetsOf>>;

/** Assembles the files of a run and ends it; then they are read again, and sent where the package is delivered to. */
export async function assembleRun(deps: RunDeps, job: LeasedJob, runId: string): Promise<void> {
  const { db, held } = deps;
  const run = await runById(db, runId);
  if (!run || (run.state !== 'running' && run.state !== 'waiting')) return held.finish([job], async () => undefined);
  const sheets = await runSheetsOf(db, runId);
  const files = isHopeless(job)
    ? neverAssembled()
    : (stoppedByPages(run, sheets) ??
      (await untilCancelled(deps.notifications, runId, (signal) => assembledFiles(deps, run, sheets, signal))));
  await held.finish([job], async (tx) => {
    if (files) await endRun(deps, tx, run, sheets, files);
  });
}

/** Writes what became of a run, with the jobs that follow: both or neither. */
async function endRun(
  { queue }: RunDeps,
  tx: Transaction,
  { id: runId, projectId, input, startedBy }: RunRow,
  sheets: RunSheets,
  files: Outcome<RunFileRow[]>,
): Promise<void> {
  const failed = sheets.filter((row) => row.state === 'failed').length;
  const written = files.ok ? files.value : [];
  const problem = !files.ok ? files.problem : failed > 0 ? partialRun(failed, written.length) : null;
  if (!(await finishRun(tx.db, runId, problem ? 'failed' : 'done', written, problem))) return;
  await announceRun(tx, queue, runId);
  if (startedBy === BY_SCHEDULE) {
    const result = problem ? { problem: problem.sentence } : { files: written.length };
    await tellResult(tx, queue, { projectId, pack: input.package, run: runId }, result);
  }
  await queue.addProofs(
    tx,
    written.map(({ position }) => ({ runId, position })),
  );
  // A run that is not complete is not delivered.
  if (problem) return;
  for (const destination of input.destinations ?? []) {
    await addDeliveries(tx, queue, { runId, startedBy, destination });
  }
}

/** What checks of the composed sheets find wrong, if that must be fixed before any file is written. */
function stoppedByPages({ input }: FrozenRun, rows: RunSheets): Outcome<never> | undefined {
  const { groups = [], runDate = '', plan, ...rest } = input;
  const pages = new Map(rows.flatMap(({ sheetId, pageFacts }) => (pageFacts ? [[sheetId, pageFacts] as const] : [])));
  const stops = checkRun({ input: { ...rest, groups, runDate }, plan }, { pages }).filter(
    ({ severity }) => severity === 'stop',
  );
  const [first] = stops;
  if (!first) return undefined;
  const more =
    stops.length > 1
      ? ` ${countOf(stops.length - 1, 'more finding')} that stops it: see the checks of the package.`
      : '';
  const sentence = `No file was written: ${first.sentence}${more}`;
  return { ok: false, problem: { code: 'run.checks', place: first.place, sentence } };
}

function countOf(count: number, one: string): string {
  return count === 1 ? `One ${one}` : `${count} ${one}s`;
}

/** Assembles every file whose sheets are all made. */
async function assembledFiles(
  { db, store, press }: RunDeps,
  { id: runId, input }: FrozenRun,
  rows: RunSheets,
  signal: AbortSignal,
): Promise<Outcome<RunFileRow[]>> {
  const parts = new Map(rows.map((row) => [row.sheetId, row]));
  const { project, package: pack, sheets, groups = [], recipe, plan, lock } = input;
  const numbers = sheets.map(({ id, number }) => ({ id, number }));
  const files: RunFileRow[] = [];
  const now = await databaseClock(db);
  for (const file of plan.files) {
    // Files that could not be made have no position.
    const position = files.length;
    if (file.format) {
      const row = parts.get(file.sheets[0]!);
      const made = row?.extraFormats?.find(({ format }) => format === file.format);
      if (!row || !made) continue;
      files.push(extraFormatRow(runId, position, file, made, row));
      for (const picture of made.pictures ?? []) {
        const path = joinedPath(file.path, picture.name);
        // Sheets in one folder share their pictures.
        if (files.some((other) => other.path === path)) continue;
        const { format, hash, bytes } = picture;
        const shared = { runId, position: files.length, path, format, hash, bytes, pages: 1, sheets: file.sheets };
        files.push({ ...shared, startedAt: row.startedAt, milliseconds: 0 });
      }
      continue;
    }
    if (!file.sheets.every((id) => parts.get(id)?.partHash)) continue;
    const used = file.sheets.map((id) => [id, parts.get(id)!.partHash!] as const);
    const startedAt = now();
    const task = {
      project,
      package: pack,
      sheets: sheets.filter(({ id }) => file.sheets.includes(id)),
      plan: { files: plan.files, sheets: numbers },
      groups,
      recipe,
      ...(lock && { lock }),
      file,
      parts: await localParts(store, used),
      typefaces: await typefaceFiles(store, project),
      folder: store.workFolder,
    };
    const assembled = await orStorageProblem(async () => {
      const { temporary, ...rest } = await press.assemble(task, signal);
      await store.adopt(temporary, rest.hash);
      return { ok: true, value: rest };
    });
    if (!assembled.ok) return assembled;
    const { hash, bytes, pages } = assembled.value;
    const milliseconds = Math.round(assembled.value.milliseconds);
    const row = { runId, position, path: file.path, hash, bytes, pages };
    files.push({ ...row, sheets: file.sheets, startedAt, milliseconds });
  }
  return { ok: true, value: files };
}

/** The parts of sheets as files, by the ids of the sheets. */
async function localParts(
  store: Store,
  parts: readonly (readonly [id: string, hash: string])[],
): Promise<Record<string, { path: string; hash: string }>> {
  const local = parts.map(async ([id, hash]) => [id, { path: await store.localFile(hash), hash }] as const);
  return Object.fromEntries(await Promise.all(local));
}

function extraFormatRow(
  runId: string,
  position: number,
  { path, sheets }: PlannedFile,
  { format, hash, bytes }: ExtraFormatFile,
  { startedAt, milliseconds }: RunSheets[number],
): RunFileRow {
  return { runId, position, path, format, hash, bytes, pages: 1, sheets, startedAt, milliseconds };
}

function neverAssembled(): Outcome<never> {
  const sentence =
    'Assembling the files stopped the worker again and again and was given up; publish fewer sheets in one file, or give the worker more memory.';
  return { ok: false, problem: { code: 'run.given-up', sentence, place: {} } };
}

function partialRun(failed: number, written: number): Problem {
  const sheets = failed === 1 ? 'One sheet' : `${failed} sheets`;
  const files = written === 0 ? 'no file was' : written === 1 ? 'one file was' : `${written} files were`;
  const sentence = `${sheets} could not be made and ${files} written; fix the sheets listed below and publish again.`;
  return { code: 'run.partial', sentence, place: {} };
}
