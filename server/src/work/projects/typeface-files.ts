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
