import { sql } from 'drizzle-orm';
import type { Database } from './database';

/** Bytes that a project's drawings and files take in the store, each content once; what was removed does not count. */
export async function storageUsed(db: Database, projectId: string): Promise<number> {
  const { rows } = await db.execute<{ bytes: string }>(sql`
    select coalesce(sum(bytes), 0) as bytes from (
      select hash, bytes from drawings where project_id = ${projectId} and removed_at is null
      union
      select earlier.hash, earlier.bytes from earlier_versions as earlier
      join drawings on drawings.id = earlier.drawing_id
      where drawings.project_id = ${projectId} and drawings.removed_at is null
      union
      select files.hash, files.bytes from run_files as files
      join runs on runs.id = files.run_id
      where runs.project_id = ${projectId} and runs.removed_at is null
    ) as contents`);
  return Number(rows[0]!.bytes);
}
