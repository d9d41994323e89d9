import type { ManyChange, SheetFacts } from '@folvex/contract';
import { numbersFrom, rescaled, type Sheet } from '@folvex/core';
import type { SheetEdit } from '../data/edits';
import type { Services } from '../http/services';
import { pageOf } from './sheet-page';

/** What one change makes of several sheets, each composed once so that what cannot be made is known before any is kept. */
export async function changeMany(
  services: Services,
  projectId: string,
  sheets: readonly Sheet[],
  set: ManyChange['set'],
): Promise<SheetEdit[]> {
  const edits: SheetEdit[] = [];
  for (const before of sheets) {
    const { facts } = await pageOf(services, projectId, before);
    const told = JSON.parse((await services.store.read(facts)).toString()) as SheetFacts;
    const after = changed(before, set, told);
    await pageOf(services, projectId, after);
    edits.push({ before, after });
  }
  return edits;
}

function changed(sheet: Sheet, { scale, paper, frame, ...plain }: ManyChange['set'], facts: SheetFacts): Sheet {
  const always = { ...sheet, ...plain };
  if (sheet.from) return always;
  const views = sheet.views.map((view) => {
    const placed = facts.views.find(({ id }) => id === view.id);
    if (scale === undefined || !placed) return view;
    return rescaled(view, placed.box, placed.scale, scale);
  });
  return { ...always, views, ...(paper && { paper }), ...(frame && { frame }) };
}

/** What a change of several sheets is about, in words. */
export function manyInWords(set: ManyChange['set'], count: number): string {
  return `${Object.keys(set).join(' and ')} of ${count} sheets`;
}

/** A sheet with the same views at the same places under the next free number, to be shown another way. */
export function copyOf(sheet: Sheet, id: string, taken: readonly Sheet[]): Sheet {
  const numbers = new Set(taken.map(({ number }) => number.toLowerCase()));
  const number = numbersFrom(sheet.number, taken.length + 2).find((one) => !numbers.has(one.toLowerCase()))!;
  return { ...structuredClone(sheet), id, number };
}
