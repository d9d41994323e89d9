import { nameOf, ofEachPage, type Check } from './finding';

/** Something lies where the plotter, or the frame, leaves no room. */
export const outsidePrintable: Check = ofEachPage(({ outside }, sheet) => [
  outside.count === 0
    ? undefined
    : {
        code: 'sheet.outside',
        severity: 'warning',
        sentence: `${outside.count === 1 ? 'One mark lies' : `${outside.count} marks lie`} beyond what can be printed of ${nameOf(sheet)}; see them marked on the sheet.`,
      },
]);
