import { remoteEnd } from '../../../src/places/light-table/page-link';

describe('a link to another file', () => {
  it('leads to a page of it, as pdf.js tells them', () => {
    expect(remoteEnd('A-201%20Elevations.pdf#[2,{"name":"Fit"}]')).toEqual({
      ...{ kind: 'file', path: 'A-201 Elevations.pdf', page: 3 },
    });
    expect(remoteEnd('../plans/A-101.pdf#%5B0%2C%7B%7D%5D')).toEqual({
      kind: 'file',
      path: '../plans/A-101.pdf',
      page: 1,
    });
    expect(remoteEnd('100%.pdf')).toEqual({ kind: 'file', path: '100%.pdf', page: 1 });
  });

  it('leads nowhere where it is an address or names no file', () => {
    expect(remoteEnd('javascript:alert(1)')).toBeUndefined();
    expect(remoteEnd('#[0]')).toBeUndefined();
  });
});
