import { packPage, printableArea, type Outcome, type SheetFacts } from '@folvex/core';
import { composed } from './compose';
import { pageFacts } from './page-facts';
import { attempt, type SheetTask } from './sheet-task';

export interface MadePage extends SheetFacts {
  /** Packed page, uninked. */
  page: Uint8Array<ArrayBuffer>;
}

/** Composes a sheet for the screen. */
export function makePage(task: SheetTask): Promise<Outcome<MadePage>> {
  return attempt(task, async () => {
    const sheet = await composed(task);
    const { page, paper, views, notes, blanks } = sheet;
    return {
      page: packPage(page),
      ...pageFacts(sheet, task),
      views: views.map(({ view, scale, box, toPaper }) => ({ id: view.id, scale, box, toPaper })),
      notes,
      blanks,
      printable: printableArea(paper, task.project),
    };
  });
}
