import { firstInWords } from '@folvex/core';
import { problemWith } from '../../forms/yup-validator';
import { countOf } from '../../ui/words';
import type { ListColumn, SheetRow } from './list-cells';

/** One cell that gets a pasted value. */
export interface PastedCell {
  row: SheetRow;
  column: ListColumn;
  value: string;
}

/** What a paste comes to, and how to say so; empty words: nothing needs to be said. */
export interface Pasted {
  edits: PastedCell[];
  words: string;
  failed: boolean;
}

/**
 * Puts the lines and tab-separated cells of a text into the cells from one on. Choices are taken by their words; what a
 * cell cannot hold is left out and named.
 */
export function pasteCells(
  text: string,
  from: { row: number; column: number },
  rows: readonly SheetRow[],
  columns: readonly ListColumn[],
): Pasted {
  const edits: PastedCell[] = [];
  const refused: string[] = [];
  let beyond = 0;
  const lines = text.replace(/\r?\n$/, '').split(/\r?\n/);
  for (const [down, line] of lines.entries()) {
    for (const [across, cell] of line.split('\t').entries()) {
      const [row, column] = [rows[from.row + down], columns[from.column + across]];
      if (!row || !column) {
        beyond++;
        continue;
      }
      const value = valueIn(column, cell.trim());
      const fits = value !== undefined && (column.editable?.(row) ?? true);
      if (!fits) refused.push(`${column.heading.toLowerCase()} of ${row.sheet.number}`);
      else if (value !== (column.value ?? column.shown)(row)) edits.push({ row, column, value });
    }
  }
  const left = refused.length + beyond;
  const reasons = [
    refused.length > 0 ? `could not paste ${firstInWords(refused)}` : '',
    beyond > 0 ? `${countOf(beyond, 'cell')} outside the list` : '',
  ].filter(Boolean);
  const pasted = `${countOf(edits.length, 'cell')} pasted`;
  return { edits, failed: left > 0, words: left > 0 ? `${pasted}; ${reasons.join('; ')}.` : `${pasted}.` };
}

/** What a column makes of a pasted text; undefined where it cannot hold it. */
function valueIn({ kind, options = [], schema }: ListColumn, text: string): string | undefined {
  if (kind === 'choice') {
    const wanted = text.toLowerCase();
    return options.find(({ value, words }) => words.toLowerCase() === wanted || value.toLowerCase() === wanted)?.value;
  }
  if (kind === 'date') return text === '' || /^\d{4}-\d{2}-\d{2}$/.test(text) ? text : undefined;
  return schema && problemWith(schema, text) !== undefined ? undefined : text;
}
