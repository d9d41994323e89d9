import {
  filteredRegister,
  registerOf,
  superseded,
  transmittalPages,
  type Issue,
  type RegisterFilter,
} from '../../src/index';

const issue = (
  number: number,
  sheets: [id: string, number: string, revision: string][],
  more: Partial<Issue> = {},
) => ({
  ...{ id: `i${number}`, number, date: '2026-11-26', purpose: 'Permit', recipients: ['Plan checker'], remarks: '' },
  ...{ packageName: 'Permit set', runId: 'r', files: [{ path: 'a.pdf', pages: 2, bytes: 10, sha256: '' }] },
  sheets: sheets.map(([id, sheet, revision]) => ({ id, number: sheet, title: `Title ${sheet}`, revision })),
  ...more,
});

describe('the register', () => {
  it('has a row a sheet by number, with its revision in each issue that held it', () => {
    const rows = registerOf([
      issue(1, [
        ['a', 'A-10', 'P01'],
        ['b', 'A-2', ''],
      ]),
      issue(2, [['a', 'A-10', 'P02']]),
      // Renumbered meanwhile: it is the same sheet.
      issue(3, [['a', 'A-1', 'P03']]),
    ]);
    expect(rows.map(({ number, revisions }) => [number, revisions])).toEqual([
      ['A-1', ['P01', 'P02', 'P03']],
      ['A-2', ['', undefined, undefined]],
    ]);
  });

  it('shows of itself only what is asked for', () => {
    const issues = [
      issue(1, [
        ['a', 'A-10', 'P01'],
        ['b', 'A-2', 'P01'],
      ]),
      issue(2, [['a', 'A-10', 'P02']], { purpose: 'Tender', recipients: ['Contractor', 'Client'] }),
      issue(
        3,
        [
          ['a', 'A-10', 'P02'],
          ['b', 'A-2', 'P01'],
        ],
        { supersedes: 'i1' },
      ),
    ];
    const shown = (filter: RegisterFilter) => {
      const { issues: columns, rows } = filteredRegister(issues, filter);
      return [columns.map(({ number }) => number), rows.map(({ number }) => number)];
    };
    expect(shown({})).toEqual([
      [1, 2, 3],
      ['A-2', 'A-10'],
    ]);
    expect(shown({ purpose: 'Tender' })).toEqual([[2], ['A-10']]);
    expect(shown({ recipient: 'Client' })).toEqual([[2], ['A-10']]);
    expect(shown({ current: true })).toEqual([
      [2, 3],
      ['A-2', 'A-10'],
    ]);
    expect(shown({ purpose: 'Permit', changed: true })).toEqual([[1, 3], ['A-10']]);
    expect(shown({ text: 'title a-2' })).toEqual([[1, 2, 3], ['A-2']]);
  });

  it('knows which issues another one took the place of', () => {
    expect([...superseded([issue(1, []), issue(2, [], { supersedes: 'i1' })])]).toEqual(['i1']);
  });
});

describe('a transmittal', () => {
  it('lists every sheet once, on as many pages as it needs', () => {
    const sheets = Array.from({ length: 130 }, (_, i): [string, string, string] => [`s${i}`, `A-${i}`, 'P01']);
    const pages = transmittalPages(issue(7, sheets), { number: '2617', name: 'Tern Quay', client: 'Trust' });
    expect(pages.length).toBeGreaterThan(2);
    const rows = pages.flatMap(({ notes = [] }) =>
      notes
        .find(({ kind }) => kind === 'table')!
        .text!.split('\r\n')
        .slice(1),
    );
    expect(rows).toHaveLength(130);
    // No row lies below the foot of its page.
    for (const { notes = [] } of pages) {
      const table = notes.find(({ kind }) => kind === 'table')!;
      expect(table.at[1] - table.text!.split('\r\n').length * 2 * table.size!).toBeGreaterThan(20);
    }
    expect(JSON.stringify(pages[0]!.notes)).toContain('Plan checker');
  });
});
