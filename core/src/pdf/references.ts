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
/** A word with letters and figures such as A-501; before it maybe the number of a view and a stroke. */
const NUMBERED =
  /(?:\p{N}{1,3}\s*\/\s*)?(?<![\p{L}\p{N}])((?=[\p{L}\p{N}._-]*\p{L})(?=[\p{L}\p{N}._-]*\p{N})[\p{L}\p{N}](?:[\p{L}\p{N}._-]*[\p{L}\p{N}])?)/gu;
/** A number of figures alone names a sheet only where something says so. */
const FIGURES = /(?:\bsee\s+|\bsheet\s+|\bdrawing\s+|\p{N}{1,3}\s*\/\s*)(\p{N}{2,5})(?![\p{L}\p{N}])/giu;
const MOST = 5000;

/** Everything in the texts of a page that may refer to a sheet or an address, whatever sheets there are. */
export function referencesIn(page: Page, fonts: FontSet): TextReference[] {
  const found: TextReference[] = [];
  for (const text of page.texts) {
    const add = (kind: TextReference['kind'], names: string, from: number, length: number): void => {
      if (found.length < MOST) found.push({ kind, names, box: boxOf(text, fonts, from, length) });
    };
    const addresses = [...text.text.matchAll(ADDRESS)];
    for (const match of addresses) add('address', match[0], match.index, match[0].length);
    if (addresses.length > 0) continue;
    for (const match of text.text.matchAll(NUMBERED)) add('sheet', match[1]!, match.index, match[0].length);
    for (const match of text.text.matchAll(FIGURES)) add('sheet', match[1]!, match.index, match[0].length);
  }
  return found;
}

/** Where some characters of a text lie, from a little below the baseline to the height of the em. */
function boxOf(text: PageText, fonts: FontSet, from: number, length: number): TextReference['box'] {
  const advance = (part: string): number => textAdvance(fonts, text.font, part);
  const whole = advance(text.text) || 1;
  const start = (advance(text.text.slice(0, from)) / whole) * text.advance;
  const end = (advance(text.text.slice(0, from + length)) / whole) * text.advance;
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
