import writeXlsxFile from 'write-excel-file/node';

export type CellValue = string | number | null;

/** One page of a workbook. */
export interface WorkbookPage {
  name: string;
  rows: readonly (readonly CellValue[])[];
  /** Indexes of the rows that are set in bold. */
  boldRows: readonly number[];
  /** Widths of columns in characters, from the left. */
  widths: readonly number[];
  /** How many columns and rows stay in sight. */
  sticky?: { columns: number; rows: number };
}

/** Pages as an XLSX file. Texts are written as texts, whatever they begin with: no cell is ever a formula. */
export async function workbook(pages: readonly WorkbookPage[]): Promise<Uint8Array> {
  const sheets = pages.map(({ name, rows, boldRows, widths, sticky }) => ({
    sheet: name,
    data: rows.map((row, at) => row.map((value) => cellOf(value, boldRows.includes(at)))),
    columns: widths.map((width) => ({ width })),
    ...(sticky && { stickyColumnsCount: sticky.columns, stickyRowsCount: sticky.rows }),
  }));
  return new Uint8Array(await writeXlsxFile(sheets).toBuffer());
}

function cellOf(value: CellValue, bold: boolean) {
  if (value === null || value === '') return null;
  const weight = bold ? { fontWeight: 'bold' as const } : {};
  return typeof value === 'number' ? { value, type: Number, ...weight } : { value, type: String, ...weight };
}
