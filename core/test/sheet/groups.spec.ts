import { deviationsOf, settingsOf, type Sheet } from '../../src/index';
import { SHEET } from '../support/sheets';

describe('sheets of a group', () => {
  const group = { id: 'g', name: 'Plans', sheets: { paper: { name: 'A2', orientation: 'landscape' as const } } };

  it('deviate in what the group says otherwise, and only in that', () => {
    expect(deviationsOf(SHEET, group)).toEqual(['paper']);
    expect(deviationsOf({ ...SHEET, paper: { orientation: 'landscape', name: 'A2' } }, group)).toEqual([]);
    expect(deviationsOf(SHEET, { id: 'g', name: 'Plans' })).toEqual([]);
    expect(deviationsOf(SHEET, undefined)).toEqual([]);
    expect(deviationsOf({ ...SHEET, from: { drawing: 'd', layout: 'L' } }, group)).toEqual([]);
  });

  it('do not deviate from what was made of themselves, in whatever order marks are said', () => {
    const sheet: Sheet = { ...SHEET, marks: ['grid', 'centring'], titleBlock: { fields: { owner: 'x' } } };
    const sheets = settingsOf(sheet);
    expect(deviationsOf(sheet, { ...group, sheets })).toEqual([]);
    expect(deviationsOf({ ...sheet, marks: ['centring', 'grid'] }, { ...group, sheets })).toEqual([]);
    expect(deviationsOf({ ...sheet, marks: undefined, titleBlock: undefined }, { ...group, sheets })).toEqual([
      'marks',
      'template',
    ]);
  });
});
