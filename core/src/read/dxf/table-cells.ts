import { POLYLINE_STRIDE, type PlainEntity, type Style, type TextEntity } from '../../drawing/model';
import { allNumbers } from './curves';
import type { NameTables } from './names';
import type { Record } from './record';
import { spannedText } from './texts';

/** More cells than this mean a damaged file. */
const MAX_CELLS = 20_000;
/** Kind of a cell (code 171) that shows a text; others show blocks. */
const TEXT = 1;
/** Shares of the row's height: the gap between a text and its lines, and the text where a cell states no height. */
const [MARGIN, HEIGHT] = [0.15, 0.4];

interface Cell {
  kind: number;
  text: string;
  /** True where another cell reaches over it. */
  covered: boolean;
  across: number;
  down: number;
  height: number;
  /** 1 to 9, from the upper left by rows; 0: none stated. */
  alignment: number;
}

/** An ACAD_TABLE by its cells, from its upper left corner on: their outlines and texts. Undefined where it has none. */
export function drawTable(record: Record, style: Style, handle: string, names: NameTables): PlainEntity[] | undefined {
  const [rows, columns] = [record.integer(91), record.integer(92)];
  const [heights, widths] = [allNumbers(record, 141), allNumbers(record, 142)];
  if (!(rows > 0 && columns > 0 && rows * columns <= MAX_CELLS)) return undefined;
  if (heights.length < rows || widths.length < columns) return undefined;
  const [tops, lefts] = [sums(heights), sums(widths)];
  return cellsOf(record).flatMap((cell, i): PlainEntity[] => {
    const [row, column] = [Math.floor(i / columns), i % columns];
    if (cell.covered || row >= rows) return [];
    const [right, bottom] = [Math.min(columns, column + cell.across), Math.min(rows, row + cell.down)];
    const [x0, x1, y0, y1] = [lefts[column]!, lefts[right]!, -tops[row]!, -tops[bottom]!];
    const corners = [x0, y0, x1, y0, x1, y1, x0, y1];
    const vertices = new Float64Array(4 * POLYLINE_STRIDE);
    for (let k = 0; k < 4; k++) vertices.set(corners.slice(2 * k, 2 * k + 2), k * POLYLINE_STRIDE);
    const outline: PlainEntity = { kind: 'polyline', style, handle, vertices, closed: true };
    if (cell.kind !== TEXT || cell.text === '') return [outline];
    const margin = MARGIN * heights[row]!;
    const text = spannedText(cell.text, cell.height || HEIGHT * heights[row]!, style, handle);
    const textStyle = names.textStyle('STANDARD');
    return [
      outline,
      { ...text, ...placed(cell.alignment, [x0 + margin, x1 - margin], [y0 - margin, y1 + margin]), textStyle },
    ];
  });
}

/** The cells row by row; each begins with its kind. */
function cellsOf(record: Record): Cell[] {
  const cells: Cell[] = [];
  for (let i = record.find(171); i >= 0 && i < record.count; i++) {
    const [code, cell] = [record.codes[i]!, cells.at(-1)];
    if (code === 171 && cells.length < MAX_CELLS) {
      cells.push({ kind: record.numberAt(i), text: '', covered: false, across: 1, down: 1, height: 0, alignment: 0 });
    } else if (!cell) continue;
    else if (code === 173) cell.covered = record.numberAt(i) !== 0;
    else if (code === 175) cell.across = Math.max(1, record.numberAt(i));
    else if (code === 176) cell.down = Math.max(1, record.numberAt(i));
    else if (code === 140) cell.height = record.numberAt(i);
    else if (code === 170) cell.alignment = record.numberAt(i);
    else if (code === 1 || code === 3) cell.text += record.textAt(i);
  }
  return cells;
}

function placed(
  alignment: number,
  [left, right]: [number, number],
  [top, bottom]: [number, number],
): Pick<TextEntity, 'x' | 'y' | 'horizontal' | 'vertical' | 'wrapWidth'> {
  const at = Math.min(9, Math.max(1, alignment || 1)) - 1;
  const [column, row] = [at % 3, Math.floor(at / 3)];
  return {
    x: [left, (left + right) / 2, right][column]!,
    y: [top, (top + bottom) / 2, bottom][row]!,
    horizontal: (['left', 'centre', 'right'] as const)[column]!,
    vertical: (['top', 'middle', 'bottom'] as const)[row]!,
    wrapWidth: right - left,
  };
}

/** 0, then the sum of the first value, of the first two … */
function sums(values: readonly number[]): number[] {
  let sum = 0;
  return [0, ...values.map((value) => (sum += value))];
}
