import { ownFontId, ProblemError, type ProjectFacts } from '@folvex/core';
import type { Press, TakenTypeface, TypefaceFile } from '@folvex/press';
import type { Store } from '../../files/store';

/** Takes the typefaces in a file into the store, each as a file of its own. Throws a `ProblemError` on other files. */
export async function takenIn(
  { press, store }: { press: Press; store: Store },
  name: string,
  path: string,
): Promise<TakenTypeface[]> {
  const taken = await press.typefaces({ name, path, folder: store.workFolder });
  if (!taken.ok) throw new ProblemError(taken.problem);
  for (const { temporary, hash } of taken.value) await store.adopt(temporary, hash);
  return taken.value;
}

/** The files of a project's typefaces in the store. */
export async function typefaceFiles(store: Store, { typefaces = [] }: ProjectFacts): Promise<TypefaceFile[]> {
  const stored = typefaces.flatMap(({ id, hash, asked }) => (hash ? [{ id, hash, asked }] : []));
  return Promise.all(stored.map(async (one) => ({ ...one, path: await store.localFile(one.hash) })));
}

/** The file of one of a project's typefaces; undefined where it has no such one. */
export async function typefacePath(
  store: Store,
  { typefaces = [] }: ProjectFacts,
  font: string,
): Promise<string | undefined> {
  const found = typefaces.find(({ hash }) => hash && ownFontId(hash) === font);
  return found?.hash && store.localFile(found.hash);
}
