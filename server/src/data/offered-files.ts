import { and, eq } from 'drizzle-orm';
import { NOW } from './clock';
import type { Database } from './database';
import { offeredFiles } from './schema';

/** Remembers that a content was sent to a project: its hash alone gives nobody a right to it. */
export async function saveOfferedFile(db: Database, projectId: string, hash: string): Promise<void> {
  await db
    .insert(offeredFiles)
    .values({ projectId, hash })
    .onConflictDoUpdate({ target: [offeredFiles.projectId, offeredFiles.hash], set: { at: NOW } });
}

export async function isOfferedFile(db: Database, projectId: string, hash: string): Promise<boolean> {
  const rows = await db
    .select({ hash: offeredFiles.hash })
    .from(offeredFiles)
    .where(and(eq(offeredFiles.projectId, projectId), eq(offeredFiles.hash, hash)));
  return rows.length > 0;
}
