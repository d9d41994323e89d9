import {
  contextOf,
  orderAround,
  plainInputs,
  ProblemError,
  STANDARD_RECIPE,
  type Sheet,
  type SheetFacts,
} from '@folvex/core';
import { findArtifact, saveArtifacts } from '../../data/artifacts';
import { drawingSources } from '../../data/drawings';
import { packagesOf, projectFacts, sheetsOf } from '../../data/projects';
import { notFound } from '../../errors';
import { SOURCE_HASHES } from '../../model/sources';
import type { Services } from '../services';
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
  const inputs = plainInputs(project.facts, sheet, context, STANDARD_RECIPE);
  const task = sheetTask(store, inputs, await drawingSources(db, projectId));
  const key = `${SOURCE_HASHES.page} ${inputHash(task)}`;
  const [page, facts] = [await findArtifact(db, 'page', key), await findArtifact(db, 'page-facts', key)];
  if (page && facts && (await store.has(page)) && (await store.has(facts))) return { page, facts };
  const composed = await press.makePage(task);
  if (!composed.ok) throw new ProblemError(composed.problem);
  const { page: packed, ...sheetFacts }: { page: Uint8Array } & SheetFacts = composed.value;
  const made = { page: await store.put(packed), facts: await store.put(Buffer.from(JSON.stringify(sheetFacts))) };
  await saveArtifacts(db, [
    { kind: 'page', key, hash: made.page },
    { kind: 'page-facts', key, hash: made.facts },
  ]);
  return made;
}
