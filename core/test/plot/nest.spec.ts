import fc from 'fast-check';
import { NAMED_SIZES, type PaperSize } from '../../src/paper/sizes';
import { leastLength, nestPages, type Nesting } from '../../src/plot/nest';

const A_SERIES = NAMED_SIZES.filter(({ series }) => series === 'ISO A');
const lying = ({ long, short }: (typeof NAMED_SIZES)[number]): PaperSize => ({ width: long, height: short });
const format = (name: string): PaperSize => lying(NAMED_SIZES.find((one) => one.name === name)!);

/** Where a page of a nesting lies. */
function boxesOf({ pages }: Nesting, sizes: readonly PaperSize[]) {
  return pages.map(({ page, x, y, turned }) => {
    const { width, height } = sizes[page]!;
    const [across, along] = turned ? [height, width] : [width, height];
    return { page, left: x, right: x + across, from: y, to: y + along };
  });
}

/** What is wrong with a nesting, a line each. */
function faults(nesting: Nesting, sizes: readonly PaperSize[], roll: number): string[] {
  const boxes = boxesOf(nesting, sizes);
  const close = 0.02;
  const found = boxes
    .filter(
      ({ left, right, from, to }) =>
        left < -close || right > roll + close || from < -close || to > nesting.length + close,
    )
    .map(({ page }) => `page ${page} lies beyond the roll`);
  boxes.forEach((a, i) =>
    boxes.slice(i + 1).forEach((b) => {
      const apart =
        a.right <= b.left + close || b.right <= a.left + close || a.to <= b.from + close || b.to <= a.from + close;
      if (!apart) found.push(`pages ${a.page} and ${b.page} overlap`);
    }),
  );
  const all = boxes.map(({ page }) => page).sort((a, b) => a - b);
  if (all.some((page, i) => page !== i) || all.length !== sizes.length) found.push(`the pages are ${all.join()}`);
  if (nesting.length < leastLength(sizes, roll) - close) found.push('it is shorter than possible');
  return found;
}

describe('pages side by side on a roll', () => {
  it('are A3 pages two up on a roll of 610 mm', () => {
    const sizes = Array<PaperSize>(6).fill(format('A3'));
    const nesting = nestPages(sizes, 610)!;
    expect(faults(nesting, sizes, 610)).toEqual([]);
    // Two A3 are an A2 (ISO 216): 594 across, 420 along.
    expect(nesting.length).toBe(3 * 420);
    expect(nesting.pages.every(({ turned }) => turned)).toBe(true);
  });

  it('fill an A0 with an A1, an A2, an A3 and two A4 (ISO 216, halving)', () => {
    const sizes = ['A1', 'A2', 'A3', 'A4', 'A4'].map(format);
    // The halves are rounded down to the millimetre: twice 594.
    expect(nestPages(sizes, 841)!.length).toBe(1188);
  });

  it('neither overlap nor leave the roll, and none is lost, whatever their sizes', () => {
    const size = fc.record({ width: fc.integer({ min: 30, max: 2000 }), height: fc.integer({ min: 30, max: 900 }) });
    fc.assert(
      fc.property(fc.array(size, { maxLength: 14 }), fc.integer({ min: 300, max: 1100 }), (sizes, roll) => {
        const nesting = nestPages(sizes, roll);
        if (!nesting) return sizes.some(({ width, height }) => Math.min(width, height) > roll);
        expect(faults(nesting, sizes, roll)).toEqual([]);
        expect(nestPages(sizes, roll)).toEqual(nesting);
        return true;
      }),
      { numRuns: 40, seed: 20 },
    );
  });

  it.each([610, 841])(
    'take at most 5 %% more of a roll of %d mm than their area over its width, from 20 pages on',
    (roll) => {
      const fitting = A_SERIES.filter(({ short }) => short <= roll);
      const sizes = fc.array(fc.constantFrom(...fitting.map(lying)), { minLength: 20, maxLength: 50 });
      fc.assert(
        fc.property(sizes, (pages) => {
          const nesting = nestPages(pages, roll)!;
          expect(faults(nesting, pages, roll)).toEqual([]);
          const area = pages.reduce((sum, { width, height }) => sum + width * height, 0);
          expect(nesting.length).toBeLessThanOrEqual((1.05 * area) / roll);
        }),
        { numRuns: 6, seed: 21 },
      );
    },
  );

  it('take at most 5 % more than the least on 914 mm, where next to an A0 nothing fits', () => {
    const pages = [...Array<string>(6).fill('A0'), ...Array<string>(9).fill('A1'), ...Array<string>(12).fill('A3')].map(
      format,
    );
    // 841 of 914 mm for 6 × 1189 mm; of the rest, 891 mm are filled at best.
    const least = 6 * 1189 + (9 * 594 * 841 + 12 * 297 * 420) / 891;
    expect(leastLength(pages, 914)).toBeCloseTo(least, 6);
    expect(nestPages(pages, 914)!.length).toBeLessThanOrEqual(1.05 * least);
  });

  it('are none where a page is wider than the roll', () => {
    expect(nestPages([format('A0')], 610)).toBeUndefined();
    expect(nestPages([], 610)).toEqual({ length: 0, pages: [] });
  });
});
