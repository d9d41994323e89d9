import { and, eq, sql } from 'drizzle-orm';
import { ProblemError, type SheetPackage } from '@folvex/core';
import type { PackageEdit } from '../model/edits';
import type { Database } from './database';
import { packages } from './schema';

type Writer = Pick<Database, 'insert' | 'update' | 'delete'>;

/** Changes a package that is still as the edit knew it. */
export async function applyPackage(db: Writer, projectId: string, { before, after }: PackageEdit): Promise<void> {
  if (!before) {
    const position = sql<number>`(select coalesce(max(position), 0) + 1 from packages where project_id = ${projectId})`;
    if (after) await db.insert(packages).values({ projectId, id: after.id, position, pack: after });
    return;
  }
  const unchanged = and(eq(packages.projectId, projectId), eq(packages.id, before.id), eq(packages.pack, before));
  const touched = after
    ? await db.update(packages).set({ pack: after }).where(unchanged).returning({ id: packages.id })
    : await db.delete(packages).where(unchanged).returning({ id: packages.id });
  if (touched.length > 0) return;
  throw new ProblemError({ code: 'package.changed', sentence: conflictSentence(before), place: {} });
}

/** The sentence for a package that changed after somebody saw it. */
export function conflictSentence({ name }: Pick<SheetPackage, 'name'>): string {
  return `The package ${name} was changed on another screen in the meantime; it is shown as it is now.`;
}
