import { nameOf, ofEachPage, type Check } from './finding';

/** Nothing of a drawing is on the sheet. */
export const emptySheets: Check = ofEachPage(({ lettering }, sheet) => [
  lettering.drawn > 0 || (sheet.notes ?? []).length > 0
    ? undefined
    : {
        code: 'sheet.empty',
        severity: 'warning',
        sentence: `Nothing is drawn on ${nameOf(sheet)}; place a view on it, or take it out of the package.`,
      },
]);
