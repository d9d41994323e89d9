import { and, asc, desc, eq, sql } from 'drizzle-orm';
import { SENDING_FIELDS, type EditHistory } from '@folvex/contract';
import { ProblemError, sameValue, type Sheet } from '@folvex/core';
import { recordAudit, type Author } from './audit';
import type { Database } from './database';
import { edits, packages, sheets } from './schema';
import type { Change, PackageEdit, SettingsEdit, SheetEdit } from '../model/edits';
import { applyPackage } from './package-edits';
import { applySettings } from './settings';

/** In which project something is done, and who does it. */
export interface InProject {
  project: string;
  by: Author;
}

/** What a step through the history changed, in the direction that it went. */
export interface HistoryStep {
  words: string;
  sheets: SheetEdit[];
  settings?: SettingsEdit | undefined;
  pack?: PackageEdit | undefined;
}

type Way = 'undo' | 'redo';
type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0];

/** Does an edit and remembers it; all of it or, with a `ProblemError`, nothing. What was undone cannot be redone then. */
export async function applyEdit(
  db: Database,
  { project: projectId, by }: InProject,
  words: string,
  wanted: SheetEdit[],
  { settings, pack }: { settings?: SettingsEdit | undefined; pack?: PackageEdit | undefined } = {},
): Promise<void> {
  const changes = wanted.filter(({ before, after }) => !sameValue(before, after));
  const idle = sameValue(settings?.before, settings?.after) && sameValue(pack?.before, pack?.after);
  if (changes.length === 0 && idle) return;
  await db.transaction(async (tx) => {
    await lock(tx, projectId);
    for (const change of changes) await apply(tx, projectId, change);
    if (settings) await applySettings(tx, projectId, settings);
    if (pack) await applyPackage(tx, projectId, pack);
    await tx.delete(edits).where(and(eq(edits.projectId, projectId), eq(edits.undone, true)));
    if (pack && (await joined(tx, projectId, words, pack, by))) return;
    const row = { projectId, words, changes, settings: settings ?? null, pack: pack ?? null, author: by?.name ?? null };
    await tx.insert(edits).values(row);
    await recordAudit(tx, { by, event: 'edit.made', projectId, subject: words });
  });
}

/** What is typed comes in many edits, one right behind the other: they are one step. True where the last one was such. */
async function joined(
  tx: Transaction,
  projectId: string,
  words: string,
  pack: PackageEdit,
  by: Author,
): Promise<boolean> {
  const [last] = await nextOf(tx, projectId, 'undo');
  const before = last?.pack?.before;
  if (!last || !before || last.words !== words || last.author !== (by?.name ?? null) || before.id !== pack.after?.id)
    return false;
  const soon = sql`${edits.at} > now() - interval '2 seconds'`;
  const row = and(eq(edits.id, last.id), soon);
  const rows = await tx
    .update(edits)
    .set({ pack: { before, after: pack.after }, at: sql`now()` })
    .where(row)
    .returning({ id: edits.id });
  return rows.length > 0;
}

/** Undoes the last edit, or redoes the last one undone; undefined where there is none. */
export async function stepThroughHistory(
  db: Database,
  { project: projectId, by }: InProject,
  way: Way,
): Promise<HistoryStep | undefined> {
  return db.transaction(async (tx) => {
    await lock(tx, projectId);
    const [last] = await nextOf(tx, projectId, way);
    if (!last) return undefined;
    const changes = way === 'redo' ? last.changes : last.changes.map(reversed).reverse();
    for (const change of changes) await apply(tx, projectId, change);
    const settings = last.settings && (way === 'redo' ? last.settings : reversed(last.settings));
    if (settings) await applySettings(tx, projectId, settings);
    const pack = last.pack && (way === 'redo' ? last.pack : reversed(last.pack));
    if (pack) await applyPackage(tx, projectId, pack);
    await tx
      .update(edits)
      .set({ undone: way === 'undo' })
      .where(eq(edits.id, last.id));
    const event = way === 'undo' ? 'edit.undone' : 'edit.redone';
    await recordAudit(tx, { by, event, projectId, subject: inWords(last) });
    return { words: last.words, sheets: changes, ...(settings && { settings }), ...(pack && { pack }) };
  });
}

/** Whether a step would change where packages are sent to: their destinations, who is told, or who is meant by a name. */
export async function changesDestination(db: Database, projectId: string, way: Way): Promise<boolean> {
  const [step] = await nextOf(db, projectId, way);
  const [before, after] = [step?.pack?.before ?? undefined, step?.pack?.after ?? undefined];
  const people = [step?.settings?.before, step?.settings?.after].map((settings) => settings?.project.people);
  if (!sameValue(people[0], people[1])) return true;
  if (before === undefined || after === undefined) return false;
  return SENDING_FIELDS.some((field) => !sameValue(before[field], after[field]));
}

/** What a step back and a step forward would do, in words. */
export async function historyOf(db: Database, projectId: string): Promise<EditHistory> {
  const [[undo], [redo]] = await Promise.all([nextOf(db, projectId, 'undo'), nextOf(db, projectId, 'redo')]);
  return { undo: undo ? inWords(undo) : null, redo: redo ? inWords(redo) : null };
}

function inWords({ words, author }: typeof edits.$inferSelect): string {
  return author === null ? words : `${words}, by ${author}`;
}

function nextOf(db: Pick<Database, 'select'>, projectId: string, way: Way) {
  const order = way === 'undo' ? desc(edits.id) : asc(edits.id);
  const of = and(eq(edits.projectId, projectId), eq(edits.undone, way === 'redo'));
  return db.select().from(edits).where(of).orderBy(order).limit(1);
}

/** Edits of one project are done one after the other. */
async function lock(tx: Transaction, projectId: string): Promise<void> {
  await tx.execute(sql`select pg_advisory_xact_lock(hashtext(${`edits ${projectId}`}))`);
}

function reversed<T>({ before, after }: Change<T>): Change<T> {
  return { before: after, after: before };
}

/** Changes a sheet that is still as the edit knew it. */
async function apply(tx: Transaction, projectId: string, { before, after }: SheetEdit): Promise<void> {
  if (!before) return after ? insert(tx, projectId, after) : undefined;
  const unchanged = and(eq(sheets.projectId, projectId), eq(sheets.id, before.id), eq(sheets.sheet, before));
  if (!after) await refuseInPackage(tx, projectId, before);
  const touched = after
    ? await tx.update(sheets).set({ sheet: after }).where(unchanged).returning({ id: sheets.id })
    : await tx.delete(sheets).where(unchanged).returning({ id: sheets.id });
  if (touched.length > 0) return;
  const sentence = `Sheet ${before.number} was changed by somebody else in the meantime; look at it again before you change it.`;
  throw new ProblemError({ code: 'sheet.changed', sentence, place: { sheet: before.number } });
}

async function insert(tx: Transaction, projectId: string, sheet: Sheet): Promise<void> {
  const position = sql<number>`(select coalesce(max(position), 0) + 1 from sheets where project_id = ${projectId})`;
  await tx.insert(sheets).values({ projectId, id: sheet.id, position, sheet });
}

async function refuseInPackage(tx: Transaction, projectId: string, { id, number }: Sheet): Promise<void> {
  const packs = await tx.select().from(packages).where(eq(packages.projectId, projectId)).for('update');
  const holds = packs.find(({ pack }) => pack.order.includes(id));
  if (!holds) return;
  const sentence = `Sheet ${number} is in the package ${holds.pack.name}; remove it there first.`;
  throw new ProblemError({ code: 'sheet.in-package', sentence, place: { sheet: number } });
}
