import { forEachSheet, defineCheck } from '../finding';

/** A number that stands for none: sheets without one cannot be referred to. */
export const unnumbered = defineCheck(
  {
    'sheet.unnumbered': ['warning', 'a sheet without a number'],
  },
  forEachSheet((sheet) => [
    sheet.number.trim()
      ? undefined
      : {
          code: 'sheet.unnumbered',
          sentence: `“${sheet.title || sheet.id}” has no number; give it one on the sheet.`,
        },
  ]),
);
