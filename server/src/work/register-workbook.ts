import ExcelJS from 'exceljs';
import { filteredRegister, superseded, type Issue, type RegisterFilter } from '@folvex/core';

/** The issue register, or what a filter leaves of it, as a workbook: sheets against issues, the revision in each cell. */
export async function registerWorkbook(
  project: string,
  all: readonly Issue[],
  filter: RegisterFilter = {},
): Promise<Uint8Array> {
  const { issues, rows } = filteredRegister(all, filter);
  const book = new ExcelJS.Workbook();
  // The clock has no say in a file.
  book.created = book.modified = new Date(Date.UTC(2000, 0, 1));
  const page = book.addWorksheet('Issue register', { views: [{ state: 'frozen', xSplit: 2, ySplit: 4 }] });
  const gone = superseded(all);
  page.addRow([project]).font = { bold: true };
  page.addRow(['', 'Issue', ...issues.map(({ id, number }) => `${number}${gone.has(id) ? ' (superseded)' : ''}`)]);
  page.addRow(['', 'Date', ...issues.map(({ date }) => date)]);
  page.addRow(['Sheet', 'Title', ...issues.map(({ purpose }) => purpose)]).font = { bold: true };
  for (const { number, title, revisions } of rows) {
    page.addRow([number, title, ...revisions.map((revision) => (revision === '' ? 'x' : (revision ?? '')))]);
  }
  page.columns.forEach((column, i) => (column.width = i === 1 ? 40 : 14));
  return new Uint8Array(await book.xlsx.writeBuffer());
}
