import type { Sheet } from '@folvex/core';
import type { Schema } from 'yup';
import type { Choosable } from '../../forms/choice-field';

/** A sheet as a row of the list. */
export interface SheetRow {
  sheet: Sheet;
  paper: string;
  scale: string;
  template: string;
  group: string;
  deviations: string;
}

/** A column of the list: what its cells show, and how they are edited. */
export interface ListColumn {
  key: string;
  heading: string;
  kind: 'text' | 'choice' | 'date';
  /** What a cell shows, and what it is sorted by. */
  shown(row: SheetRow): string;
  /** What its editor holds; absent: what it shows. */
  value?(row: SheetRow): string;
  options?: readonly Choosable<string>[];
  schema?: Schema;
  /** False for cells that follow from something else. */
  editable?(row: SheetRow): boolean;
  edit(sheet: Sheet, value: string): void;
}

/** A cell by its row and column. */
export interface CellPlace {
  sheet: string;
  column: string;
}

/** The cell next to one, in rows and columns as they are shown; the same one at the edge. */
export function nextCell(
  { sheet, column }: CellPlace,
  rows: readonly string[],
  columns: readonly string[],
  [dx, dy]: readonly [number, number],
): CellPlace {
  const at = (all: readonly string[], one: string, by: number): string =>
    all[Math.min(all.length - 1, Math.max(0, all.indexOf(one) + by))] ?? one;
  return { sheet: at(rows, sheet, dy), column: at(columns, column, dx) };
}
