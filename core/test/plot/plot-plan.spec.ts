import { paperOf, type PaperSize } from '../../src/paper/sizes';
import { mediaIn, mediumInWords } from '../../src/plot/media';
import { paperTaken, planPlot } from '../../src/plot/plot-plan';

const media = (list: string) => mediaIn(list).media;
const sizes = (...names: string[]): PaperSize[] => names.map((name) => paperOf(name)!);
const brief = (plan: ReturnType<typeof planPlot>): string[] =>
  plan.pieces.map(({ medium, width, length, pages }) => {
    const on = pages.map(({ page, turned }) => `${page}${turned ? ' turned' : ''}`).join(', ');
    return `${mediumInWords(medium)}: ${width} × ${length}: ${on}`;
  });

describe('media', () => {
  it('are widths of rolls and names of sheets', () => {
    expect(mediaIn('610, 914 mm; a3, own, 12, 4000')).toEqual({
      media: [
        { kind: 'roll', width: 610 },
        { kind: 'roll', width: 914 },
        { kind: 'sheet', name: 'A3', width: 297, height: 420 },
      ],
      unknown: ['own', '12', '4000'],
    });
    const own = [{ name: 'Own', short: 300, long: 500 }];
    expect(mediaIn('own', own).media).toEqual([{ kind: 'sheet', name: 'OWN', width: 300, height: 500 }]);
  });
});

describe('a plan of what comes out of a plotter', () => {
  it('turns pages where that saves paper, and takes the roll that loses least', () => {
    // An A1 (841 × 594) lies across 841, and turned across 610.
    expect(brief(planPlot(sizes('A1'), { media: media('914, 610') }))).toEqual(['roll 610 mm: 610 × 841: 0 turned']);
    expect(brief(planPlot(sizes('A1'), { media: media('914') }))).toEqual(['roll 914 mm: 914 × 594: 0']);
    expect(brief(planPlot(sizes('A0', 'A2'), { media: media('610, 914') }))).toEqual([
      'roll 914 mm: 914 × 1189: 0 turned',
      'roll 610 mm: 610 × 420: 1',
    ]);
  });

  it('takes sheets of the size of a page before rolls, whichever way they lie', () => {
    expect(brief(planPlot(sizes('A3', 'A1'), { media: media('610, A3') }))).toEqual([
      'A3: 297 × 420: 0 turned',
      'roll 610 mm: 610 × 841: 1 turned',
    ]);
  });

  it('names pages that fit nothing, and scales none of them', () => {
    expect(planPlot(sizes('A0', 'A4'), { media: media('610') })).toMatchObject({ misfits: [0], pieces: [{}] });
    expect(planPlot(sizes('A4'), { media: [] })).toEqual({ misfits: [0], pieces: [] });
  });

  it('keeps the order of pages, set by set', () => {
    const plan = planPlot(sizes('A3', 'A4'), { media: media('610'), copies: 2 });
    expect(plan.pieces.map(({ pages }) => pages[0]!.page)).toEqual([0, 1, 0, 1]);
  });

  it('lays pages side by side where that is wanted, on the roll that takes least of all', () => {
    const plan = planPlot(sizes('A3', 'A3', 'A3', 'A3'), { media: media('914, 610'), nested: true });
    // Four A3 on 914 mm: three across (891) and one: 2 × 420 × 914; on 610 mm: 2 × 420 × 610.
    expect(plan.pieces).toHaveLength(1);
    expect(paperTaken(plan.pieces)).toEqual({ rollM: 0.84, areaM2: expect.closeTo(0.5124, 6) as number, cost: null });
    expect(paperTaken(plan.pieces, 2).cost).toBeCloseTo(1.0248, 6);
    const copies = planPlot(sizes('A3', 'A3'), { media: media('610'), nested: true, copies: 2 });
    expect(copies.pieces[0]!.pages.map(({ page }) => page).sort()).toEqual([0, 0, 1, 1]);
  });

  it('makes several pieces of what would be longer than anybody handles', () => {
    const plan = planPlot(sizes(...Array<string>(40).fill('A0')), { media: media('914'), nested: true });
    expect(plan.pieces.flatMap(({ pages }) => pages.map(({ page }) => page)).sort((a, b) => a - b)).toEqual(
      Array.from({ length: 40 }, (_, i) => i),
    );
    expect(Math.max(...plan.pieces.map(({ length }) => length))).toBeLessThanOrEqual(10_000);
    expect(paperTaken(plan.pieces).rollM).toBeCloseTo(40 * 1.189, 6);
  });
});
