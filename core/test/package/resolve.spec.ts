import fc from 'fast-check';
import {
  followOrder,
  recipeOfPage,
  resolvePackage,
  STANDARD_NAMES,
  STANDARD_RECIPE,
  withMembers,
} from '../../src/index';
import type { SheetPackage } from '../../src/index';
import { PROJECT, SHEET } from '../support/sheets';

const sheet = (id: string, number: string, group = 'a', title = '') => ({ ...SHEET, id, number, group, title });
const SHEETS = [
  sheet('s10', 'A-10'),
  sheet('s2', 'A-2'),
  sheet('d1', 'A-3', 'a', 'Draft stair'),
  sheet('e1', 'E-1', 'e'),
];
const PACK: SheetPackage = {
  ...{ id: 'p', name: 'Permit', recipe: '', order: ['e1'], bundling: 'one', names: STANDARD_NAMES },
};

describe('sheets that a package takes in by itself', () => {
  it('are those of its groups, by number, behind those placed by hand; without what is to stay out', () => {
    const members = { groups: ['a'], without: ['draft*'] };
    expect(withMembers({ ...PACK, members }, SHEETS)).toEqual(['e1', 's2', 's10']);
    expect(withMembers({ ...PACK, order: ['s10', 'e1'], members }, SHEETS)).toEqual(['s10', 'e1', 's2']);
    expect(withMembers(PACK, SHEETS)).toBe(PACK.order);
  });
});

describe('pages that stay behind others', () => {
  it('do, with what stays behind them in turn', () => {
    expect(followOrder(['a', 'b', 'c', 'd'], { a: 'c', d: 'a' })).toEqual(['b', 'c', 'a', 'd']);
    expect(followOrder(['a', 'b'], { a: 'gone' })).toEqual(['a', 'b']);
    expect(followOrder(['a', 'b'], { a: 'b', b: 'a' })).toEqual(['a', 'b']);
  });

  it('for any rules lose and double no page, and stand as wished wherever no rules go round', () => {
    const ids = ['a', 'b', 'c', 'd', 'e', 'f'];
    const rules = fc.dictionary(fc.constantFrom(...ids), fc.constantFrom(...ids));
    fc.assert(
      fc.property(fc.shuffledSubarray(ids, { minLength: 6 }), rules, (order, after) => {
        const result = followOrder(order, after);
        expect([...result].sort()).toEqual([...order].sort());
        // The same again changes nothing: the order is settled.
        expect(followOrder(result, after)).toEqual(result);
      }),
    );
  });
});

describe('a package as it will be published', () => {
  const order = ['list', 's2', 'part', 's10', 'e1'];
  const extras: SheetPackage['extras'] = [
    { id: 'list', kind: 'index', number: '00', title: 'Sheets' },
    { id: 'part', kind: 'divider', number: 'D1', title: 'Details' },
  ];

  it('leaves out what is skipped and makes the pages that it adds, as large as what follows', () => {
    const pack = { ...PACK, order, extras, pages: { e1: { skip: true as const } } };
    const resolved = resolvePackage(pack, SHEETS, PROJECT);
    expect(resolved.package.order).toEqual(['list', 's2', 'part', 's10']);
    const [list, part] = resolved.sheets.slice(SHEETS.length);
    expect(list).toMatchObject({ id: 'list', number: '00', views: [] });
    expect(list!.notes!.find(({ kind }) => kind === 'table')!.text).toBe('Sheet,Title,Rev.,Date\r\nA-2,,,\r\nA-10,,,');
    expect(part).toMatchObject({ id: 'part', title: 'Details', paper: { name: 'A1', orientation: 'landscape' } });
  });

  it('has as many pages of the list as it needs, every sheet once', () => {
    const many = Array.from({ length: 900 }, (_, i) => sheet(`m${i}`, `A-${i}`));
    const pack = { ...PACK, order: ['list', ...many.map(({ id }) => id)], extras };
    const resolved = resolvePackage(pack, many, PROJECT);
    const pages = resolved.sheets.slice(many.length);
    expect(pages.length).toBeGreaterThan(1);
    expect(resolved.package.order.slice(0, pages.length)).toEqual(pages.map(({ id }) => id));
    const rows = pages.flatMap(({ notes = [] }) =>
      notes.filter(({ kind }) => kind === 'table').flatMap(({ text }) => text!.split('\r\n').slice(1)),
    );
    expect(rows.map((row) => row.split(',')[0])).toEqual(many.map(({ number }) => number));
  });

  it('stays in its order when sheets are renumbered: numbers have no say in it', () => {
    fc.assert(
      fc.property(fc.array(fc.string(), { minLength: 4, maxLength: 4 }), (numbers) => {
        const renumbered = SHEETS.map((one, i) => ({ ...one, number: numbers[i]! }));
        const pack = { ...PACK, order: ['s2', 'e1', 's10', 'd1'] };
        expect(resolvePackage(pack, renumbered, PROJECT).package.order).toEqual(pack.order);
      }),
    );
  });

  it('prints a page in colours of its own where that is said', () => {
    const pages = { s2: { colour: 'black' as const } };
    expect(recipeOfPage(STANDARD_RECIPE, { pages }, 's2').colour).toBe('black');
    expect(recipeOfPage(STANDARD_RECIPE, { pages }, 's10')).toBe(STANDARD_RECIPE);
    const finer = recipeOfPage({ ...STANDARD_RECIPE, pictureDpi: 150 }, { pages: { s2: { pictureDpi: 600 } } }, 's2');
    expect([finer.pictureDpi, finer.colour]).toEqual([600, STANDARD_RECIPE.colour]);
  });
});
