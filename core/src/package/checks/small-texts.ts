import { nameOf, ofEachPage, type Check } from './finding';
import { printedOn } from './printed';

/** Lower texts cannot be relied on in print (common practice), mm. */
const LEAST_TEXT_MM = 1.8;

/** Texts too low to be read in print. */
export const smallTexts: Check = ofEachPage(({ paper, lettering: { least } }, sheet, input) => {
  if (!least) return [];
  const height = Math.round(least.height * printedOn(input, sheet, paper).factor * 100) / 100;
  if (height >= LEAST_TEXT_MM) return [];
  const sentence = `“${cut(least.text)}” on ${nameOf(sheet)} is ${height} mm high, and under ${LEAST_TEXT_MM} mm cannot be relied on in print; size the view's lettering for the paper.`;
  return [{ code: 'text.small', severity: 'note', sentence }];
});

function cut(text: string): string {
  return text.length > 30 ? `${text.slice(0, 29)}…` : text;
}
