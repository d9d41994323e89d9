import { nameOf, forEachPage, defineCheck } from '../finding';

/** Nothing of a drawing is on the sheet. */
export const emptySheets = defineCheck(
  {
    'sheet.empty': ['warning', 'a sheet on which nothing is drawn'],
  },
  forEachPage(({ lettering }, sheet) => [
    lettering.drawn > 0 || (sheet.notes ?? []).length > 0
      ? undefined
      : {
          code: 'sheet.empty',
          sentence: `Nothing is drawn on ${nameOf(sheet)}; place a view on it, or remove it from the package.`,
        },
  ]),
);
