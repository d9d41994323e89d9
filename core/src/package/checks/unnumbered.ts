import { forEachSheet, defineCheck } from '../finding';

/** A sheet without a number: other sheets cannot refer to it. */
export const unnumbered = defineCheck(
  {
    'sheet.unnumbered': ['warning', 'a sheet without a number'],
  },
  forEachSheet((sheet) => [
    sheet.number.trim()
      ? undefined
      : {
          code: 'sheet.unnumbered',
          field: 'sheet.number',
          sentence: `“${sheet.title || sheet.id}” has no number; give it one on the sheet.`,
        },
  ]),
);
