import { and, asc, desc, eq, isNull, sql } from 'drizzle-orm';
import type { ProjectInfo, ProjectSummary } from '@folvex/contract';
import type { JobFile, Recipe, Sheet, SheetPackage } from '@folvex/core';
import { inChunks } from './chunks';
import type { Database } from './database';
import { drawingInfos, type NewDrawing } from './drawings';
import { historyOf } from './edits';
import { runsOf } from './run-infos';
import { groupsOf } from './settings';
import { drawings, groups, packages, projects, runs, sheets } from './schema';

/** All projects, the removed ones too, oldest first. */
export async function listProjects(db: Database): Promise<ProjectSummary[]> {
  const rows = await db.select().from(projects).orderBy(asc(projects.createdAt));
  return Promise.all(rows.map((row) => summaryOf(db, row)));
}

async function summaryOf(
  db: Database,
  { id, facts, removedAt }: typeof projects.$inferSelect,
): Promise<ProjectSummary> {
  const { number, name, client } = facts;
  const [sheetCount, drawingCount, packageCount, [first], [run]] = await Promise.all([
    db.$count(sheets, eq(sheets.projectId, id)),
    db.$count(drawings, and(eq(drawings.projectId, id), isNull(drawings.removedAt))),
    db.$count(packages, eq(packages.projectId, id)),
    db
      .select({ sheet: sheets.sheet })
      .from(sheets)
      .where(eq(sheets.projectId, id))
      .orderBy(asc(sheets.position))
      .limit(1),
    db
      .select({ packageName: runs.packageName, state: runs.state, at: runs.createdAt })
      .from(runs)
      .where(and(eq(runs.projectId, id), isNull(runs.removedAt)))
      .orderBy(desc(runs.createdAt))
      .limit(1),
  ]);
  return {
    ...{ id, number, name, client },
    ...{ sheets: sheetCount, drawings: drawingCount, packages: packageCount },
    cover: first ? { sheet: first.sheet.id, title: `${first.sheet.number} ${first.sheet.title}`.trim() } : null,
    lastRun: run ? { ...run, at: run.at.toISOString() } : null,
    removedAt: removedAt?.toISOString() ?? null,
  };
}

export async function projectInfo(db: Database, id: string): Promise<ProjectInfo | undefined> {
  const [project] = await db.select().from(projects).where(eq(projects.id, id));
  if (!project || project.removedAt) return undefined;
  const [groupList, drawingList, sheetRows, packageList, runs, history] = await Promise.all([
    groupsOf(db, id),
    drawingInfos(db, id),
    sheetsOf(db, id),
    packagesOf(db, id),
    runsOf(db, id),
    historyOf(db, id),
  ]);
  return {
    id,
    project: project.facts,
    recipes: project.recipes,
    groups: groupList,
    drawings: drawingList,
    sheets: sheetRows,
    packages: packageList,
    runs,
    history,
  };
}

export async function projectFacts(
  db: Database,
  id: string,
): Promise<{ facts: JobFile['project']; recipes: Recipe[] } | undefined> {
  const [row] = await db.select().from(projects).where(eq(projects.id, id));
  return row && { facts: row.facts, recipes: row.recipes };
}

/** Ids of the projects that have a typeface of a content (SHA-256). */
export async function projectsWithTypeface(db: Database, hash: string): Promise<string[]> {
  const rows = await db
    .select({ id: projects.id })
    .from(projects)
    .where(sql`position(${hash} in ${projects.facts}::text) > 0`);
  return rows.map(({ id }) => id);
}

export async function sheetsOf(db: Database, projectId: string): Promise<Sheet[]> {
  const rows = await db.select().from(sheets).where(eq(sheets.projectId, projectId)).orderBy(asc(sheets.position));
  return rows.map(({ sheet }) => sheet);
}

export async function sheetById(db: Database, projectId: string, id: string): Promise<Sheet | undefined> {
  const [row] = await db
    .select()
    .from(sheets)
    .where(and(eq(sheets.projectId, projectId), eq(sheets.id, id)));
  return row?.sheet;
}

export async function packagesOf(db: Database, projectId: string): Promise<SheetPackage[]> {
  const rows = await db
    .select()
    .from(packages)
    .where(eq(packages.projectId, projectId))
    .orderBy(asc(packages.position));
  return rows.map(({ pack }) => pack);
}

export async function packageById(db: Database, projectId: string, id: string): Promise<SheetPackage | undefined> {
  const [row] = await db
    .select()
    .from(packages)
    .where(and(eq(packages.projectId, projectId), eq(packages.id, id)));
  return row?.pack;
}

/** Writes a whole job as a new project; its drawings are already in the store. All or nothing. */
export async function insertProject(
  db: Database,
  id: string,
  job: JobFile,
  received: readonly NewDrawing[],
): Promise<void> {
  const ofProject = <T>(rows: readonly T[]): (T & { projectId: string })[] =>
    rows.map((row) => ({ ...row, projectId: id }));
  await db.transaction(async (tx) => {
    await tx.insert(projects).values({ id, facts: job.project, recipes: job.recipes });
    const groupRows = job.groups.map(({ sheets: own = null, ...group }, position) => ({
      ...group,
      sheets: own,
      position,
    }));
    await inChunks(ofProject(groupRows), (some) => tx.insert(groups).values(some));
    await inChunks(received, (some) => tx.insert(drawings).values(some));
    const sheetRows = job.sheets.map((sheet, position) => ({ id: sheet.id, position, sheet }));
    await inChunks(ofProject(sheetRows), (some) => tx.insert(sheets).values(some));
    const packageRows = job.packages.map((pack, position) => ({ id: pack.id, position, pack }));
    await inChunks(ofProject(packageRows), (some) => tx.insert(packages).values(some));
  });
}
