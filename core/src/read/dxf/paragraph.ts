import type { Paragraph, TextColumns } from '../../drawing/model';
import { EMBEDDED } from './groups';
import type { Record } from './record';

const PLAIN: Paragraph = { first: 0, left: 0, right: 0, tabs: [] };
const ALIGNMENTS: Readonly<{ [letter: string]: Paragraph['align'] }> = {
  l: 'left',
  c: 'centre',
  r: 'right',
  j: 'left',
  d: 'left',
};
const MAX_COLUMNS = 100;
/** Codes of the embedded object: kind of columns, one height for all, whether that holds, a height each. */
const [KIND, DEFINED, AUTO, REVERSED, HEIGHT] = [71, 41, 73, 74, 46];
const STATIC = 1;
const NUMBERS = new Set([KIND, DEFINED, AUTO, REVERSED, 42, 44, 45, 72]);

/**
 * The settings after `\p`, such as `i-3,l3,t3,c8,r12` or `qc`: indent of the first line, from the left, from the right; alignment
 * (`j`, justified, is shown flush left); tab stops, the rest of the list. An asterisk resets. What it leaves out stays.
 */
export function paragraphOf(argument: string, now: Paragraph = PLAIN): Paragraph {
  const paragraph = { ...now };
  const parts = argument.replace(/^x/, '').split(',');
  const number = (text: string): number => (Number.isFinite(parseFloat(text)) ? parseFloat(text) : 0);
  for (let i = 0; i < parts.length; i++) {
    const part = parts[i]!.trim();
    const rest = part.slice(1);
    if (part.startsWith('i')) paragraph.first = number(rest);
    else if (part.startsWith('l')) paragraph.left = number(rest);
    else if (part.startsWith('r')) paragraph.right = number(rest);
    else if (part.startsWith('q')) {
      const align = ALIGNMENTS[rest[0] ?? ''];
      if (align) paragraph.align = align;
      else delete paragraph.align;
    } else if (part.startsWith('t')) {
      paragraph.tabs = [rest, ...parts.slice(i + 1)].flatMap(tabStop);
      break;
    }
  }
  return paragraph;
}

function tabStop(text: string): Paragraph['tabs'] {
  const align = text.startsWith('c') ? 'centre' : text.startsWith('r') ? 'right' : 'left';
  const at = parseFloat(align === 'left' ? text : text.slice(1));
  return at > 0 ? [{ at, align }] : [];
}

/** Columns of an MTEXT, from the object embedded in it (2018 on); earlier files write each column as a text of its own. */
export function columnsOf(record: Record): TextColumns | undefined {
  const values = new Map<number, number>();
  const heights: number[] = [];
  for (let i = 0; i < record.count; i++) {
    const code = record.codes[i]! - EMBEDDED;
    if (code === HEIGHT) heights.push(record.numberAt(i));
    else if (NUMBERS.has(code)) values.set(code, record.numberAt(i));
  }
  const value = (code: number): number => values.get(code) ?? 0;
  const [width, gutter, total] = [value(44), value(45), value(42)];
  if (!(value(KIND) > 0 && width > 0)) return undefined;
  const count = Math.min(MAX_COLUMNS, value(72) || heights.length || Math.round((total + gutter) / (width + gutter)));
  if (!(count > 0)) return undefined;
  const even = value(KIND) === STATIC || value(AUTO) !== 0 || heights.length === 0;
  return {
    count,
    width,
    gutter,
    heights: even ? new Array<number>(count - 1).fill(value(DEFINED)) : heights,
    rightToLeft: value(REVERSED) !== 0,
  };
}
