import type { EditAnswer, SheetFacts } from '@folvex/contract';
import { applyEdit, historyOf, stepThroughHistory, type HistoryStep } from '../data/edits';
import { Refused } from '../errors';
import type { PackageEdit, SettingsEdit, SheetEdit } from '../model/edits';
import type { Services } from './services';

/** An edit to be made; all of it takes effect or, with a refusal, nothing. */
export interface WantedEdit {
  /** For people, behind "Undo": `title of A-101`. */
  words: string;
  sheets?: SheetEdit[];
  settings?: SettingsEdit;
  pack?: PackageEdit;
  /** Hashes of the facts of sheets that were composed for this edit, by id. */
  facts?: Readonly<Record<string, string>>;
}

/** Makes an edit of sheets, settings or a package; every edit goes through here, and has the same answer. */
export async function makeEdit(
  services: Services,
  projectId: string,
  { words, sheets = [], settings, pack, facts = {} }: WantedEdit,
): Promise<EditAnswer> {
  await applyEdit(services.db, projectId, words, sheets, { settings, pack });
  return answer(services, projectId, { words, sheets, settings, pack }, facts);
}

/** Undoes the last edit, or makes the last undone one again. */
export async function stepHistory(services: Services, projectId: string, way: 'undo' | 'redo'): Promise<EditAnswer> {
  const step = await stepThroughHistory(services.db, projectId, way);
  if (!step)
    throw new Refused(409, 'edit.none', way === 'undo' ? 'There is nothing to undo.' : 'There is nothing to redo.');
  return answer(services, projectId, step, {});
}

async function answer(
  { db, store }: Services,
  projectId: string,
  { words, sheets, settings, pack }: HistoryStep,
  facts: Readonly<Record<string, string>>,
): Promise<EditAnswer> {
  const read = await Promise.all(
    Object.entries(facts).map(
      async ([id, hash]) => [id, JSON.parse((await store.read(hash)).toString()) as SheetFacts] as const,
    ),
  );
  return {
    words,
    sheets: sheets.flatMap(({ after }) => after ?? []),
    removed: sheets.flatMap(({ before, after }) => (before && !after ? [before.id] : [])),
    ...(settings && { settings: settings.after }),
    ...(pack?.after && { pack: pack.after }),
    ...(pack && !pack.after && pack.before && { packGone: pack.before.id }),
    facts: Object.fromEntries(read),
    history: await historyOf(db, projectId),
  };
}
