import { compareOrders, sortedOrder } from '../../src/index';
import { numbers } from '../support/numbers';

const GROUPS = [{ id: 'plans' }, { id: 'details' }];
const sheet = (id: string, number: string, group: string) => ({ id, number, group });
const SHEETS = [
  sheet('d', 'A-501', 'details'),
  sheet('b', 'A-10', 'plans'),
  sheet('a', 'A-2', 'plans'),
  sheet('n', 'A-1', ''),
];

describe('sorting pages', () => {
  it('goes by groups, in each by number as people count; what has no group comes last', () => {
    expect(sortedOrder(['n', 'd', 'b', 'a'], SHEETS, GROUPS)).toEqual(['a', 'b', 'd', 'n']);
  });

  it('leaves a divider before the sheet that it stood before, and the last pages last', () => {
    expect(sortedOrder(['cover', 'd', 'divider', 'b', 'a', 'end'], SHEETS, GROUPS)).toEqual([
      'a',
      'divider',
      'b',
      'cover',
      'd',
      'end',
    ]);
  });

  it('loses and doubles no page, and sorts nothing that is sorted', () => {
    for (let seed = 1; seed <= 100; seed++) {
      const random = numbers(seed);
      const sheets = Array.from({ length: 12 }, (_, i) =>
        sheet(`s${i}`, `A-${Math.floor(random() * 300)}`, random() < 0.5 ? 'plans' : 'details'),
      );
      const order = [...sheets.map(({ id }) => id), 'x', 'y'].sort(() => random() - 0.5);
      const sorted = sortedOrder(order, sheets, GROUPS);
      expect([...sorted].sort()).toEqual([...order].sort());
      expect(sortedOrder(sorted, sheets, GROUPS)).toEqual(sorted);
    }
  });
});

describe('one package compared with another', () => {
  it('tells pages that only one of them has, and those that stand behind another page', () => {
    expect(compareOrders(['a', 'b', 'c', 'd'], ['a', 'd', 'e', 'b'])).toEqual({
      ...{ onlyHere: ['c'], onlyThere: ['e'] },
      moved: ['b', 'd'],
    });
  });

  it('finds nothing where both are alike', () => {
    expect(compareOrders(['a', 'b'], ['a', 'b'])).toEqual({ onlyHere: [], onlyThere: [], moved: [] });
  });
});
