import { nameOf, forEachPage, defineCheck } from '../finding';

/** Characters that no typeface has. */
export const missingGlyphs = defineCheck(
  {
    'text.glyphs': ['warning', 'characters that no typeface has'],
  },
  forEachPage(({ warnings }, sheet) =>
    warnings
      .filter(({ code }) => code === 'sheet.glyphs')
      .map(({ sentence }) => ({ code: 'text.glyphs', sentence: `${nameOf(sheet)}: ${sentence}` })),
  ),
);
