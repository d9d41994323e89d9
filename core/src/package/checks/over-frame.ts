import { nameOf, ofEachPage, type Check } from './finding';

/** Something reaches over the frame of a sheet. */
export const overFrame: Check = ofEachPage(({ overFrame: count }, sheet) => {
  if (count === 0) return [];
  const what = count === 1 ? 'One line or text reaches' : `${count} lines or texts reach`;
  const sentence = `${what} over the frame of ${nameOf(sheet)}; move its views, or cut them.`;
  return [{ code: 'sheet.over-frame', severity: 'warning', sentence }];
});
