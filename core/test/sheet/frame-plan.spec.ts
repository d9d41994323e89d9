import {
  fitFrame,
  frameFits,
  freeFirst,
  papersOfFrame,
  planFrames,
  type FittedFrame,
  type FoundFrame,
} from '../../src/index';

/** A frame in millimetres with its lower left corner at the origin. */
function frame(width: number, height: number): FittedFrame {
  const found: FoundFrame = { window: [0, 0, width, height] };
  return { ...found, papers: papersOfFrame(found, 'mm') };
}

/** A3 at 1:50 (which is A1 at 1:25, too), A3 at 1:100, and one that fills no named paper. */
const FRAMES = [frame(21_000, 14_850), frame(42_000, 29_700), frame(30_000, 10_000)];

describe('frames', () => {
  it('get the paper that each fits best', () => {
    expect(planFrames(FRAMES, { by: 'frame' }, 'mm').map(({ at, scale }) => [at, scale])).toEqual([
      [0, expect.stringMatching(/^1:/)],
      [1, expect.stringMatching(/^1:/)],
    ]);
  });

  it('share a scale: named papers where they fill one, papers of their own size elsewhere', () => {
    // ISO 216: A3 is 297 × 420 mm.
    expect(planFrames(FRAMES, { by: 'scale', scale: '1:100' }, 'mm')).toEqual([
      { at: 0, paper: { size: [210, 148.5] }, scale: '1:100' },
      { at: 1, paper: { name: 'A3', orientation: 'landscape' }, scale: '1:100' },
      { at: 2, paper: { size: [300, 100] }, scale: '1:100' },
    ]);
  });

  it('get papers of their own size to the hundredth of a millimetre', () => {
    const { paper } = fitFrame(frame(30_000.4, 10_000.26), { by: 'scale', scale: '1:7' }, 'mm')!;
    expect(paper).toEqual({ size: [4285.77, 1428.61] });
  });

  it('share a paper, each at the scale at which it fills it', () => {
    expect(planFrames(FRAMES, { by: 'paper', paper: 'A3' }, 'mm')).toEqual([
      { at: 0, paper: { name: 'A3', orientation: 'landscape' }, scale: '1:50' },
      { at: 1, paper: { name: 'A3', orientation: 'landscape' }, scale: '1:100' },
    ]);
  });

  it('are left out where that is wished, or where the sheet would be too small or too large', () => {
    expect(planFrames(FRAMES, { by: 'paper', paper: 'A3' }, 'mm', new Set([0])).map(({ at }) => at)).toEqual([1]);
    expect(planFrames(FRAMES, { by: 'scale', scale: '1:10000' }, 'mm')).toEqual([]);
    expect(planFrames([frame(30_000, 10_000)], { by: 'scale', scale: '1:1' }, 'mm')).toEqual([]);
  });

  it('offer the scales and papers that they can share, the one that fits most first', () => {
    const fits = frameFits(FRAMES);
    expect(fits).toContainEqual({ fit: { by: 'paper', paper: 'A3' }, count: 2 });
    expect(fits).toContainEqual({ fit: { by: 'scale', scale: '1:50' }, count: 2 });
    expect(fits.map(({ count }) => count)).toEqual(fits.map(({ count }) => count).sort((a, b) => b - a));
  });
});

describe('the first number', () => {
  it.each([
    ['A-101', 3, [], 'A-101'],
    ['A-101', 3, ['a-102'], 'A-103'],
    ['A-101', 3, ['a-102', 'a-105'], 'A-106'],
    ['A-101', 2, ['a-101', 'a-103', 'a-105'], 'A-106'],
    ['A-09', 2, ['a-10'], 'A-11'],
    ['Plan', 2, ['plan1'], 'Plan2'],
  ])('%s for %d sheets, with %j taken, is %s', (first, count, taken, expected) => {
    expect(freeFirst(first, count, new Set(taken))).toBe(expected);
  });
});
