import type { PaperSize } from '../paper/sizes';
import type { Medium } from './media';
import { nestPages, type NestedPage } from './nest';

/** A piece of paper that comes out of a plotter, mm. */
export interface PlotPiece {
  medium: Medium;
  /** Across the way it comes out: of a roll its width. */
  width: number;
  /** Along it. */
  length: number;
  /** Pages on it by their place in the list that was planned: `x` across from the left edge, `y` along. */
  pages: NestedPage[];
}

/** What comes out of a plotter for some pages. */
export interface PlotPlan {
  pieces: PlotPiece[];
  /** Pages that fit no medium. */
  misfits: number[];
}

export interface PlotOptions {
  media: readonly Medium[];
  /** Sets of all pages, one after the other. */
  copies?: number | undefined;
  /** True: pages are laid side by side on rolls to save paper; their order is lost. */
  nested?: boolean | undefined;
}

/** Longer pieces are cut in two: nobody handles them well (common practice), mm. */
const MAX_PIECE_MM = 10_000;
/** A sheet fits a page of its own size, give or take this, mm (ISO 216 allows 1.5 mm up to 150 mm, 2 mm up to 600). */
const SHEET_TOLERANCE_MM = 2;
const ROLL_TOLERANCE_MM = 0.01;

/**
 * Plans on which paper pages come out, at true size: on sheets of their own size where there are any, else on the roll that
 * loses least, turned where that saves paper. Nothing is scaled. Sizes in mm.
 */
export function planPlot(sizes: readonly PaperSize[], { media, copies = 1, nested = false }: PlotOptions): PlotPlan {
  const alone = sizes.map((size, page) => bestPiece(page, size, media));
  const misfits = misfitsAmong(sizes, media);
  const sets = Array.from({ length: copies }, () => alone.flatMap((piece) => piece ?? [])).flat();
  if (!nested) return { pieces: sets, misfits };
  const onSheets = sets.filter(({ medium }) => medium.kind === 'sheet');
  const onRolls = sets.flatMap(({ medium, pages }) => (medium.kind === 'roll' ? pages.map(({ page }) => page) : []));
  return { pieces: [...onSheets, ...nestOnRolls(onRolls, sizes, media)], misfits };
}

/** The pages that fit no medium, by their place in the list. */
export function misfitsAmong(sizes: readonly PaperSize[], media: readonly Medium[]): number[] {
  return sizes.flatMap((size, page) => (bestPiece(page, size, media) ? [] : [page]));
}

/** The piece of paper that a page takes on its own; undefined where it fits none. */
function bestPiece(page: number, size: PaperSize, media: readonly Medium[]): PlotPiece | undefined {
  let best: PlotPiece | undefined;
  const offer = (piece: PlotPiece): void => {
    if (!best || areaOf(piece) < areaOf(best) - 1) best = piece;
  };
  for (const medium of media)
    for (const turned of [false, true]) {
      const [across, along] = turned ? [size.height, size.width] : [size.width, size.height];
      const pages = [{ page, x: 0, y: 0, turned }];
      if (medium.kind === 'sheet') {
        const off = Math.max(Math.abs(medium.width - across), Math.abs(medium.height - along));
        if (off <= SHEET_TOLERANCE_MM) return { medium, width: medium.width, length: medium.height, pages };
      } else if (across <= medium.width + ROLL_TOLERANCE_MM)
        offer({ medium, width: medium.width, length: along, pages });
    }
  return best;
}

/** Pages side by side on the roll that takes least paper for all, or each on the roll that is best for it alone. */
function nestOnRolls(pages: readonly number[], sizes: readonly PaperSize[], media: readonly Medium[]): PlotPiece[] {
  const rolls = media.filter(({ kind }) => kind === 'roll');
  const byRoll = rolls.map((roll) =>
    pages.filter((page) => isSameMedium(bestPiece(page, sizes[page]!, rolls)?.medium, roll)),
  );
  const apart = rolls.map((roll, i) => nestOn(roll, byRoll[i]!, sizes));
  const plans = [
    ...rolls.map((roll) => nestOn(roll, pages, sizes)),
    apart.every((some) => some) ? apart.flatMap((some) => some!) : undefined,
  ];
  const [best] = plans.flatMap((plan) => (plan ? [plan] : [])).sort((a, b) => paperOf(a) - paperOf(b));
  return best ?? [];
}

/** Pages side by side on one roll, on as many pieces as their length takes; undefined where one is too wide. */
function nestOn(roll: Medium, pages: readonly number[], sizes: readonly PaperSize[]): PlotPiece[] | undefined {
  const nest = (some: readonly number[]): PlotPiece | undefined => {
    const nesting = nestPages(
      some.map((page) => sizes[page]!),
      roll.width,
    );
    if (!nesting) return undefined;
    const placed = nesting.pages.map((one) => ({ ...one, page: some[one.page]! }));
    return { medium: roll, width: roll.width, length: nesting.length, pages: placed };
  };
  if (pages.length === 0) return [];
  const whole = nest(pages);
  if (!whole) return undefined;
  for (let count = Math.ceil(whole.length / MAX_PIECE_MM); ; count++) {
    const pieces = count === 1 ? [whole] : shares(whole.pages, count).map((some) => nest(some)!);
    if (pieces.every(({ length, pages: some }) => length <= MAX_PIECE_MM || some.length === 1)) return pieces;
  }
}

/** Pages in so many groups, by where they came to lie: each group is near together already. */
function shares(pages: readonly NestedPage[], count: number): number[][] {
  const inOrder = [...pages].sort((a, b) => a.y - b.y || a.x - b.x).map(({ page }) => page);
  const size = Math.ceil(inOrder.length / count);
  return Array.from({ length: Math.ceil(inOrder.length / size) }, (_, i) => inOrder.slice(i * size, (i + 1) * size));
}

function isSameMedium(one: Medium | undefined, other: Medium): boolean {
  return one?.kind === other.kind && one.width === other.width;
}

function areaOf({ width, length }: PlotPiece): number {
  return width * length;
}

function paperOf(pieces: readonly PlotPiece[]): number {
  return pieces.reduce((sum, piece) => sum + areaOf(piece), 0);
}

/** What printing takes: metres of roll, and square metres of all paper. */
export interface PaperTaken {
  rollM: number;
  areaM2: number;
  /** Estimate; null: it is not known what paper costs. */
  cost: number | null;
}

/** What some pieces take; `costPerM2`: of a square metre of paper, printed. */
export function paperTaken(pieces: readonly PlotPiece[], costPerM2?: number): PaperTaken {
  const rolls = pieces.filter(({ medium }) => medium.kind === 'roll');
  const areaM2 = paperOf(pieces) / 1e6;
  const rollM = rolls.reduce((sum, { length }) => sum + length, 0) / 1000;
  return { rollM, areaM2, cost: costPerM2 === undefined ? null : areaM2 * costPerM2 };
}
