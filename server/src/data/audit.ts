import { desc, eq, lt } from 'drizzle-orm';
import type { AuditEvent, AuditRow } from '@folvex/contract';
import type { Database } from './database';
import { audit } from './access-schema';
import { projects } from './schema';

/** Who did something. Null: nobody is signed in, since Folvex serves one person. */
export type Author = { id: string; name: string } | null;

export interface AuditEntry {
  by: Author;
  event: AuditEvent;
  projectId?: string | undefined;
  subject?: string | undefined;
}

export async function recordAudit(
  db: Pick<Database, 'insert'>,
  { by, event, projectId, subject = '' }: AuditEntry,
): Promise<void> {
  await db
    .insert(audit)
    .values({ accountId: by?.id ?? null, name: by?.name ?? null, event, projectId: projectId ?? null, subject });
}

/** The latest entries, or those before one. */
export async function auditRows(db: Database, limit: number, before?: number): Promise<AuditRow[]> {
  const rows = await db
    .select({ row: audit, facts: projects.facts })
    .from(audit)
    .leftJoin(projects, eq(projects.id, audit.projectId))
    .where(before === undefined ? undefined : lt(audit.id, before))
    .orderBy(desc(audit.id))
    .limit(limit);
  return rows.map(({ row: { id, at, name, event, subject }, facts }) => ({
    ...{ id, at: at.toISOString(), name, event, subject },
    project: facts ? [facts.number, facts.name].filter(Boolean).join(' ') : null,
  }));
}
