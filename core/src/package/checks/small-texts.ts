import { nameOf, forEachPage, defineCheck } from '../finding';
import { printedPaper } from '../printed-paper';

/** Lower texts cannot be relied on in print (common practice), mm. */
const MIN_TEXT_MM = 1.8;

/** Texts too low to be read in print. */
export const smallTexts = defineCheck(
  {
    'text.small': ['note', 'texts under 1.8 mm, which cannot be relied on in print'],
  },
  forEachPage(({ paper, lettering: { least } }, sheet, input) => {
    if (!least) return [];
    const height = Math.round(least.height * printedPaper(input, sheet, paper).factor * 100) / 100;
    if (height >= MIN_TEXT_MM) return [];
    const sentence = `“${cut(least.text)}” on ${nameOf(sheet)} is ${height} mm high; texts under ${MIN_TEXT_MM} mm may not be readable in print. Size the view's lettering for the paper.`;
    return [{ code: 'text.small', sentence }];
  }),
);

function cut(text: string): string {
  return text.length > 30 ? `${text.slice(0, 29)}…` : text;
}
