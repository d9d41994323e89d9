import { nameOf, ofEachPage, type Check } from './finding';

/** Pages larger than PDF 1.4 can say (ISO 32000-1, annex C: 14 400 units a side). */
export const giantPages: Check = ofEachPage(({ paper }, sheet, { recipe }) => {
  const most = (14_400 / 72) * 25.4;
  if (recipe?.version !== '1.4' || Math.max(paper.width, paper.height) <= most) return [];
  const sentence = `${nameOf(sheet)} is longer than the ${most} mm that PDF 1.4 can say; choose a recipe with a later version.`;
  return [{ code: 'sheet.giant', severity: 'stop', sentence }];
});
