import { outOfDate } from '../../sheet/model';
import { nameOf, ofEachSheet, type Check } from './finding';

/** A view is held at an older version of its drawing than the latest. */
export const outOfDateViews: Check = ofEachSheet((sheet, { latest }) =>
  outOfDate(sheet, (id) => latest?.get(id)?.version).map(({ drawing, held, latest: newest }) => ({
    code: 'view.out-of-date',
    severity: 'warning',
    sentence: `${nameOf(sheet)} shows version ${held} of ${latest!.get(drawing)!.name}, which is at version ${newest}; let it follow the drawing if that is wanted.`,
    fix: { words: 'Let it follow', follow: { sheet: sheet.id, drawing } },
  })),
);
