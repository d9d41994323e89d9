import * as yup from 'yup';
import type { ListColumn, SheetRow } from '../../../src/places/sheets/list-cells';
import { pasteCells } from '../../../src/places/sheets/paste-cells';
import { sheet } from '../../support/sheet';

const rows = ['A-1', 'A-2', 'A-3'].map((number): SheetRow => ({
  ...{ sheet: { ...sheet('1:50'), id: number, number, title: 'Old' }, paper: '', scale: '' },
  ...{ template: '', group: 'Plans', deviations: '' },
}));
const column = (key: string, more: Partial<ListColumn>): ListColumn => ({
  ...{ key, heading: key, kind: 'text', shown: ({ sheet: { title } }) => title, edit: () => undefined },
  ...more,
});
const columns = [
  column('Title', {}),
  column('Group', { kind: 'choice', shown: ({ group }) => group, options: [{ value: 'd', words: 'Details' }] }),
  column('Scale', { schema: yup.string().matches(/:/, 'No.') }),
  column('Date', { kind: 'date', editable: ({ sheet: { number } }) => number !== 'A-2' }),
];
const made = (text: string, row = 0, at = 0) => {
  const { edits, ...said } = pasteCells(text, { row, column: at }, rows, columns);
  return { ...said, edits: edits.map((one) => `${one.row.sheet.number} ${one.column.key} ${one.value}`) };
};

describe('pasted cells', () => {
  it('go down and to the right from the cell at hand; those that are so already stay', () => {
    expect(made('North\tDetails\r\nOld\tdetails\r\n')).toEqual({
      edits: ['A-1 Title North', 'A-1 Group d', 'A-2 Group d'],
      words: '3 cells pasted.',
      failed: false,
    });
  });

  it('that a cell cannot hold are left out and named', () => {
    const { edits, words, failed } = made('Roofs\t50\t2026-02-30x\n\t1:20\t2026-11-29', 0, 1);
    expect(edits).toEqual(['A-2 Scale 1:20']);
    expect(failed).toBe(true);
    expect(words).toBe('1 cell pasted; could not paste group of A-1, scale of A-1, date of A-1 and others.');
  });

  it('outside the list are counted', () => {
    expect(made('a\nb', 2).words).toBe('1 cell pasted; 1 cell outside the list.');
  });
});
