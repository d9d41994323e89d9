import { userUnit } from '../../pdf/content';
import { nameOf, ofEachPage, type Check } from './finding';
import { printedOn } from './printed';

/** Pages larger than PDF 1.4 can say (ISO 32000-1, annex C: 14 400 units a side). */
export const giantPages: Check = ofEachPage(({ paper: own }, sheet, input) => {
  const { paper } = printedOn(input, sheet, own);
  if (input.recipe?.version !== '1.4' || userUnit({ widthMm: paper.width, heightMm: paper.height }) === 1) return [];
  const sentence = `${nameOf(sheet)} is longer than the 5080 mm that PDF 1.4 can say; choose a recipe with a later version.`;
  return [{ code: 'sheet.giant', severity: 'stop', sentence }];
});
