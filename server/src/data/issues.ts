import { and, asc, desc, eq, sql } from 'drizzle-orm';
import type { Issue } from '@folvex/core';
import type { Database, Transaction } from './database';
import { issues } from './schema';

/** The issues of a project, the first first. */
export async function issuesOf(db: Database, projectId: string): Promise<Issue[]> {
  const rows = await db.select().from(issues).where(eq(issues.projectId, projectId)).orderBy(asc(issues.number));
  return rows.map(({ issue }) => issue);
}

export async function issueById(db: Database, projectId: string, id: string): Promise<Issue | undefined> {
  const [row] = await db
    .select()
    .from(issues)
    .where(and(eq(issues.projectId, projectId), eq(issues.id, id)));
  return row?.issue;
}

/** The latest issue of a run; undefined where it was not issued. */
export async function latestIssueOf(db: Database, runId: string): Promise<Issue | undefined> {
  const rows = db.select().from(issues).where(eq(issues.runId, runId));
  return (await rows.orderBy(desc(issues.number)).limit(1))[0]?.issue;
}

/** Writes an issue, in a transaction, under the next number of its project; two at once get one each. */
export async function addIssue({ db }: Transaction, projectId: string, issue: Omit<Issue, 'number'>): Promise<Issue> {
  await db.execute(sql`select pg_advisory_xact_lock(hashtext(${`issues ${projectId}`}))`);
  const [row] = await db
    .select({ last: sql<number>`coalesce(max(${issues.number}), 0)::int` })
    .from(issues)
    .where(eq(issues.projectId, projectId));
  const numbered: Issue = { ...issue, number: row!.last + 1 };
  const { id, number, runId } = numbered;
  await db.insert(issues).values({ id, projectId, number, runId, issue: numbered });
  return numbered;
}
