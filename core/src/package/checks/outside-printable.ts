import { nameOf, forEachPage, defineCheck } from '../finding';

/** Something lies beyond what the chosen plotter can print, or beyond the paper where none is chosen. */
export const outsidePrintable = defineCheck(
  {
    'sheet.outside': ['warning', 'something beyond what the chosen plotter can print, or beyond the paper'],
  },
  forEachPage(({ outside }, sheet) => [
    outside.count === 0
      ? undefined
      : {
          code: 'sheet.outside',
          sentence: `${outside.count === 1 ? 'One mark lies' : `${outside.count} marks lie`} outside the printable area of ${nameOf(sheet)}; they are marked on the sheet.`,
        },
  ]),
);
