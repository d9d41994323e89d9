import { ofEachSheet, type Check } from './finding';

/** A number that stands for none: sheets without one cannot be referred to. */
export const unnumbered: Check = ofEachSheet((sheet) => [
  sheet.number.trim()
    ? undefined
    : {
        code: 'sheet.unnumbered',
        severity: 'warning',
        sentence: `“${sheet.title || sheet.id}” has no number; give it one on the sheet.`,
      },
]);
