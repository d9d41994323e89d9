import { drawingById, projectsWithContent } from '../data/drawings';
import type { Database } from '../data/database';
import { runById } from '../data/runs';

/**
 * Ids of the projects that an address is about, by its parameters: one, or all that have a content in common. None where
 * there is no such thing, or where a drawing or run in the address is of another project than the address says.
 */
export async function projectsOf(
  db: Database,
  { project, drawing, run, content }: Partial<Record<string, string>>,
): Promise<string[]> {
  if (content !== undefined) return projectsWithContent(db, content);
  const named = new Set<string | undefined>();
  if (project !== undefined) named.add(project);
  if (drawing !== undefined) named.add((await drawingById(db, drawing))?.projectId);
  if (run !== undefined) named.add((await runById(db, run))?.projectId);
  const [id] = named;
  return id !== undefined && named.size === 1 ? [id] : [];
}
