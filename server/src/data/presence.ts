import { and, desc, eq, gt, isNull, lt, sql, type SQL } from 'drizzle-orm';
import { PRESENT_FOR_S, type Person, type Presence } from '@folvex/contract';
import type { Database } from './database';
import { presence, projects } from './schema';

/** When windows that still count as open reported last, at the earliest; by the database's clock, which all servers share. */
const SINCE = sql<Date>`now() - make_interval(secs => ${PRESENT_FOR_S})`;

/** Records that a window has a project open, now. False where there is no such project. */
export async function recordPresence(
  db: Database,
  projectId: string,
  { window, id, name, sheet }: Presence,
): Promise<boolean> {
  const [project] = await db
    .select({ id: projects.id })
    .from(projects)
    .where(and(eq(projects.id, projectId), isNull(projects.removedAt)));
  if (!project) return false;
  const reported = { projectId, person: id, name, sheet, seenAt: sql<Date>`now()` };
  await db
    .insert(presence)
    .values({ window, ...reported })
    .onConflictDoUpdate({ target: presence.window, set: reported });
  await db.delete(presence).where(lt(presence.seenAt, SINCE));
  return true;
}

/** Forgets a window that was closed, or left its project. */
export async function endPresence(db: Database, projectId: string, window: string): Promise<void> {
  await db.delete(presence).where(and(eq(presence.window, window), eq(presence.projectId, projectId)));
}

/** Who has a project open, by name; of several windows of one person the latest to report. */
export async function peopleAt(db: Database, projectId: string): Promise<Person[]> {
  return (await peopleWhere(db, eq(presence.projectId, projectId)))[projectId] ?? [];
}

/** The same for every project that somebody has open, by its id. */
export async function peopleByProject(db: Database): Promise<Record<string, Person[]>> {
  return peopleWhere(db);
}

async function peopleWhere(db: Database, condition?: SQL): Promise<Record<string, Person[]>> {
  const rows = await db
    .selectDistinctOn([presence.projectId, presence.person])
    .from(presence)
    .where(and(gt(presence.seenAt, SINCE), condition))
    .orderBy(presence.projectId, presence.person, desc(presence.seenAt));
  const people: Record<string, Person[]> = {};
  for (const { projectId, person: id, name, sheet } of rows) (people[projectId] ??= []).push({ id, name, sheet });
  for (const list of Object.values(people)) list.sort((a, b) => (a.name < b.name ? -1 : 1));
  return people;
}
