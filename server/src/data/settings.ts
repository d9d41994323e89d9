import { asc, eq } from 'drizzle-orm';
import { ProblemError, sameValue, type Group, type ProjectSettings } from '@folvex/core';
import type { SettingsEdit } from '../model/edits';
import type { Database } from './database';
import { groups, projects } from './schema';

type Reader = Pick<Database, 'select'>;
type Writer = Reader & Pick<Database, 'update' | 'insert' | 'delete'>;

export async function groupsOf(db: Reader, projectId: string): Promise<Group[]> {
  const rows = await db.select().from(groups).where(eq(groups.projectId, projectId)).orderBy(asc(groups.position));
  return rows.map(({ id, name, sheets }) => ({ id, name, ...(sheets && { sheets }) }));
}

/** Undefined where there is no such project. */
export async function settingsOf(db: Reader, projectId: string): Promise<ProjectSettings | undefined> {
  const [row] = await db.select().from(projects).where(eq(projects.id, projectId));
  return row && { project: row.facts, groups: await groupsOf(db, projectId), recipes: row.recipes };
}

/** Changes settings that are still as the edit knew them. */
export async function applySettings(db: Writer, projectId: string, { before, after }: SettingsEdit): Promise<void> {
  const now = await settingsOf(db, projectId);
  if (!sameValue(now, before)) {
    const sentence =
      'The settings were changed by somebody else in the meantime; look at them again before you change them.';
    throw new ProblemError({ code: 'settings.changed', sentence, place: {} });
  }
  await db.update(projects).set({ facts: after.project, recipes: after.recipes }).where(eq(projects.id, projectId));
  await db.delete(groups).where(eq(groups.projectId, projectId));
  if (after.groups.length === 0) return;
  await db
    .insert(groups)
    .values(after.groups.map(({ id, name, sheets = null }, position) => ({ projectId, id, name, position, sheets })));
}
