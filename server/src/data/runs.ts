import { and, asc, desc, eq, inArray, sql } from 'drizzle-orm';
import type { RunInfo } from '@folvex/contract';
import type { Problem, Proof } from '@folvex/core';
import type { RunInput } from '../work/run-input';
import type { Database } from './database';
import { made, runFiles, runs, runSheets } from './schema';

export type RunRow = typeof runs.$inferSelect;
export type RunFileRow = typeof runFiles.$inferInsert;

const OPEN = ['waiting', 'running'] as const;
const SHOWN_RUNS = 50;

export async function insertRun(db: Database, run: { id: string; projectId: string; input: RunInput }): Promise<void> {
  const { input } = run;
  await db.insert(runs).values({
    ...run,
    packageId: input.package.id,
    packageName: input.package.name,
    state: 'waiting',
  });
  await db.insert(runSheets).values(
    input.sheets.map((sheet, position) => ({
      runId: run.id,
      position,
      sheetId: sheet.id,
      state: 'waiting' as const,
    })),
  );
}

export async function runById(db: Database, id: string): Promise<RunRow | undefined> {
  return (await db.select().from(runs).where(eq(runs.id, id)))[0];
}

export async function runsOf(db: Database, projectId: string): Promise<RunInfo[]> {
  const rows = await db
    .select(TOLD)
    .from(runs)
    .where(eq(runs.projectId, projectId))
    .orderBy(desc(runs.createdAt))
    .limit(SHOWN_RUNS);
  return infosOf(db, rows);
}

export async function runInfo(db: Database, id: string): Promise<RunInfo | undefined> {
  return (await infosOf(db, await db.select(TOLD).from(runs).where(eq(runs.id, id))))[0];
}

/** What is told of a run: its input, which may be megabytes long, stays in the database but for the names of its sheets. */
const TOLD = {
  id: runs.id,
  packageId: runs.packageId,
  packageName: runs.packageName,
  state: runs.state,
  createdAt: runs.createdAt,
  finishedAt: runs.finishedAt,
  problem: runs.problem,
  named: sql<Record<string, [number: string, title: string]>>`(
    select jsonb_object_agg(sheet->>'id', jsonb_build_array(sheet->'number', sheet->'title'))
    from jsonb_array_elements(${runs.input}->'sheets') as sheet)`,
};

async function infosOf(
  db: Database,
  rows: readonly (Omit<RunRow, 'input' | 'projectId'> & { named: Record<string, [string, string]> | null })[],
): Promise<RunInfo[]> {
  const ids = rows.map((row) => row.id);
  if (ids.length === 0) return [];
  const [sheetRows, fileRows] = await Promise.all([
    db.select().from(runSheets).where(inArray(runSheets.runId, ids)).orderBy(asc(runSheets.position)),
    db.select().from(runFiles).where(inArray(runFiles.runId, ids)).orderBy(asc(runFiles.position)),
  ]);
  return rows.map((row) => ({
    id: row.id,
    packageId: row.packageId,
    packageName: row.packageName,
    state: row.state,
    createdAt: row.createdAt.toISOString(),
    finishedAt: row.finishedAt?.toISOString() ?? null,
    problem: row.problem,
    sheets: sheetRows
      .filter((sheet) => sheet.runId === row.id)
      .map(({ sheetId, state, startedAt, worker, milliseconds, problem, partHash }) => {
        const [number = '', title = ''] = row.named?.[sheetId] ?? [];
        const begun = startedAt?.toISOString() ?? null;
        return { sheetId, number, title, state, startedAt: begun, worker, milliseconds, problem, content: partHash };
      }),
    files: fileRows
      .filter((file) => file.runId === row.id)
      .map(({ path, pages, bytes, hash, sheets, proof, startedAt, milliseconds }) => {
        const begun = startedAt?.toISOString() ?? null;
        return { path, pages, bytes, sha256: hash, sheets, proof, startedAt: begun, milliseconds };
      }),
  }));
}

/** States of a run and of one of its sheets; undefined where there is none such. */
export async function statesAt(db: Database, runId: string, position: number) {
  const [row] = await db
    .select({ run: runs.state, sheet: runSheets.state })
    .from(runSheets)
    .innerJoin(runs, eq(runs.id, runSheets.runId))
    .where(and(eq(runSheets.runId, runId), eq(runSheets.position, position)));
  return row;
}

export async function runSheetsOf(db: Database, runId: string) {
  return db.select().from(runSheets).where(eq(runSheets.runId, runId)).orderBy(asc(runSheets.position));
}

/** Marks a run as begun, unless it was already, or was cancelled meanwhile. */
export async function beginRun(db: Database, runId: string): Promise<void> {
  await db
    .update(runs)
    .set({ state: 'running' })
    .where(and(eq(runs.id, runId), eq(runs.state, 'waiting')));
}

export interface SheetResult {
  state: 'done' | 'failed';
  partHash: string | null;
  milliseconds: number;
  problem: Problem | null;
  startedAt: Date;
  worker: string;
}

/** Writes what became of a sheet, once: a second worker that made it too changes nothing. */
export async function finishRunSheet(
  db: Database,
  runId: string,
  position: number,
  result: SheetResult,
): Promise<void> {
  await db
    .update(runSheets)
    .set(result)
    .where(and(eq(runSheets.runId, runId), eq(runSheets.position, position), eq(runSheets.state, 'waiting')));
}

export async function waitingSheets(db: Database, runId: string): Promise<number> {
  const [row] = await db
    .select({ count: sql<number>`count(*)::int` })
    .from(runSheets)
    .where(and(eq(runSheets.runId, runId), eq(runSheets.state, 'waiting')));
  return row!.count;
}

/** Ends a run with its files, all at once; false when it was over already. */
export async function finishRun(
  db: Database,
  runId: string,
  state: 'done' | 'failed',
  files: readonly RunFileRow[],
  problem: Problem | null,
): Promise<boolean> {
  return db.transaction(async (tx) => {
    const ended = await tx
      .update(runs)
      .set({ state, problem, finishedAt: new Date() })
      .where(and(eq(runs.id, runId), inArray(runs.state, [...OPEN])))
      .returning({ id: runs.id });
    if (ended.length === 0) return false;
    if (files.length > 0) await tx.insert(runFiles).values([...files]);
    return true;
  });
}

export async function rememberProof(db: Database, runId: string, position: number, proof: Proof): Promise<void> {
  await db
    .update(runFiles)
    .set({ proof })
    .where(and(eq(runFiles.runId, runId), eq(runFiles.position, position)));
}

export async function cancelRun(db: Database, runId: string): Promise<void> {
  await db
    .update(runs)
    .set({ state: 'cancelled', finishedAt: new Date() })
    .where(and(eq(runs.id, runId), inArray(runs.state, [...OPEN])));
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

type MadeKind = typeof made.$inferSelect.kind;

export async function madeBefore(db: Database, kind: MadeKind, inputHash: string): Promise<string | undefined> {
  const [row] = await db
    .select()
    .from(made)
    .where(and(eq(made.kind, kind), eq(made.inputHash, inputHash)));
  return row?.hash;
}

export async function rememberMade(db: Database, kind: MadeKind, inputHash: string, hash: string): Promise<void> {
  await db.insert(made).values({ kind, inputHash, hash }).onConflictDoNothing();
}
