import type { PaperSize } from '../paper/sizes';

/** A page on a roll, mm: `x` across it from its left edge, `y` along it from where it begins. */
export interface NestedPage {
  /** Which page it is. */
  page: number;
  x: number;
  y: number;
  /** True where it is turned by 90°: its width lies along the roll. */
  turned: boolean;
}

/** Pages side by side on a piece of a roll. */
export interface Nesting {
  /** How much of the roll they take, mm. */
  length: number;
  pages: NestedPage[];
}

/** A level part of the edge up to which the roll is taken. */
interface Step {
  x: number;
  width: number;
  y: number;
}

/** Pages that differ by less are the same size, and fit where they just fit, mm. */
const TOLERANCE_MM = 0.01;
/** How many fillings are tried: few of many pages, where all come out nearly full (`npm run bench -- nesting`). */
const [MIN_FILLINGS, MAX_FILLINGS, FILLED_PAGES] = [16, 240, 4000];
/** Ties of the search are broken by a sequence that is always the same (Numerical Recipes, 7.1). */
const [MULTIPLIER, INCREMENT, MODULUS] = [1_664_525, 1_013_904_223, 2 ** 32];
/** How much of a gap may stay empty compared with what would fill it best, for the fillings in turn. */
const SLACKS = [0, 0.02, 0.08, 0.3] as const;

/**
 * Lays pages side by side on a roll so that they take as little of its length as is found; undefined where a page is too
 * wide for it either way. The lowest gap is filled with what suits it best (Burke, Kendall, Whitwell: A new placement
 * heuristic for the orthogonal stock-cutting problem, 2004), by several rules. The same pages give the same nesting.
 */
export function nestPages(pages: readonly PaperSize[], rollWidth: number): Nesting | undefined {
  if (pages.some((page) => shortSide(page) > rollWidth + TOLERANCE_MM)) return undefined;
  if (pages.length === 0) return { length: 0, pages: [] };
  const formats = formatsOf(pages);
  const least = leastLength(pages, rollWidth);
  let seed = pages.length;
  const random = (): number => (seed = (seed * MULTIPLIER + INCREMENT) % MODULUS) / MODULUS;
  let best: Nesting | undefined;
  const fillings = Math.min(MAX_FILLINGS, Math.max(MIN_FILLINGS, Math.round(FILLED_PAGES / pages.length)));
  for (let filling = 0; filling < fillings; filling++) {
    const found = new Filling(formats, rollWidth, { least, filling, share: filling / fillings, random }).run();
    if (!best || found.length < best.length - TOLERANCE_MM) best = found;
    if (best.length <= least + TOLERANCE_MM) break;
  }
  return best;
}

/**
 * No nesting takes less of a roll, mm: not less than the longest page, nor than the sum of what each page takes at least.
 * That is its area over the widest row that it can be in: where an A0 lies across 914 mm, the rest stays empty.
 */
export function leastLength(pages: readonly PaperSize[], rollWidth: number): number {
  const formats = formatsOf(pages);
  const widths = new Widths(formats);
  const lengths = formats.map((format) => {
    const rows = [format.width, format.height].map((across) =>
      widths.mostWith(across, rollWidth, formats.indexOf(format)),
    );
    return (format.pages.length * format.width * format.height) / Math.max(...rows, 1);
  });
  const longest = Math.max(0, ...pages.map((page) => shortestAlong(page, rollWidth)));
  return Math.max(
    lengths.reduce((sum, length) => sum + length, 0),
    longest,
  );
}

/** How much of a roll a page takes at least, mm: its shorter side, if the longer one fits across. */
function shortestAlong(page: PaperSize, rollWidth: number): number {
  const long = Math.max(page.width, page.height);
  return long <= rollWidth + TOLERANCE_MM ? shortSide(page) : long;
}

function shortSide({ width, height }: PaperSize): number {
  return Math.min(width, height);
}

/** Pages of one size. */
interface Format extends PaperSize {
  pages: number[];
}

function formatsOf(pages: readonly PaperSize[]): Format[] {
  const formats: Format[] = [];
  pages.forEach(({ width, height }, page) => {
    const same = formats.find((one) => isSame(one.width, width) && isSame(one.height, height));
    if (same) same.pages.push(page);
    else formats.push({ width, height, pages: [page] });
  });
  return formats;
}

function isSame(one: number, other: number): boolean {
  return Math.abs(one - other) <= TOLERANCE_MM;
}

/** Which widths pages can fill side by side, each lying either way, with as many of a size as are left. */
class Widths {
  private readonly known = new Map<string, number>();

  constructor(
    private readonly formats: readonly Format[],
    private readonly left: number[] = formats.map(({ pages }) => pages.length),
  ) {}

  /** The most of a gap that pages fill side by side, mm. */
  most(gap: number): number {
    // No more of a size matter than fit side by side.
    const counts = this.formats.map((format, i) =>
      Math.min(this.left[i]!, Math.floor((gap + TOLERANCE_MM) / shortSide(format))),
    );
    const key = `${gap} ${counts.join()}`;
    const known = this.known.get(key);
    if (known !== undefined) return known;
    const most = this.search(gap, counts, 0);
    this.known.set(key, most);
    return most;
  }

  /** The same for a gap with a page of a size in it that lies `across` it; 0 where it does not fit. */
  mostWith(across: number, gap: number, format: number): number {
    if (across > gap + TOLERANCE_MM) return 0;
    this.left[format]!--;
    const most = across + this.most(gap - across);
    this.left[format]!++;
    return most;
  }

  private search(gap: number, counts: number[], from: number): number {
    let most = 0;
    for (let i = from; i < counts.length; i++) {
      if (counts[i] === 0) continue;
      const { width, height } = this.formats[i]!;
      counts[i]!--;
      for (const side of isSame(width, height) ? [width] : [width, height]) {
        if (side > gap + TOLERANCE_MM) continue;
        most = Math.max(most, side + this.search(gap - side, counts, i));
        if (gap - most <= TOLERANCE_MM) break;
      }
      counts[i]!++;
      if (gap - most <= TOLERANCE_MM) break;
    }
    return most;
  }
}

/** A page of a size in one of its two positions. */
interface Candidate {
  format: number;
  across: number;
  along: number;
  turned: boolean;
}

/** One way to fill a roll from its beginning on. */
class Filling {
  private readonly skyline: Step[];
  private readonly left: number[];
  private readonly widths: Widths;
  private readonly candidates: Candidate[];
  private readonly placed: NestedPage[] = [];
  private length = 0;

  constructor(
    private readonly formats: readonly Format[],
    rollWidth: number,
    private readonly rule: { least: number; filling: number; share: number; random: () => number },
  ) {
    this.skyline = [{ x: 0, width: rollWidth, y: 0 }];
    this.left = formats.map(({ pages }) => pages.length);
    this.widths = new Widths(formats, this.left);
    this.candidates = formats.flatMap(({ width, height }, format) => [
      { format, across: width, along: height, turned: false },
      ...(isSame(width, height) ? [] : [{ format, across: height, along: width, turned: true }]),
    ]);
  }

  run(): Nesting {
    let toPlace = this.left.reduce((sum, count) => sum + count, 0);
    while (toPlace > 0) {
      const at = this.lowest();
      const candidate = this.bestFor(at);
      if (candidate) {
        this.place(candidate, at);
        toPlace--;
      } else this.raise(at);
    }
    return { length: this.length, pages: this.placed };
  }

  private lowest(): number {
    let at = 0;
    this.skyline.forEach(({ y }, i) => {
      if (y < this.skyline[at]!.y - TOLERANCE_MM) at = i;
    });
    return at;
  }

  /** What is to lie in a gap; undefined where nothing fits. */
  private bestFor(at: number): Candidate | undefined {
    const { width: gap, y } = this.skyline[at]!;
    const { filling, share, random, least } = this.rule;
    const slack = SLACKS[filling % SLACKS.length]!;
    const most = this.widths.most(gap);
    // The first fillings follow rules alone; the others stray from them more and more.
    const noise = filling < 2 * SLACKS.length ? 0 : share * gap;
    const prefersTall = Math.floor(filling / SLACKS.length) % 2 === 0;
    let best: Candidate | undefined;
    let bestScore = -Infinity;
    for (const candidate of this.candidates) {
      const { format, across, along } = candidate;
      if (this.left[format] === 0 || across > gap + TOLERANCE_MM) continue;
      const filled = this.widths.mostWith(across, gap, format);
      if (filled < most * (1 - slack) - TOLERANCE_MM) continue;
      const end = y + along;
      const isLevel = [at - 1, at + 1].some((i) => this.skyline[i] && isSame(this.skyline[i].y, end));
      const score =
        (prefersTall ? along : across) +
        (isLevel ? gap : 0) -
        // What goes beyond the least length makes the nesting longer.
        2 * Math.max(0, end - Math.max(least, this.length)) +
        noise * random();
      if (score > bestScore) [best, bestScore] = [candidate, score];
    }
    return best;
  }

  /** Lays a page into a gap, next to the higher of its neighbours. */
  private place({ format, across, along, turned }: Candidate, at: number): void {
    const gap = this.skyline[at]!;
    const [before, after] = [this.skyline[at - 1]?.y ?? Infinity, this.skyline[at + 1]?.y ?? Infinity];
    const isLeft = before >= after;
    const rest = Math.max(0, gap.width - across);
    const x = isLeft ? gap.x : gap.x + rest;
    const top = { x, width: across, y: gap.y + along };
    const remaining = { x: isLeft ? gap.x + across : gap.x, width: rest, y: gap.y };
    const steps =
      rest <= TOLERANCE_MM ? [{ ...top, x: gap.x, width: gap.width }] : isLeft ? [top, remaining] : [remaining, top];
    this.skyline.splice(at, 1, ...steps);
    this.merge();
    const page = this.formats[format]!.pages[this.left[format]! - 1]!;
    this.left[format]!--;
    this.placed.push({ page, x, y: gap.y, turned });
    this.length = Math.max(this.length, top.y);
  }

  /** Gives up a gap that nothing fits into. */
  private raise(at: number): void {
    const neighbours = [this.skyline[at - 1], this.skyline[at + 1]].flatMap((step) => (step ? [step.y] : []));
    this.skyline[at]!.y = Math.min(...neighbours);
    this.merge();
  }

  private merge(): void {
    for (let i = this.skyline.length - 1; i > 0; i--) {
      const [one, next] = [this.skyline[i - 1]!, this.skyline[i]!];
      if (!isSame(one.y, next.y)) continue;
      one.width += next.width;
      this.skyline.splice(i, 1);
    }
  }
}
