import { userUnit } from '../../pdf/user-unit';
import { nameOf, forEachPage, defineCheck } from '../finding';
import { printedPaper } from '../printed-paper';

/** Pages larger than PDF 1.4 allows (ISO 32000-1, annex C: 14 400 units a side). */
export const giantPages = defineCheck(
  {
    'sheet.giant': ['stop', 'a page longer than PDF 1.4 allows, with a recipe of that version'],
  },
  forEachPage(({ paper: own }, sheet, input) => {
    const { paper } = printedPaper(input, sheet, own);
    if (input.recipe?.version !== '1.4' || userUnit({ widthMm: paper.width, heightMm: paper.height }) === 1) return [];
    const sentence = `${nameOf(sheet)} is longer than the 5080 mm that PDF 1.4 can say; choose a recipe with a later version.`;
    return [{ code: 'sheet.giant', sentence }];
  }),
);
