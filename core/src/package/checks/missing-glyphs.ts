import { nameOf, ofEachPage, type Check } from './finding';

/** Characters that no typeface has. */
export const missingGlyphs: Check = ofEachPage(({ warnings }, sheet) =>
  warnings
    .filter(({ code }) => code === 'sheet.glyphs')
    .map(({ sentence }) => ({ code: 'text.glyphs', severity: 'warning', sentence: `${nameOf(sheet)}: ${sentence}` })),
);
