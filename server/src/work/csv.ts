import Papa from 'papaparse';

/** Rows as CSV. What a spreadsheet would take for a formula has an apostrophe before it. */
export function csvOf(rows: readonly (readonly (string | number)[])[]): string {
  return `${Papa.unparse(
    rows.map((row) => [...row]),
    { escapeFormulae: true },
  )}\r\n`;
}
