import type { EditAnswer, SheetFacts } from '@folvex/contract';
import type { Sheet } from '@folvex/core';
import { applyEdit, historyOf, stepThroughHistory, type InProject, type HistoryStep } from '../data/edits';
import { Refused } from '../errors';
import type { PackageEdit, SettingsEdit, SheetEdit } from '../model/edits';
import type { Services } from './services';
import { readFacts, SheetPages } from './sheets/sheet-page';

/** An edit to be made; all of it takes effect or, with a refusal, nothing. */
export interface WantedEdit {
  /** For people, behind "Undo": `title of A-101`. */
  words: string;
  sheets?: SheetEdit[];
  settings?: SettingsEdit;
  pack?: PackageEdit;
}

/** A person looks at one of the changed sheets; facts of more than this many would only slow the edit down. */
const MOST_WITH_FACTS = 20;

/** Makes an edit of sheets, settings or a package; every edit goes through here, and has the same answer. */
export async function makeEdit(
  services: Services,
  within: InProject,
  { words, sheets = [], settings, pack }: WantedEdit,
): Promise<EditAnswer> {
  await applyEdit(services.db, within, words, sheets, { settings, pack });
  return answer(services, within.project, { words, sheets, settings, pack });
}

/** Undoes the last edit, or makes the last undone one again. */
export async function stepHistory(services: Services, within: InProject, way: 'undo' | 'redo'): Promise<EditAnswer> {
  const step = await stepThroughHistory(services.db, within, way);
  if (!step)
    throw new Refused(409, 'edit.none', way === 'undo' ? 'There is nothing to undo.' : 'There is nothing to redo.');
  return answer(services, within.project, step);
}

async function answer(
  services: Services,
  projectId: string,
  { words, sheets, settings, pack }: HistoryStep,
): Promise<EditAnswer> {
  const changed = sheets.flatMap(({ after }) => after ?? []);
  return {
    words,
    sheets: changed,
    removed: sheets.flatMap(({ before, after }) => (before && !after ? [before.id] : [])),
    ...(settings && { settings: settings.after }),
    ...(pack?.after && { pack: pack.after }),
    ...(pack && !pack.after && pack.before && { packGone: pack.before.id }),
    facts: await factsOf(services, projectId, changed),
    history: await historyOf(services.db, projectId),
  };
}

/** How changed sheets came out, as far as they are composed already: an edit is not held up for it. */
async function factsOf(
  services: Services,
  projectId: string,
  sheets: readonly Sheet[],
): Promise<Record<string, SheetFacts>> {
  if (sheets.length === 0 || sheets.length > MOST_WITH_FACTS) return {};
  const pages = await SheetPages.of(services, projectId);
  const found = await Promise.all(
    sheets.map(async (sheet) => {
      const composed = await pages.find(sheet);
      return composed ? [[sheet.id, await readFacts(services, composed)] as const] : [];
    }),
  );
  return Object.fromEntries(found.flat());
}
