import { tileGrid } from '../paper/tiles';
import type { PaperSize } from '../paper/sizes';
import { mediaIn, mediumInWords } from '../plot/media';
import { paperTaken, planPlot, type PaperTaken } from '../plot/plot-plan';
import { paperPlacement } from './model';
import type { OutputPlan, PlanInput } from './plan';
import { printedPaper } from './printed-paper';

/** A page that a plotter is to print, with its paper, mm. */
export interface PlotPage {
  /** Id of its sheet. */
  sheet: string;
  paper: PaperSize;
}

/** The pages that a plotter prints of a package, in the order of its PDFs; without sheets that are not composed yet. */
export function plotPages(input: PlanInput, plan: OutputPlan): PlotPage[] {
  const byId = new Map(input.sheets.map((sheet) => [sheet.id, sheet]));
  return plan.files
    .filter(({ format }) => format === undefined)
    .flatMap(({ sheets }) => sheets)
    .flatMap((id): PlotPage[] => {
      const [sheet, own] = [byId.get(id), input.pages?.get(id)?.paper];
      if (!sheet || !own) return [];
      const { tiling } = paperPlacement(input.package, id, input.project);
      const grid = tiling && tileGrid(own, tiling);
      if (grid) return grid.tiles.map(() => ({ sheet: id, paper: grid.paper }));
      return [{ sheet: id, paper: printedPaper(input, sheet, own).paper }];
    });
}

/** A piece of paper as it is shown before anything is printed, mm: `x` across it, `y` along it. */
export interface DraftPiece {
  /** `roll 914 mm, 2.97 m`, `A3`. */
  medium: string;
  width: number;
  length: number;
  pages: { number: string; x: number; y: number; across: number; along: number }[];
}

/** What comes out of a plotter, to be looked at before it is sent. */
export interface PlotDraft extends PaperTaken {
  pieces: DraftPiece[];
}

/** For each destination of a package what comes out of it; null where it is no plotter, or states no paper. */
export function plotDrafts(input: PlanInput, plan: OutputPlan): (PlotDraft | null)[] {
  const destinations = input.package.destinations ?? [];
  if (!destinations.some(({ kind }) => kind === 'plotter')) return destinations.map(() => null);
  const pages = plotPages(input, plan);
  const numbers = new Map(input.sheets.map(({ id, number }) => [id, number]));
  return destinations.map((destination) => {
    if (destination.kind !== 'plotter') return null;
    const { copies, nesting, costPerM2, media: list = '' } = destination;
    const { media } = mediaIn(list, input.project.papers);
    if (media.length === 0) return null;
    const sizes = pages.map(({ paper }) => paper);
    const planned = planPlot(sizes, { media, copies, nested: nesting !== undefined });
    const pieces = planned.pieces.map(({ medium, width, length, pages: placed }) => ({
      medium:
        medium.kind === 'roll' ? `${mediumInWords(medium)}, ${(length / 1000).toFixed(2)} m` : mediumInWords(medium),
      ...{ width, length },
      pages: placed.map(({ page, x, y, turned }) => {
        const { sheet, paper } = pages[page]!;
        const [across, along] = turned ? [paper.height, paper.width] : [paper.width, paper.height];
        return { number: numbers.get(sheet) ?? '', x, y, across, along };
      }),
    }));
    return { pieces, ...paperTaken(planned.pieces, costPerM2) };
  });
}
