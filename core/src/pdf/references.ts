import type { Page, PageText } from '../page/page';
import { UNITS_PER_MM } from '../page/page';
import type { FontSet } from '../text/layout';
import { textAdvance } from '../text/layout';

/** Something in the texts of a page that may lead somewhere: the number of a sheet, or an address. */
export interface TextReference {
  /** What it names: the number of a sheet as it is written, or an address. */
  names: string;
  kind: 'sheet' | 'address';
  /** xmin, ymin, xmax, ymax, mm from the page's lower left corner. */
  box: [number, number, number, number];
}

const ADDRESS = /https?:\/\/[^\s<>"]+[^\s<>".,;:!?)]/gi;
/** Words; those with letters and figures, such as A-501, may be numbers of sheets. */
const WORD = /[\p{L}\p{N}](?:[\p{L}\p{N}._-]*[\p{L}\p{N}])?/gu;
const [FIGURE, LETTER] = [/\d/, /\p{L}/u];
/** Before such a word maybe the number of a view and a stroke. */
const OF_VIEW = /\d{1,3}\s*\/\s*$/;
/** What must be there for a number of figures alone to count. */
const POINTING = /see|sheet|drawing|\//i;
/** Digits alone refer to a sheet only after a word such as "sheet". */
const FIGURES = /(?:\bsee\s+|\bsheet\s+|\bdrawing\s+|\p{N}{1,3}\s*\/\s*)(\p{N}{2,5})(?![\p{L}\p{N}])/giu;
const MAX_COUNT = 5000;

/** Everything in the texts of a page that may refer to a sheet or an address, whatever sheets there are. */
export function referencesIn(page: Page, fonts: FontSet): TextReference[] {
  const found: TextReference[] = [];
  for (const text of page.texts) {
    const add = (kind: TextReference['kind'], names: string, from: number, length: number): void => {
      if (found.length < MAX_COUNT) found.push({ kind, names, box: boxOf(text, fonts, from, length) });
    };
    const words = text.text;
    if (words.includes('://')) {
      for (const match of words.matchAll(ADDRESS)) add('address', match[0], match.index, match[0].length);
      continue;
    }
    // Most texts of a drawing are dimensions or plain words: they are passed over quickly.
    if (!FIGURE.test(words)) continue;
    if (mayMix(words)) {
      for (const [word, at] of wordsOf(words)) {
        if (!FIGURE.test(word) || !LETTER.test(word)) continue;
        const before = OF_VIEW.exec(words.slice(0, at))?.[0].length ?? 0;
        add('sheet', word, at - before, word.length + before);
      }
    }
    if (!POINTING.test(words)) continue;
    for (const match of words.matchAll(FIGURES)) add('sheet', match[1]!, match.index, match[0].length);
  }
  return found;
}

/** Whether a word of a text may have both figures and letters; surely not where it says no. */
function mayMix(text: string): boolean {
  let [figure, letter] = [false, false];
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (code >= 48 && code <= 57) figure = true;
    else if (code > 64) letter = true;
    else if (code === 32) figure = letter = false;
    if (figure && letter) return true;
  }
  return false;
}

function wordsOf(text: string): [word: string, at: number][] {
  return [...text.matchAll(WORD)].map((match) => [match[0], match.index]);
}

/** Where some characters of a text lie, from a little below the baseline to the height of the em. */
function boxOf(text: PageText, fonts: FontSet, from: number, length: number): TextReference['box'] {
  const advance = (part: string): number => textAdvance(fonts, text.font, part);
  const start = advance(text.text.slice(0, from)) * text.size;
  const end = start + advance(text.text.slice(from, from + length)) * text.size;
  const [low, high] = [-0.25 * text.size, 0.85 * text.size];
  const corners = [
    [start, low],
    [end, low],
    [start, high],
    [end, high],
  ].map(([x, y]) => [text.a * x! + text.c * y! + text.x, text.b * x! + text.d * y! + text.y] as const);
  const xs = corners.map(([x]) => x / UNITS_PER_MM);
  const ys = corners.map(([, y]) => y / UNITS_PER_MM);
  const round = (value: number): number => Math.round(value * 100) / 100;
  return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)].map(round) as TextReference['box'];
}
