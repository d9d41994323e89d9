import { layWall, neighbourOf } from '../../../src/places/sheets/wall-layout';
import { sheet } from '../../support/sheet';

const sheets = ['a', 'b', 'c', 'd', 'e'].map((id) => ({ ...sheet('1:50'), id }));
const a3 = { width: 420, height: 297 };
const papers = { a: a3, b: a3, c: a3, d: { width: 297, height: 420 }, e: a3 };
const groups = [
  { id: 'g', name: 'Plans', sheets: sheets.slice(0, 4) },
  { id: 'h', name: 'Details', sheets: sheets.slice(4) },
];

describe('the wall', () => {
  // At half a pixel a millimetre an A3 is 210 wide; two of them and their gap of 16 take 436.
  const rows = layWall(groups, papers, 0.5, 440);

  it('has as many sheets in a row as fit, each group under its name', () => {
    expect(rows.map(({ name, sheets: placed }) => name ?? placed.map((one) => one.sheet.id).join(''))).toEqual([
      ...['Plans', 'ab', 'cd', 'Details', 'e'],
    ]);
    expect(rows[1]!.sheets.map(({ left, width }) => [left, width])).toEqual([
      [0, 210],
      [226, 210],
    ]);
  });

  it('has rows as high as their tallest sheet', () => {
    expect(rows[2]!.height - rows[1]!.height).toBe(Math.round(420 * 0.5) - Math.round(297 * 0.5));
  });

  it('keeps narrow sheets wide enough to be named, and a wide one in a row of its own', () => {
    expect(layWall(groups, papers, 0.1, 2000)[1]!.sheets.every(({ width }) => width === 96)).toBe(true);
    expect(layWall(groups, papers, 2, 300).filter(({ sheets: placed }) => placed.length > 0)).toHaveLength(5);
  });

  it.each([
    ['a', [1, 0], 'b'],
    ['b', [1, 0], 'c'],
    ['b', [0, -1], 'd'],
    ['d', [0, -1], 'e'],
    ['e', [0, 1], 'c'],
    ['a', [-1, 0], undefined],
    ['a', [0, 1], undefined],
    ['e', [0, -1], undefined],
  ] as const)('from %s a step %j leads to %s', (from, step, to) => {
    expect(neighbourOf(rows, from, step)?.id).toBe(to);
  });
});
