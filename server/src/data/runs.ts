import { and, asc, desc, eq, inArray, sql } from 'drizzle-orm';
import type { Delivered, RunInfo } from '@folvex/contract';
import type { Problem, Proof } from '@folvex/core';
import type { MadeBesideFile } from '../work/beside-files';
import type { SheetFiles } from '../work/known-sheets';
import type { RunInput } from '../work/run-input';
import type { Database } from './database';
import { made, runFiles, runs, runSheets } from './schema';

export type RunRow = typeof runs.$inferSelect;
export type RunFileRow = typeof runFiles.$inferInsert;

const OPEN = ['waiting', 'running'] as const;
const SHOWN_RUNS = 50;

/** Writes a run that is to be made; sheets that are known already, by their positions, are done. */
export async function insertRun(
  db: Database,
  { known, ...run }: { id: string; projectId: string; input: RunInput; known: ReadonlyMap<number, SheetFiles> },
): Promise<void> {
  const { input } = run;
  await db.insert(runs).values({
    ...run,
    packageId: input.package.id,
    packageName: input.package.name,
    state: 'waiting',
  });
  await db.insert(runSheets).values(
    input.sheets.map((sheet, position) => {
      const row = { runId: run.id, position, sheetId: sheet.id };
      const files = known.get(position);
      if (!files) return { ...row, state: 'waiting' as const };
      const beside = files.beside.length > 0 ? files.beside : null;
      return { ...row, state: 'done' as const, partHash: files.part, beside, milliseconds: 0 };
    }),
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

/** What is told of a run: its input, which may be megabytes long, stays in the database. */
const TOLD = {
  id: runs.id,
  packageId: runs.packageId,
  packageName: runs.packageName,
  state: runs.state,
  createdAt: runs.createdAt,
  finishedAt: runs.finishedAt,
  problem: runs.problem,
};

type SheetNames = Readonly<Record<string, [number: string, title: string]>>;

const KEPT_NAMES = 200;
const names = new Map<string, SheetNames>();

/** Numbers and titles of the sheets of runs, which never change: looked up once, since a run that goes on is told often. */
async function namesOf(db: Database, ids: readonly string[]): Promise<ReadonlyMap<string, SheetNames>> {
  const found = new Map(ids.flatMap((id) => (names.has(id) ? [[id, names.get(id)!] as const] : [])));
  const missing = ids.filter((id) => !found.has(id));
  if (missing.length === 0) return found;
  const named = sql<SheetNames | null>`(
    select jsonb_object_agg(sheet->>'id', jsonb_build_array(sheet->'number', sheet->'title'))
    from jsonb_array_elements(${runs.input}->'sheets') as sheet)`;
  for (const row of await db.select({ id: runs.id, named }).from(runs).where(inArray(runs.id, missing))) {
    found.set(row.id, row.named ?? {});
    names.set(row.id, row.named ?? {});
    if (names.size > KEPT_NAMES) names.delete(names.keys().next().value!);
  }
  return found;
}

async function infosOf(db: Database, rows: readonly Omit<RunRow, 'input' | 'projectId'>[]): Promise<RunInfo[]> {
  const ids = rows.map((row) => row.id);
  if (ids.length === 0) return [];
  const [named, sheetRows, fileRows] = await Promise.all([
    namesOf(db, ids),
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
        const [number = '', title = ''] = named.get(row.id)?.[sheetId] ?? [];
        const begun = startedAt?.toISOString() ?? null;
        return { sheetId, number, title, state, startedAt: begun, worker, milliseconds, problem, content: partHash };
      }),
    files: fileRows
      .filter((file) => file.runId === row.id)
      .map(({ path, format, pages, bytes, hash, sheets, proof, delivered, startedAt, milliseconds }) => {
        const begun = startedAt?.toISOString() ?? null;
        return { path, format, pages, bytes, sha256: hash, sheets, proof, delivered, startedAt: begun, milliseconds };
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
  beside: MadeBesideFile[] | null;
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

export async function rememberDelivered(
  db: Database,
  runId: string,
  position: number,
  delivered: Delivered,
): Promise<void> {
  await db
    .update(runFiles)
    .set({ delivered })
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

/** The same of many inputs at once: what was made by the input's hash. */
export async function allMadeBefore(
  db: Database,
  kind: MadeKind,
  inputHashes: readonly string[],
): Promise<Map<string, string>> {
  if (inputHashes.length === 0) return new Map();
  const rows = await db
    .select()
    .from(made)
    .where(and(eq(made.kind, kind), inArray(made.inputHash, [...inputHashes])));
  return new Map(rows.map(({ inputHash, hash }) => [inputHash, hash]));
}

export async function rememberMade(db: Database, kind: MadeKind, inputHash: string, hash: string): Promise<void> {
  await db.insert(made).values({ kind, inputHash, hash }).onConflictDoNothing();
}
