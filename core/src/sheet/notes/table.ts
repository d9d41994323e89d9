import Papa from 'papaparse';
import type { Box } from '../../geometry/box';
import { boxPath, linePath } from '../../geometry/outline';
import { textAdvance } from '../../text/layout';
import { emOf } from '../lettering';
import { writeAt, type NotePen } from './pen';
import { letteringOf, NOTE_WEIGHT_MM, type Note } from './model';

const INK = 0x000000;
const RULE_MM = 0.18;
/** Space on each side of a value, over the height of capitals; height of a row over it. */
const [PADDING, ROW] = [0.8, 2];
/** What counts as a number is set to the right. */
const NUMBER = /^[+-]?[\d.,\s]*\d\s*%?$/;

/** The rows of a table, whatever separates their values; short rows are filled up with blanks. */
export function tableRows(csv: string): string[][] {
  const { data } = Papa.parse<string[]>(csv.trim(), { skipEmptyLines: 'greedy' });
  const columns = Math.max(0, ...data.map((row) => row.length));
  return data.map((row) => Array.from({ length: columns }, (_, i) => (row[i] ?? '').trim()));
}

/** A table hanging from its upper left corner, its first row set off as the heading. */
export function drawTable(pen: NotePen, note: Note): Box {
  const { builder, fonts, layer } = pen;
  const { at, width = 0, weight = NOTE_WEIGHT_MM } = note;
  const { size, font: chosen } = letteringOf(note, pen.styles);
  const font = pen.fonts.chosen(chosen);
  const rows = tableRows(note.text ?? '');
  const em = emOf(fonts, font, size);
  const advance = (text: string): number => textAdvance(fonts, font, text) * em;
  const natural = (rows[0] ?? []).map(
    (_, i) => Math.max(size, ...rows.map((row) => advance(row[i]!))) + 2 * PADDING * size,
  );
  const total = natural.reduce((sum, one) => sum + one, 0);
  const stretch = width > 0 && total > 0 ? width / total : 1;
  const columns = natural.map((one) => one * stretch);
  const height = ROW * size;
  const box = { xmin: at[0], ymin: at[1] - rows.length * height, xmax: at[0] + total * stretch, ymax: at[1] };
  if (rows.length === 0) return { ...box, ymin: at[1] - height, xmax: at[0] + 10 };
  const rule = builder.pen(RULE_MM, INK, [], false);
  rows.forEach((row, i) => {
    const top = at[1] - i * height;
    if (i > 1) builder.stroke(linePath([box.xmin, top], [box.xmax, top]), layer, rule);
    let left = at[0];
    row.forEach((value, k) => {
      const room = columns[k]! - 2 * PADDING * size * Math.min(1, stretch);
      const widthFactor = Math.min(1, room / Math.max(1e-9, advance(value)));
      const right = i > 0 && NUMBER.test(value);
      const x = right ? left + (columns[k]! + room) / 2 : left + (columns[k]! - room) / 2;
      const look = { font, height: size, widthFactor, horizontal: right ? 'right' : 'left' } as const;
      if (value) writeAt(pen, value, look, [x, top - height / 2 - size / 2]);
      left += columns[k]!;
      if (i === 0 && k + 1 < row.length) builder.stroke(linePath([left, box.ymin], [left, box.ymax]), layer, rule);
    });
  });
  const ink = builder.pen(weight, INK, [], false);
  builder.stroke(linePath([box.xmin, at[1] - height], [box.xmax, at[1] - height]), layer, ink);
  builder.stroke(boxPath(box), layer, ink);
  return box;
}
