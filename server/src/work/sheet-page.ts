import type { SheetFacts } from '@folvex/contract';
import { contextOf, orderAround, ProblemError, STANDARD_RECIPE, type Sheet } from '@folvex/core';
import { drawingSources } from '../data/drawings';
import { packagesOf, projectFacts, sheetsOf } from '../data/projects';
import { madeBefore, rememberMade } from '../data/runs';
import { notFound } from '../http/answers';
import type { Services } from '../http/services';
import { inputHash, sheetTask } from './sheet-task';

/** Hashes of the packed page of a sheet and of its facts as JSON, made when they are not in the store yet. */
export async function pageOf(
  { db, store, press }: Services,
  projectId: string,
  sheet: Sheet,
): Promise<{ page: string; facts: string }> {
  const project = await projectFacts(db, projectId);
  if (!project) throw notFound('The project');
  const [sheets, packages] = await Promise.all([sheetsOf(db, projectId), packagesOf(db, projectId)]);
  const context = contextOf(project.facts, sheet, sheets, orderAround(sheet, packages));
  const task = sheetTask(store, project.facts, sheet, context, STANDARD_RECIPE, await drawingSources(db, projectId));
  const key = inputHash(task);
  const [page, facts] = [await madeBefore(db, 'page', key), await madeBefore(db, 'page-facts', key)];
  if (page && facts && (await store.has(page)) && (await store.has(facts))) return { page, facts };
  const composed = await press.makePage(task);
  if (!composed.ok) throw new ProblemError(composed.problem);
  const { page: packed, ...told }: { page: Uint8Array } & SheetFacts = composed.value;
  const made = { page: await store.put(packed), facts: await store.put(Buffer.from(JSON.stringify(told))) };
  await rememberMade(db, 'page', key, made.page);
  await rememberMade(db, 'page-facts', key, made.facts);
  return made;
}
