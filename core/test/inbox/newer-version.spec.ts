import { olderVersion } from '../../src/inbox/newer-version';

const named = (...names: string[]) => names.map((name) => ({ name }));

describe('which drawing a file is newer than', () => {
  it('is the one of its name, whatever its letters', () => {
    expect(olderVersion(named('B.dxf', 'a-101.DXF'), 'A-101.dxf')?.name).toBe('a-101.DXF');
    expect(olderVersion(named('A-101_P01.dxf'), 'A-101_P02.dxf')).toBeUndefined();
  });

  it.each([
    ['A-101_P02.dxf', 'A-101_P01.dxf'],
    ['A-101_p10 for comment.dxf', 'A-101_P01.dxf'],
    ['A-101.dxf', 'A-101_P01.dxf'],
    ['A-101_P02.dxf', 'A-101.dxf'],
    ['Level 1 _P2.dxf', 'Level 1.dxf'],
    ['A_PLAN_P2.dxf', 'A_PLAN_P1.dxf'],
  ])('%s is newer than %s where _P marks versions', (name, older) => {
    expect(olderVersion(named('other.dxf', older), name, '_P')?.name).toBe(older);
  });

  it.each([
    ['A-101_P02.pdf', 'A-101_P01.dxf'],
    ['_P02.dxf', '_P01.dxf'],
    ['A-102_P02.dxf', 'A-101_P01.dxf'],
    ['A-101-P02.dxf', 'A-101_P01.dxf'],
  ])('%s is not newer than %s', (name, other) => {
    expect(olderVersion(named(other), name, '_P')).toBeUndefined();
  });

  it('is the very name before one that only its mark tells apart', () => {
    expect(olderVersion(named('A_P01.dxf', 'A_P02.dxf'), 'A_P02.dxf', '_P')?.name).toBe('A_P02.dxf');
  });
});
