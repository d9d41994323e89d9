import { LRUCache } from 'lru-cache';
import { asc, desc, eq, inArray, sql } from 'drizzle-orm';
import type { RunInfo } from '@folvex/contract';
import type { Database } from './database';
import { deliveriesOf } from './deliveries';
import type { RunRow } from './runs';
import { runFiles, runs, runSheets } from './schema';

/** Runs that are listed of a project, the latest first. */
const MAX_LISTED_RUNS = 50;

export async function runsOf(db: Database, projectId: string): Promise<RunInfo[]> {
  const rows = await db
    .select(INFO_COLUMNS)
    .from(runs)
    .where(eq(runs.projectId, projectId))
    .orderBy(desc(runs.createdAt))
    .limit(MAX_LISTED_RUNS);
  return infosOf(db, rows);
}

export async function runInfo(db: Database, id: string): Promise<RunInfo | undefined> {
  return (await infosOf(db, await db.select(INFO_COLUMNS).from(runs).where(eq(runs.id, id))))[0];
}

/** What is sent about a run: its input, which may be megabytes long, stays in the database. */
const INFO_COLUMNS = {
  id: runs.id,
  packageId: runs.packageId,
  packageName: runs.packageName,
  name: runs.name,
  startedBy: runs.startedBy,
  state: runs.state,
  createdAt: runs.createdAt,
  finishedAt: runs.finishedAt,
  problem: runs.problem,
  removedAt: runs.removedAt,
};

/** What is sent about a sheet: the facts of its page, which list words of its texts, stay in the database. */
const SHEET_COLUMNS = {
  runId: runSheets.runId,
  sheetId: runSheets.sheetId,
  state: runSheets.state,
  startedAt: runSheets.startedAt,
  worker: runSheets.worker,
  milliseconds: runSheets.milliseconds,
  problem: runSheets.problem,
  partHash: runSheets.partHash,
};

type SheetNames = Readonly<Record<string, [number: string, title: string]>>;

const names = new LRUCache<string, SheetNames>({ max: 200 });

/** Numbers and titles of the sheets of runs, which never change: looked up once, since a run in progress is sent often. */
async function namesOf(db: Database, ids: readonly string[]): Promise<ReadonlyMap<string, SheetNames>> {
  const found = new Map(ids.flatMap((id) => (names.has(id) ? [[id, names.get(id)!] as const] : [])));
  const missing = ids.filter((id) => !found.has(id));
  if (missing.length === 0) return found;
  const named = sql<SheetNames | null>`(
    select jsonb_object_agg(sheet->>'id', jsonb_build_array(sheet->'number', sheet->'title'))
    from jsonb_array_elements(${runs.input}->'value'->'sheets') as sheet)`;
  for (const row of await db.select({ id: runs.id, named }).from(runs).where(inArray(runs.id, missing))) {
    found.set(row.id, row.named ?? {});
    names.set(row.id, row.named ?? {});
  }
  return found;
}

async function infosOf(db: Database, rows: readonly Omit<RunRow, 'input' | 'projectId'>[]): Promise<RunInfo[]> {
  const ids = rows.map((row) => row.id);
  if (ids.length === 0) return [];
  const [named, sheetRows, fileRows, sent] = await Promise.all([
    namesOf(db, ids),
    db.select(SHEET_COLUMNS).from(runSheets).where(inArray(runSheets.runId, ids)).orderBy(asc(runSheets.position)),
    db.select().from(runFiles).where(inArray(runFiles.runId, ids)).orderBy(asc(runFiles.position)),
    deliveriesOf(db, ids),
  ]);
  return rows.map((row) => ({
    id: row.id,
    packageId: row.packageId,
    packageName: row.packageName,
    name: row.name,
    startedBy: row.startedBy,
    state: row.state,
    createdAt: row.createdAt.toISOString(),
    finishedAt: row.finishedAt?.toISOString() ?? null,
    problem: row.problem,
    removedAt: row.removedAt?.toISOString() ?? null,
    sheets: sheetRows
      .filter((sheet) => sheet.runId === row.id)
      .map(({ sheetId, state, startedAt, worker, milliseconds, problem, partHash }) => {
        const [number = '', title = ''] = named.get(row.id)?.[sheetId] ?? [];
        const begun = startedAt?.toISOString() ?? null;
        return { sheetId, number, title, state, startedAt: begun, worker, milliseconds, problem, content: partHash };
      }),
    deliveries: sent.get(row.id) ?? [],
    files: fileRows
      .filter((file) => file.runId === row.id)
      .map(({ path, format, pages, bytes, hash, sheets, proof, startedAt, milliseconds }) => {
        const begun = startedAt?.toISOString() ?? null;
        return { path, format, pages, bytes, sha256: hash, sheets, proof, startedAt: begun, milliseconds };
      }),
  }));
}
