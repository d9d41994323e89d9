import type { EditAnswer, OfferedFile } from '@folvex/contract';
import { freeId } from '@folvex/core';
import { notFound } from '../../errors';
import type { InProject } from '../../data/edits';
import { settingsOf } from '../../data/settings';
import { makeEdit } from '../edits';
import type { Services } from '../services';
import { takenIn } from './typeface-files';

/** Adds the typefaces in a file to a project's own; those that are there already stay as they are. */
export async function addTypefaces(services: Services, within: InProject, file: OfferedFile): Promise<EditAnswer> {
  const taken = await takenIn(services, file.name, await services.store.localFile(file.hash));
  const before = await settingsOf(services.db, within.project);
  if (!before) throw notFound('The project');
  const typefaces = [...(before.project.typefaces ?? [])];
  for (const { name, asked, hash, embedding } of taken) {
    if (typefaces.some((one) => one.hash === hash)) continue;
    const id = freeId(name, typefaces);
    typefaces.push({ id, name, file: file.name, hash, asked, ...(embedding !== 'subset' && { embedding }) });
  }
  const words = taken.length === 1 ? `typeface ${taken[0]!.name}` : `${taken.length} typefaces`;
  const after = { ...before, project: { ...before.project, typefaces } };
  return makeEdit(services, within, { words, settings: { before, after } });
}
