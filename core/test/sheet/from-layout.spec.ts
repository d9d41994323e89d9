import { sheetFromLayout } from '../../src/sheet/from-layout';

const LAYOUT = { drawing: 'd1', name: 'A-101 Ground floor', paper: { width: 841, height: 594 } };

describe('A sheet from a layout', () => {
  it('has its number and title from the name of the layout, and its paper', () => {
    const sheet = sheetFromLayout('s1', LAYOUT, '2026-11-12');
    expect(sheet).toMatchObject({ id: 's1', number: 'A-101', title: 'Ground floor', paper: { size: [841, 594] } });
    expect(sheet.from).toEqual({ drawing: 'd1', layout: 'A-101 Ground floor' });
    expect(sheet.revision).toBeUndefined();
  });

  it('goes by its title block first; a revision without a date has that of today', () => {
    const fields = { number: 'A-110', revision: 'B' };
    const sheet = sheetFromLayout('s1', { ...LAYOUT, fields }, '2026-11-12');
    expect(sheet).toMatchObject({ number: 'A-110', title: 'Ground floor' });
    expect(sheet.revision).toEqual({ index: 'B', date: '2026-11-12', text: '' });
  });
});
