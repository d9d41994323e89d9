import { nameOf, ofEachPage, type Check } from './finding';

/** Lower texts cannot be relied on in print (common practice), mm. */
const LEAST_TEXT_MM = 1.8;

/** Texts too low to be read in print. */
export const smallTexts: Check = ofEachPage(({ lettering: { least } }, sheet) => [
  !least || least.height >= LEAST_TEXT_MM - 0.005
    ? undefined
    : {
        code: 'text.small',
        severity: 'note',
        sentence: `“${cut(least.text)}” on ${nameOf(sheet)} is ${least.height} mm high, and under ${LEAST_TEXT_MM} mm cannot be relied on in print; size the view's lettering for the paper.`,
      },
]);

function cut(text: string): string {
  return text.length > 30 ? `${text.slice(0, 29)}…` : text;
}
