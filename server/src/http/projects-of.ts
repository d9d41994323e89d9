import type { Request } from 'express';
import { projectOfDrawing, projectsWithContent } from '../data/drawings';
import type { Database } from '../data/database';
import { projectOfRun } from '../data/runs';
import { parameter } from './answers';

/**
 * Ids of the projects that a request is about, by the parameters of its address: one, or all that have a content in common.
 * None where there is no such thing, or where a drawing or run in the address is of another project than the address says.
 */
export async function projectsOf(db: Database, request: Request): Promise<string[]> {
  const stated = (name: string): string | undefined =>
    request.params[name] === undefined ? undefined : parameter(request, name);
  const [project, drawing, run, content] = ['project', 'drawing', 'run', 'content'].map(stated);
  if (content !== undefined) return projectsWithContent(db, content);
  const named = new Set<string | undefined>();
  if (project !== undefined) named.add(project);
  if (drawing !== undefined) named.add(await projectOfDrawing(db, drawing));
  if (run !== undefined) named.add(await projectOfRun(db, run));
  const [id] = named;
  return id !== undefined && named.size === 1 ? [id] : [];
}
