import { eq } from 'drizzle-orm';
import { NOW } from './clock';
import type { Database } from './database';
import { drawings, issues, projects, runs } from './schema';

const TABLES = { project: projects, drawing: drawings, run: runs };

/** What can be removed, and restored. */
export type Removable = keyof typeof TABLES;

/** Removes something, or restores it; false where there is no such thing. */
export async function setRemoved(db: Database, kind: Removable, id: string, removed: boolean): Promise<boolean> {
  const table = TABLES[kind];
  const set = { removedAt: removed ? NOW : null };
  return (await db.update(table).set(set).where(eq(table.id, id)).returning({ id: table.id })).length > 0;
}

/** Number of the issue that a run was handed over as; undefined where it was not. */
export async function issueOfRun(db: Database, runId: string): Promise<number | undefined> {
  const [row] = await db.select({ number: issues.number }).from(issues).where(eq(issues.runId, runId)).limit(1);
  return row?.number;
}
