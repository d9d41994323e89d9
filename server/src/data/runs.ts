import { and, asc, desc, eq, inArray, isNull, sql } from 'drizzle-orm';
import type { ComposedFacts, Problem, Proof } from '@folvex/core';
import type { ExtraFormatFile, SheetFiles } from '../model/artifacts';
import { inChunks } from './chunks';
import { NOW } from './clock';
import type { Database } from './database';
import { notify } from './notifications';
import { runFiles, runs, runSheets } from './schema';
import { storableJson } from './storable';

export type RunRow = typeof runs.$inferSelect;
export type RunFileRow = typeof runFiles.$inferInsert;

export interface SheetState {
  state: typeof runSheets.$inferSelect.state;
  inputHash: string | null;
}

const OPEN = ['waiting', 'running'] as const;

/** A run that is to be made. */
export type NewRun = Pick<RunRow, 'id' | 'projectId' | 'input' | 'startedBy'>;

/** A sheet of a new run: what identifies its inputs, and its files where they were made before. */
export interface NewRunSheet {
  inputHash: string;
  known?: SheetFiles | undefined;
}

/** Writes a run that is to be made, with its sheets in the order of its input. */
export async function insertRun(db: Database, run: NewRun, newSheets: readonly NewRunSheet[]): Promise<void> {
  const { input } = run;
  await db.insert(runs).values({
    ...run,
    packageId: input.package.id,
    packageName: input.package.name,
    state: 'waiting',
  });
  const rows = input.sheets.map((sheet, position) => {
    const { inputHash, known } = newSheets[position]!;
    const row = { runId: run.id, position, sheetId: sheet.id, inputHash };
    if (!known) return { ...row, state: 'waiting' as const };
    const extraFormats = known.extraFormats.length > 0 ? known.extraFormats : null;
    return {
      ...row,
      state: 'done' as const,
      partHash: known.part,
      extraFormats,
      pageFacts: known.facts,
      milliseconds: 0,
    };
  });
  await inChunks(rows, (some) => db.insert(runSheets).values(some));
}

/** How many runs of a project go on. */
export async function openRunsOf(db: Database, projectId: string): Promise<number> {
  return db.$count(runs, and(eq(runs.projectId, projectId), inArray(runs.state, [...OPEN])));
}

export async function runById(db: Database, id: string): Promise<RunRow | undefined> {
  return (await db.select().from(runs).where(eq(runs.id, id)))[0];
}

/** Id of the project of a run; undefined where there is no such run. Without its input, which may be megabytes long. */
export async function projectOfRun(db: Database, id: string): Promise<string | undefined> {
  return (await db.select({ project: runs.projectId }).from(runs).where(eq(runs.id, id)))[0]?.project;
}

/** The state of a run and of some of its sheets, by position; undefined where there is no such run. */
export async function sheetStates(
  db: Database,
  runId: string,
  positions: readonly number[],
): Promise<{ run: RunRow['state']; sheets: Map<number, SheetState> } | undefined> {
  const rows = await db
    .select({
      run: runs.state,
      position: runSheets.position,
      state: runSheets.state,
      inputHash: runSheets.inputHash,
    })
    .from(runSheets)
    .innerJoin(runs, eq(runs.id, runSheets.runId))
    .where(and(eq(runSheets.runId, runId), inArray(runSheets.position, [...positions])));
  if (rows.length === 0) return undefined;
  return { run: rows[0]!.run, sheets: new Map(rows.map(({ position, ...sheet }) => [position, sheet])) };
}

export async function runSheetsOf(db: Database, runId: string) {
  return db.select().from(runSheets).where(eq(runSheets.runId, runId)).orderBy(asc(runSheets.position));
}

/** Marks a run as begun, unless it was already, or was cancelled meanwhile. */
export async function beginRun(db: Database, runId: string): Promise<void> {
  const begun = await db
    .update(runs)
    .set({ state: 'running' })
    .where(and(eq(runs.id, runId), eq(runs.state, 'waiting')))
    .returning({ id: runs.id });
  if (begun.length > 0) await notify(db, 'run_changed', runId);
}

export interface SheetResult {
  position: number;
  state: 'done' | 'failed';
  partHash: string | null;
  extraFormats: ExtraFormatFile[] | null;
  milliseconds: number;
  problem: Problem | null;
  pageFacts: ComposedFacts | null;
  startedAt: Date;
  worker: string;
}

/**
 * Writes what became of sheets of a run, each once: a sheet that was done already stays. Returns how many sheets of the
 * run are still to be made; the run is locked to the end of the transaction, so that exactly one caller gets 0.
 */
export async function finishRunSheets(db: Database, runId: string, results: readonly SheetResult[]): Promise<number> {
  await db.select({ id: runs.id }).from(runs).where(eq(runs.id, runId)).for('update');
  await db.execute(sql`
    update run_sheets as sheet
    set state = result.state, part_hash = result."partHash", extra_formats = result."extraFormats",
        milliseconds = result.milliseconds, problem = result.problem, started_at = result."startedAt",
        worker = result.worker, page_facts = result."pageFacts"
    from jsonb_to_recordset(${storableJson(results)}::jsonb) as result(
      position int, state text, "partHash" text, "extraFormats" jsonb, milliseconds int, problem jsonb,
      "startedAt" timestamptz, worker text, "pageFacts" jsonb)
    where sheet.run_id = ${runId} and sheet.position = result.position and sheet.state = 'waiting'`);
  await notify(db, 'run_changed', runId);
  return waitingSheets(db, runId);
}

async function waitingSheets(db: Database, runId: string): Promise<number> {
  const [row] = await db
    .select({ count: sql<number>`count(*)::int` })
    .from(runSheets)
    .where(and(eq(runSheets.runId, runId), eq(runSheets.state, 'waiting')));
  return row!.count;
}

/** Ends a run with its files, in one transaction with what the caller writes; false when it was over already. */
export async function finishRun(
  db: Database,
  runId: string,
  state: 'done' | 'failed',
  files: readonly RunFileRow[],
  problem: Problem | null,
): Promise<boolean> {
  const ended = await db
    .update(runs)
    .set({ state, problem, finishedAt: NOW })
    .where(and(eq(runs.id, runId), inArray(runs.state, [...OPEN])))
    .returning({ id: runs.id });
  if (ended.length === 0) return false;
  await inChunks(files, (some) => db.insert(runFiles).values(some));
  await notify(db, 'run_changed', runId);
  return true;
}

export async function saveProof(db: Database, runId: string, position: number, proof: Proof): Promise<void> {
  await db
    .update(runFiles)
    .set({ proof })
    .where(and(eq(runFiles.runId, runId), eq(runFiles.position, position)));
  await notify(db, 'run_changed', runId);
}

/** Cancels a run; false when it was over already. */
export async function cancelRun(db: Database, runId: string): Promise<boolean> {
  const ended = await db
    .update(runs)
    .set({ state: 'cancelled', finishedAt: NOW })
    .where(and(eq(runs.id, runId), inArray(runs.state, [...OPEN])))
    .returning({ id: runs.id });
  if (ended.length === 0) return false;
  await notify(db, 'run_cancelled', runId);
  await notify(db, 'run_changed', runId);
  return true;
}

/** `name`: null gives the run that of its package. */
export async function renameRun(db: Database, runId: string, name: string | null): Promise<void> {
  await db.update(runs).set({ name }).where(eq(runs.id, runId));
  await notify(db, 'run_changed', runId);
}

export async function runFileAt(db: Database, runId: string, position: number) {
  const [row] = await db
    .select()
    .from(runFiles)
    .where(and(eq(runFiles.runId, runId), eq(runFiles.position, position)));
  return row;
}

export async function runFilesOf(db: Database, runId: string) {
  return db.select().from(runFiles).where(eq(runFiles.runId, runId)).orderBy(asc(runFiles.position));
}

/** As many of the latest runs are reported to open windows. */
const MAX_LATEST = 5;

/** Ids of the latest runs of a project that were not removed, the latest first. */
export async function latestRunsOf(db: Database, projectId: string): Promise<string[]> {
  const latest = await db
    .select({ id: runs.id })
    .from(runs)
    .where(and(eq(runs.projectId, projectId), isNull(runs.removedAt)))
    .orderBy(desc(runs.createdAt))
    .limit(MAX_LATEST);
  return latest.map(({ id }) => id);
}

/** What identifies the sheets of a package's latest run that is done or goes on, in their order; undefined: there is none. */
export async function inputHashesOfLatestRun(
  db: Database,
  projectId: string,
  packageId: string,
): Promise<(string | null)[] | undefined> {
  const [run] = await db
    .select({ id: runs.id })
    .from(runs)
    .where(
      and(
        eq(runs.projectId, projectId),
        eq(runs.packageId, packageId),
        sql`${runs.state} in ('waiting', 'running', 'done')`,
      ),
    )
    .orderBy(desc(runs.createdAt))
    .limit(1);
  if (!run) return undefined;
  const rows = await db
    .select({ inputHash: runSheets.inputHash })
    .from(runSheets)
    .where(eq(runSheets.runId, run.id))
    .orderBy(runSheets.position);
  return rows.map(({ inputHash }) => inputHash);
}
