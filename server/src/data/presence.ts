import { and, desc, eq, gt, isNull, lt, sql } from 'drizzle-orm';
import { PRESENT_FOR_S, type Person, type Presence } from '@folvex/contract';
import type { Database } from './database';
import { presence, projects } from './schema';

/** The database's clock counts, so that servers on several machines agree. */
const secondsAgo = (seconds: number) => sql<Date>`now() - make_interval(secs => ${seconds})`;

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
  const told = { projectId, person: id, name, sheet, seenAt: sql<Date>`now()` };
  await db
    .insert(presence)
    .values({ window, ...told })
    .onConflictDoUpdate({ target: presence.window, set: told });
  await db.delete(presence).where(lt(presence.seenAt, secondsAgo(PRESENT_FOR_S)));
  return true;
}

/** Forgets a window that was closed, or left its project. */
export async function endPresence(db: Database, projectId: string, window: string): Promise<void> {
  await db.delete(presence).where(and(eq(presence.window, window), eq(presence.projectId, projectId)));
}

/** Who has a project open, by name; of several windows of one person the one that was heard of last. */
export async function peopleAt(db: Database, projectId: string): Promise<Person[]> {
  const rows = await db
    .select({ id: presence.person, name: presence.name, sheet: presence.sheet })
    .from(presence)
    .where(and(eq(presence.projectId, projectId), gt(presence.seenAt, secondsAgo(PRESENT_FOR_S))))
    .orderBy(desc(presence.seenAt));
  const people = new Map<string, Person>();
  for (const person of rows) if (!people.has(person.id)) people.set(person.id, person);
  const byName = (a: Person, b: Person): number => (a.name < b.name ? -1 : a.name > b.name ? 1 : a.id < b.id ? -1 : 1);
  return [...people.values()].sort(byName);
}
