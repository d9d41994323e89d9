import { nextCell } from '../../../src/places/sheets/list-cells';

describe('cells of the list of sheets', () => {
  const [rows, columns] = [
    ['a', 'b'],
    ['number', 'title', 'scale'],
  ];

  it('are next to each other as they are shown, and end at the edges', () => {
    const from = { sheet: 'a', column: 'title' };
    expect(nextCell(from, rows, columns, [0, 1])).toEqual({ sheet: 'b', column: 'title' });
    expect(nextCell(from, rows, columns, [0, -1])).toEqual(from);
    expect(nextCell(from, rows, columns, [1, 0])).toEqual({ sheet: 'a', column: 'scale' });
    expect(nextCell({ sheet: 'b', column: 'scale' }, rows, columns, [1, 1])).toEqual({ sheet: 'b', column: 'scale' });
  });
});
