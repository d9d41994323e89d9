import { filteredSheets, paperWords, type Sheet, type SheetFilter } from '../../src/index';
import { PROJECT, SHEET, VIEW } from '../support/sheets';

const sheet = (id: string, more: Partial<Sheet>): Sheet => ({ ...SHEET, id, number: id, ...more });
const revised = (index: string): Sheet['revision'] => ({ index, date: '2026-11-20', text: '' });

const SHEETS = [
  sheet('A-101', { group: 'plans', revision: revised('P02'), views: [{ ...VIEW, held: 1 }] }),
  sheet('A-102', { group: 'plans', title: 'Upper floor plan', views: [VIEW] }),
  sheet('A-501', {
    group: 'details',
    title: 'Details',
    paper: { name: 'A3', orientation: 'landscape' },
    revision: revised('P01'),
  }),
];

const found = (filter: SheetFilter): string[] =>
  filteredSheets(SHEETS, filter, { project: PROJECT, latest: () => 2 }).map(({ id }) => id);

it.each<[string, SheetFilter, string[]]>([
  ['nothing asked', {}, ['A-101', 'A-102', 'A-501']],
  ['words anywhere, in any case', { text: 'PLAN 10' }, ['A-101', 'A-102']],
  ['a group', { group: 'details' }, ['A-501']],
  ['no group', { group: '' }, []],
  ['a drawing that they show', { drawing: VIEW.drawing }, ['A-101', 'A-102']],
  ['a paper', { paper: paperWords(SHEETS[2]!, { project: PROJECT }) }, ['A-501']],
  ['a revision', { revision: 'P02' }, ['A-101']],
  ['no revision', { revision: '' }, ['A-102']],
  ['held behind its drawing', { outOfDate: true }, ['A-101']],
  ['being in a package', { within: ['A-501', 'A-102'] }, ['A-102', 'A-501']],
  ['several at once', { group: 'plans', revision: '' }, ['A-102']],
])('finds sheets by %s', (_, filter, wanted) => {
  expect(found(filter)).toEqual(wanted);
});

it('finds what an issue did not have, or had at another revision', () => {
  const issue = {
    sheets: [
      { id: 'A-101', revision: 'P01' },
      { id: 'A-501', revision: 'P01' },
    ],
  };
  expect(found({ changedSince: issue })).toEqual(['A-101', 'A-102']);
});
