import { titleBlockInWords } from '../../../src/places/gather/title-block-words';

it.each([
  [
    { number: 'A-101', title: 'Ground floor', revision: 'P02', date: '2026-11-12' },
    'A-101 Ground floor, revision P02 of 2026-11-12',
  ],
  [{ title: 'Roof', revision: 'C' }, 'Roof, revision C (no readable date, so today’s)'],
  [{ number: 'A-102' }, 'A-102'],
  [{}, ''],
])('%j is said as "%s"', (fields, words) => {
  expect(titleBlockInWords(fields)).toBe(words);
});
