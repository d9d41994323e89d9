import {
  fittingScale,
  judgeUnit,
  formatScale,
  parseScale,
  scaleProblem,
  scaleOfSheet,
  unitFromDxf,
  MM_PER_UNIT,
} from '../../src/index';

describe('drawing scales', () => {
  // ISO 5455:1979, recommended scales (from memory).
  it.each([
    ['1:2', 1 / 2],
    ['1:5', 1 / 5],
    ['1:10', 1 / 10],
    ['1:20', 1 / 20],
    ['1:50', 1 / 50],
    ['1:100', 1 / 100],
    ['1:10 000', 1 / 10_000],
    ['2:1', 2],
    ['50:1', 50],
  ])('reads %s', (text, scale) => {
    expect(parseScale(text)).toBeCloseTo(scale, 12);
  });

  // Architects' and engineers' scale rules in the US (common practice).
  it.each([
    [`3" = 1'-0"`, 4],
    [`1 1/2" = 1'-0"`, 8],
    [`1" = 1'`, 12],
    [`3/4" = 1'-0"`, 16],
    [`1/4" = 1'-0"`, 48],
    [`1/8"=1'-0"`, 96],
    [`3/32" = 1'-0"`, 128],
    [`1/16" = 1'-0"`, 192],
    [`1" = 20'`, 240],
    [`1" = 100'`, 1200],
    [`1/8″ = 1′-0″`, 96],
  ])('reads %s as 1:%d', (text, denominator) => {
    expect(1 / parseScale(text)!).toBeCloseTo(denominator, 9);
  });

  it.each(['', '1', '1:0', '0:5', 'a:b', '1:-5', '= 1', `1" = `, '1:50:2', 'fit'])('refuses %j', (text) => {
    expect(parseScale(text)).toBeUndefined();
  });

  it('writes what it reads', () => {
    for (const text of ['1:50', '1:1250', '5:1', '1:1', '1:33.3333']) expect(formatScale(parseScale(text)!)).toBe(text);
    expect(formatScale(1 / 96, 'imperial')).toBe(`1/8" = 1'-0"`);
    expect(formatScale(1 / 8, 'imperial')).toBe(`1 1/2" = 1'-0"`);
    expect(formatScale(1 / 240, 'imperial')).toBe(`1" = 20'`);
  });

  it('fits the largest standard scale, and none where none fits', () => {
    // 50 × 30 m on 800 × 500 mm: 1:50 would need 1000 mm, 1:100 needs 500.
    expect(fittingScale({ width: 50_000, height: 30_000 }, { width: 800, height: 500 })).toBeCloseTo(1 / 100);
    // Exactly filling it still fits.
    expect(fittingScale({ width: 40_000, height: 25_000 }, { width: 800, height: 500 })).toBeCloseTo(1 / 50);
    expect(fittingScale({ width: 1e9, height: 1 }, { width: 800, height: 500 })).toBeUndefined();
  });

  it('says what a title block says', () => {
    expect(scaleOfSheet([])).toBe('Not to scale');
    expect(scaleOfSheet([1 / 50, 1 / 50])).toBe('1:50');
    expect(scaleOfSheet([1 / 50, 1 / 100])).toBe('As indicated');
  });
});

describe('units', () => {
  // DXF reference, $INSUNITS: 1 inches, 2 feet, 4 millimetres, 5 centimetres, 6 metres, 7 kilometres, 0 none.
  it('follows the table of the DXF reference', () => {
    expect([1, 2, 4, 5, 6, 7].map(unitFromDxf)).toEqual(['in', 'ft', 'mm', 'cm', 'm', 'km']);
    expect(unitFromDxf(0)).toBeUndefined();
  });

  it.each([
    ['mm', true, 50_000, 'stated', undefined],
    ['in', true, 50_000, 'doubtful', 'mm'],
    ['mm', false, 1200, 'doubtful', 'in'],
    ['in', undefined, 1200, 'stated', undefined],
    [undefined, true, 50_000, 'unknown', 'mm'],
    [undefined, true, 51, 'unknown', 'm'],
    [undefined, false, 120, 'unknown', 'ft'],
    [undefined, undefined, undefined, 'unknown', undefined],
  ] as const)('%s in a file set up metric: %s, %d long, is %s', (stated, metric, longest, sure, likely) => {
    expect(judgeUnit(stated, metric, longest)).toEqual({ sure, likely });
  });

  it('has the exact inch and foot', () => {
    expect(MM_PER_UNIT.in).toBe(25.4);
    expect(MM_PER_UNIT.ft).toBeCloseTo(12 * 25.4, 10);
  });
});

describe('a typed scale', () => {
  it.each([
    ['1:50', undefined],
    ['1:1 000 000', undefined],
    ['1000:1', undefined],
    ['abc', 'Write a scale such as 1:50.'],
    ['', 'Write a scale such as 1:50.'],
    ['fit', 'Write a scale such as 1:50.'],
    ['1:0.0001', 'Scales go from 1:1,000,000 to 1000:1.'],
    ['1:99999999', 'Scales go from 1:1,000,000 to 1000:1.'],
  ])('%s: %s', (text, problem) => {
    expect(scaleProblem(text)).toBe(problem);
  });

  it('may be a word where that is allowed', () => {
    expect(scaleProblem(' Fit ', ['fit'])).toBeUndefined();
    expect(scaleProblem('', [''])).toBeUndefined();
    expect(scaleProblem('abc', ['fit'])).toBe('Write a scale such as 1:50, or fit.');
    expect(scaleProblem('abc', [''])).toBe('Write a scale such as 1:50, or leave it blank.');
  });
});
