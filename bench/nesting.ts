import { leastLength, NAMED_SIZES, nestPages, USUAL_ROLLS_MM, type PaperSize } from '@folvex/core';

const JOBS = 500;
const COUNTS = [
  [3, 8],
  [9, 20],
  [21, 60],
  [61, 150],
] as const;
/** A job counts as good within so much of a bound. */
const SLACK = 1.05;

/** Random jobs of mixed A sizes on each usual roll: how near they come to area over width, and to the least length. */
export function benchNesting(): void {
  // A sequence that is always the same (Numerical Recipes, 7.1).
  let seed = 2026;
  const random = (): number => (seed = (seed * 1_664_525 + 1_013_904_223) % 2 ** 32) / 2 ** 32;
  const groups = USUAL_ROLLS_MM.flatMap((roll) => COUNTS.map((pages) => ({ roll, pages })));
  console.log(`${JOBS} random jobs of A sizes that fit the roll; "over": length beyond the bound, mean and worst.`);
  console.log('roll mm | pages  | jobs | ≤ 5 % over area/width | over area/width | ≤ 5 % over least | over least');
  for (const [i, { roll, pages }] of groups.entries()) {
    const jobs = Math.floor(JOBS / groups.length) + (i < JOBS % groups.length ? 1 : 0);
    const found = Array.from({ length: jobs }, () => overs(randomJob(roll, pages, random), roll));
    const shares = (['area', 'least'] as const).map((bound) => {
      const all = found.map((one) => one[bound]);
      const good = all.filter((over) => over <= SLACK).length;
      const mean = all.reduce((sum, over) => sum + over - 1, 0) / jobs;
      return { good: `${good}`, over: `${percent(mean)}, ${percent(Math.max(...all) - 1)}` };
    });
    const [area, least] = shares as [(typeof shares)[number], (typeof shares)[number]];
    const cells = [`${roll}`, pages.join('-'), `${jobs}`, area.good, area.over, least.good, least.over];
    const widths = [7, 6, 4, 21, 15, 16, 10];
    console.log(cells.map((cell, at) => cell.padEnd(widths[at]!)).join(' | '));
  }
}

function randomJob(roll: number, [least, most]: readonly [number, number], random: () => number): PaperSize[] {
  const sizes = NAMED_SIZES.filter(({ series, short }) => series === 'ISO A' && short <= roll);
  return Array.from({ length: least + Math.floor(random() * (most - least + 1)) }, () => {
    const { short, long } = sizes[Math.floor(random() * sizes.length)]!;
    return { width: long, height: short };
  });
}

/** The length of a nesting over both bounds. */
function overs(pages: readonly PaperSize[], roll: number): { area: number; least: number } {
  const { length } = nestPages(pages, roll)!;
  const area = pages.reduce((sum, { width, height }) => sum + width * height, 0) / roll;
  return { area: length / area, least: length / leastLength(pages, roll) };
}

function percent(share: number): string {
  return `${(100 * share).toFixed(1)} %`;
}
