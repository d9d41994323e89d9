import ExcelJS from 'exceljs';
import { registerOf, superseded, type Issue } from '@folvex/core';

/** The issue register as a workbook: sheets against issues, the revision in each cell. */
export async function registerWorkbook(project: string, issues: readonly Issue[]): Promise<Uint8Array> {
  const book = new ExcelJS.Workbook();
  // The clock has no say in a file.
  book.created = book.modified = new Date(Date.UTC(2000, 0, 1));
  const page = book.addWorksheet('Issue register', { views: [{ state: 'frozen', xSplit: 2, ySplit: 4 }] });
  const gone = superseded(issues);
  page.addRow([project]).font = { bold: true };
  page.addRow(['', 'Issue', ...issues.map(({ id, number }) => `${number}${gone.has(id) ? ' (superseded)' : ''}`)]);
  page.addRow(['', 'Date', ...issues.map(({ date }) => date)]);
  page.addRow(['Sheet', 'Title', ...issues.map(({ purpose }) => purpose)]).font = { bold: true };
  for (const { number, title, revisions } of registerOf(issues)) {
    page.addRow([number, title, ...revisions.map((revision) => (revision === '' ? 'x' : (revision ?? '')))]);
  }
  page.columns.forEach((column, i) => (column.width = i === 1 ? 40 : 14));
  return new Uint8Array(await book.xlsx.writeBuffer());
}
