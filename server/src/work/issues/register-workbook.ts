import { filteredRegister, superseded, type Issue, type ProjectFacts, type RegisterFilter } from '@folvex/core';
import { workbook } from '../workbook';

const [NUMBER_WIDTH, TITLE_WIDTH, ISSUE_WIDTH] = [14, 40, 14];

/** The heading of the register of a project. */
export function registerHeading({ number, name }: ProjectFacts): string {
  return [number, name].filter(Boolean).join(' ');
}

/** The issue register, or what a filter leaves of it, as a workbook: sheets against issues, the revision in each cell. */
export function registerWorkbook(
  project: string,
  all: readonly Issue[],
  filter: RegisterFilter = {},
): Promise<Uint8Array> {
  const { issues, rows } = filteredRegister(all, filter);
  const gone = superseded(all);
  const headings = [
    [project],
    ['', 'Issue', ...issues.map(({ id, number }) => `${number}${gone.has(id) ? ' (superseded)' : ''}`)],
    ['', 'Date', ...issues.map(({ date }) => date)],
    ['Sheet', 'Title', ...issues.map(({ purpose }) => purpose)],
  ];
  const sheets = rows.map(({ number, title, revisions }) => [
    ...[number, title],
    ...revisions.map((revision) => (revision === '' ? 'x' : (revision ?? ''))),
  ]);
  return workbook([
    {
      name: 'Issue register',
      rows: [...headings, ...sheets],
      boldRows: [0, headings.length - 1],
      widths: [NUMBER_WIDTH, TITLE_WIDTH, ...issues.map(() => ISSUE_WIDTH)],
      sticky: { columns: 2, rows: headings.length },
    },
  ]);
}
