import { nameOf, forEachPage, defineCheck } from '../finding';

/** Something reaches over the frame of a sheet. */
export const overFrame = defineCheck(
  {
    'sheet.over-frame': ['warning', 'something that reaches over the frame of its sheet'],
  },
  forEachPage(({ overFrame: count }, sheet) => {
    if (count === 0) return [];
    const what = count === 1 ? 'One line or text reaches' : `${count} lines or texts reach`;
    const sentence = `${what} over the frame of ${nameOf(sheet)}; move or crop its views.`;
    return [{ code: 'sheet.over-frame', sentence }];
  }),
);
