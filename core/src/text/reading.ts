import createBidi from 'bidi-js';

/** Letters that are written from right to left, and what else asks for that. */
const RIGHT_TO_LEFT = /[\u0590-\u08ff\u200f\u202b\u202e\ufb1d-\ufdff\ufe70-\ufeff]/;
const ARABIC = /[\u0621-\u06cc]/;

/**
 * Arabic letters with the first of their forms in the Unicode blocks "Arabic presentation forms"; in turn alone, at the
 * end, and for those that join on both sides (`joins`) at the beginning and in the middle.
 */
const FORMS: readonly [letters: string, first: number, joins: boolean][] = [
  ['\u0622', 0xfe81, false],
  ['\u0623', 0xfe83, false],
  ['\u0624', 0xfe85, false],
  ['\u0625', 0xfe87, false],
  ['\u0626', 0xfe89, true],
  ['\u0627', 0xfe8d, false],
  ['\u0628', 0xfe8f, true],
  ['\u0629', 0xfe93, false],
  ['\u062a\u062b\u062c\u062d\u062e', 0xfe95, true],
  ['\u062f\u0630\u0631\u0632', 0xfea9, false],
  ['\u0633\u0634\u0635\u0636\u0637\u0638\u0639\u063a', 0xfeb1, true],
  ['\u0641\u0642\u0643\u0644\u0645\u0646\u0647', 0xfed1, true],
  ['\u0648\u0649', 0xfeed, false],
  ['\u064a', 0xfef1, true],
  ['\u067e', 0xfb56, true],
  ['\u0686', 0xfb7a, true],
  ['\u0698', 0xfb8a, false],
  ['\u06a9', 0xfb8e, true],
  ['\u06af', 0xfb92, true],
  ['\u06cc', 0xfbfc, true],
];

interface Joining {
  first: number;
  joins: boolean;
}

const JOINING: ReadonlyMap<string, Joining> = new Map(
  FORMS.flatMap(([letters, first, joins]) =>
    [...letters].map((letter, i): [string, Joining] => [letter, { first: first + i * (joins ? 4 : 2), joins }]),
  ),
);
/** Vowel signs above and below letters, across which those join. */
const MARK = /[\u064b-\u065f\u0670]/;

let bidi: ReturnType<typeof createBidi> | undefined;

/**
 * A line as its characters stand from left to right: by the bidirectional algorithm (Unicode, UAX 9), Arabic letters in
 * the forms in which they join. Lines without letters from right to left are given back as they are.
 */
export function asSetFromLeft(line: string): string {
  if (!RIGHT_TO_LEFT.test(line)) return line;
  bidi ??= createBidi();
  const joined = ARABIC.test(line) ? joinArabic(line) : line;
  return bidi.getReorderedString(joined, bidi.getEmbeddingLevels(joined));
}

/** The character that a form of a letter stands for; most are their own. */
export function letterOf(codePoint: number): number {
  if (codePoint < 0xfb50 || codePoint > 0xfefc) return codePoint;
  return String.fromCodePoint(codePoint).normalize('NFKC').codePointAt(0)!;
}

function joinArabic(line: string): string {
  const letters = [...line];
  const neighbour = (from: number, step: 1 | -1): Joining | undefined => {
    let at = from + step;
    while (letters[at] !== undefined && MARK.test(letters[at]!)) at += step;
    return JOINING.get(letters[at] ?? '');
  };
  return letters
    .map((letter, i) => {
      const own = JOINING.get(letter);
      if (!own) return letter;
      const before = neighbour(i, -1)?.joins === true;
      const after = own.joins && neighbour(i, 1) !== undefined;
      return String.fromCodePoint(own.first + (before ? 1 : 0) + (after ? 2 : 0));
    })
    .join('');
}
