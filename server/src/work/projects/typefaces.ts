import type { EditAnswer, OfferedFile } from '@folvex/contract';
import { ownFontId, ProblemError, type OwnTypeface, type ProjectFacts } from '@folvex/core';
import type { TakenTypeface, TypefaceFile } from '@folvex/press';
import { notFound } from '../../errors';
import type { Store } from '../../files/store';
import { settingsOf } from '../../data/settings';
import { makeEdit } from '../edits';
import type { Services } from '../services';

/** Adds the typefaces in a file to a project's own; those that are there already stay as they are. */
export async function addTypefaces(services: Services, projectId: string, file: OfferedFile): Promise<EditAnswer> {
  const taken = await takenIn(services, file.name, services.store.path(file.hash));
  const before = await settingsOf(services.db, projectId);
  if (!before) throw notFound('The project');
  const typefaces = [...(before.project.typefaces ?? [])];
  for (const { name, asked, hash, embedding } of taken) {
    if (typefaces.some((one) => one.hash === hash)) continue;
    const id = freeId(name, typefaces);
    typefaces.push({ id, name, file: file.name, hash, asked, ...(embedding !== 'subset' && { embedding }) });
  }
  const words = taken.length === 1 ? `typeface ${taken[0]!.name}` : `${taken.length} typefaces`;
  const after = { ...before, project: { ...before.project, typefaces } };
  return makeEdit(services, projectId, { words, settings: { before, after } });
}

/** Takes the typefaces in a file into the store, each as a file of its own. Throws a `ProblemError` on other files. */
export async function takenIn(
  { press, store }: Pick<Services, 'press' | 'store'>,
  name: string,
  path: string,
): Promise<TakenTypeface[]> {
  const taken = await press.typefaces({ name, path, folder: store.workFolder });
  if (!taken.ok) throw new ProblemError(taken.problem);
  for (const { temporary, hash } of taken.value) store.adopt(temporary, hash);
  return taken.value;
}

/** The files of a project's typefaces in the store. */
export function typefaceFiles(store: Store, { typefaces = [] }: ProjectFacts): TypefaceFile[] {
  return typefaces.flatMap(({ id, hash, asked }) => (hash ? [{ id, hash, asked, path: store.path(hash) }] : []));
}

/** The file of one of a project's typefaces; undefined where it has no such one. */
export function typefacePath(store: Store, { typefaces = [] }: ProjectFacts, font: string): string | undefined {
  const found = typefaces.find(({ hash }) => hash && ownFontId(hash) === font);
  return found?.hash && store.path(found.hash);
}

/** An id made from a name that no other typeface has. */
function freeId(name: string, taken: readonly OwnTypeface[]): string {
  const stem =
    name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '') || 'typeface';
  let id = stem;
  for (let count = 2; taken.some((one) => one.id === id); count++) id = `${stem}-${count}`;
  return id;
}
