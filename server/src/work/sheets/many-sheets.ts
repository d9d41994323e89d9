import type { ManyChange, SheetFacts } from '@folvex/contract';
import { numbersFrom, ProblemError, rescaled, type Sheet, type View } from '@folvex/core';
import type { SheetEdit } from '../../model/edits';
import type { Services } from '../services';
import { withFields } from './sheet-fields';
import { readFacts, SheetPages } from './sheet-page';

/** What one change makes of several sheets, each composed once so that what cannot be made is known before any is kept. */
export async function changeSheets(
  services: Services,
  projectId: string,
  sheets: readonly Sheet[],
  set: ManyChange['set'],
): Promise<SheetEdit[]> {
  const pages = await SheetPages.of(services, projectId);
  const edits: SheetEdit[] = [];
  for (const before of sheets) {
    // Where views lie matters only to a new scale; the change may fix a sheet that cannot be made as it is.
    const placed = set.scale === undefined ? [] : await viewsOf(services, pages, before);
    const after = changed(before, set, placed);
    await pages.make(after);
    edits.push({ before, after });
  }
  return edits;
}

async function viewsOf(services: Services, pages: SheetPages, sheet: Sheet): Promise<SheetFacts['views']> {
  const made = await pages.make(sheet).catch((error: unknown) => {
    if (error instanceof ProblemError) return undefined;
    throw error;
  });
  return made ? (await readFacts(services, made)).views : [];
}

function changed(
  sheet: Sheet,
  { scale, paper, frame, margins, marks, template, layers, fields, ...plain }: ManyChange['set'],
  placed: SheetFacts['views'],
): Sheet {
  const always = withFields(sheet, { ...plain, ...(fields && { fields: { ...sheet.fields, ...fields } }) });
  if (sheet.from) return always;
  const views = sheet.views.map((shown) => {
    const view = layers?.drawing === shown.drawing ? withLayers(shown, layers) : shown;
    if (scale === undefined || view.locked) return view;
    const lay = placed.find(({ id }) => id === view.id);
    return lay ? rescaled(view, lay, scale) : { ...view, scale };
  });
  const titleBlock = template ? { template, fields: sheet.titleBlock?.fields ?? {} } : undefined;
  const after: Sheet = {
    ...always,
    views,
    ...(paper && { paper }),
    ...(frame && { frame }),
    ...(margins && { margins }),
    ...(marks && { marks }),
    ...(template !== undefined && { titleBlock }),
  };
  if (margins === null) delete after.margins;
  if (marks === null) delete after.marks;
  return after;
}

/** A view with some layers shown and others not. */
function withLayers(view: View, { on, off }: NonNullable<ManyChange['set']['layers']>): View {
  const named = new Set([...on, ...off].map((name) => name.toLowerCase()));
  return { ...view, layersOff: [...view.layersOff.filter((name) => !named.has(name.toLowerCase())), ...off] };
}

/** What a change of several sheets is about, in words. */
export function changeInWords(set: ManyChange['set'], count: number): string {
  const words = Object.keys(set).map((key) =>
    key === 'template' ? 'title block' : key === 'fields' ? 'sheet fields' : key,
  );
  return `${words.join(' and ')} of ${count} sheets`;
}

/** A sheet with the same views at the same places under the next free number, to be shown another way. */
export function duplicateSheet(sheet: Sheet, id: string, taken: readonly Sheet[]): Sheet {
  const numbers = new Set(taken.map(({ number }) => number.toLowerCase()));
  const number = numbersFrom(sheet.number, taken.length + 2).find((one) => !numbers.has(one.toLowerCase()))!;
  return { ...sheet, id, number };
}
