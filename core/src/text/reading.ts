import createBidi from 'bidi-js';

/** Letters that are written from right to left, and what else asks for that. */
const RIGHT_TO_LEFT = /[\u0590-\u08ff\u200f\u202b\u202e\ufb1d-\ufdff\ufe70-\ufeff]/;
const ARABIC = /[\u0621-\u06d3]/;

interface Joining {
  /** The form that a letter has alone; its final one comes next, then, where it joins on both sides, two more. */
  first: number;
  joins: boolean;
}

/** The Unicode blocks of Arabic presentation forms: what is most used first. */
const FORMS: readonly (readonly [from: number, to: number])[] = [
  [0xfe80, 0xfef4],
  [0xfb50, 0xfbff],
];

/** Letters with their contextual forms, in a row: Unicode defines which letter each is a form of. */
function readJoining(): Map<string, Joining> {
  const joining = new Map<string, Joining>();
  for (const [from, to] of FORMS) {
    for (let code = from; code <= to;) {
      const letter = String.fromCodePoint(code).normalize('NFKC');
      let end = code + 1;
      while (end <= to && String.fromCodePoint(end).normalize('NFKC') === letter) end++;
      const forms = end - code;
      if (forms >= 2 && [...letter].length === 1 && !joining.has(letter)) {
        joining.set(letter, { first: code, joins: forms === 4 });
      }
      code = end;
    }
  }
  return joining;
}

let joining: Map<string, Joining> | undefined;
/** Vowel signs above and below letters, across which those join. */
const MARK = /[\u064b-\u065f\u0670]/;

let bidi: ReturnType<typeof createBidi> | undefined;

/**
 * A line with its characters from left to right: by the bidirectional algorithm (Unicode, UAX 9), Arabic letters in
 * the forms in which they join. Lines without letters from right to left are given back as they are.
 */
export function visualOrder(line: string): string {
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
  const known = (joining ??= readJoining());
  const letters = [...line];
  const neighbour = (from: number, step: 1 | -1): Joining | undefined => {
    let at = from + step;
    while (letters[at] !== undefined && MARK.test(letters[at]!)) at += step;
    return known.get(letters[at] ?? '');
  };
  return letters
    .map((letter, i) => {
      const own = known.get(letter);
      if (!own) return letter;
      const before = neighbour(i, -1)?.joins === true;
      const after = own.joins && neighbour(i, 1) !== undefined;
      return String.fromCodePoint(own.first + (before ? 1 : 0) + (after ? 2 : 0));
    })
    .join('');
}
