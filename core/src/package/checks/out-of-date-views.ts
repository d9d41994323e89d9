import { outOfDate } from '../../sheet/model';
import { nameOf, forEachSheet, defineCheck } from '../finding';

/** A view is held at an older version of its drawing than the latest. */
export const outOfDateViews = defineCheck(
  {
    'view.out-of-date': ['warning', 'a view held behind the latest version of its drawing'],
  },
  forEachSheet((sheet, { latest }) =>
    outOfDate(sheet, (id) => latest?.get(id)?.version).map(({ drawing, held, latest: newest }) => ({
      code: 'view.out-of-date',
      sentence: `${nameOf(sheet)} shows version ${held} of ${latest!.get(drawing)!.name}, which is at version ${newest}; update it if it should follow the drawing.`,
      fix: { words: 'Let it follow', follow: { sheet: sheet.id, drawing } },
    })),
  ),
);
