import { mappedBox, type Box } from '../geometry/box';
import { tileGrid } from '../paper/tiles';
import type { OwnPaper, PaperSize } from '../paper/sizes';
import { mediaIn, mediumInWords, type MediaList, type Medium, type PlotterPaper } from '../plot/media';
import { paperTaken, planPlot, type PaperTaken } from '../plot/plot-plan';
import type { Plot } from './destination-kinds';
import { paperPlacement } from './model';
import type { OutputPlan, PlanInput } from './plan';
import { printedPaper } from './printed-paper';

/** A page that a plotter is to print, with its paper, mm. */
export interface PlotPage {
  /** Id of its sheet. */
  sheet: string;
  paper: PaperSize;
  /** The box around everything on it except its frame; absent where it is not known, and for the tiles of a sheet. */
  ink?: Box;
}

/** The paper that a destination states, or else what its plotter says it holds. */
export function mediaFor(
  { media = '' }: Pick<Plot, 'media'>,
  papers: readonly OwnPaper[] | undefined,
  told: Pick<PlotterPaper, 'media'> | undefined,
): MediaList {
  const stated = mediaIn(media, papers);
  const isStated = stated.media.length + stated.unknown.length > 0;
  return isStated ? stated : { media: told?.media ?? [], unknown: [] };
}

/** The pages that a plotter prints of a package, in the order of its PDFs; without sheets that are not composed yet. */
export function plotPages(input: PlanInput, plan: OutputPlan): PlotPage[] {
  const byId = new Map(input.sheets.map((sheet) => [sheet.id, sheet]));
  return plan.files
    .filter(({ format }) => format === undefined)
    .flatMap(({ sheets }) => sheets)
    .flatMap((id): PlotPage[] => {
      const [sheet, { paper: own, ink } = {}] = [byId.get(id), input.pages?.get(id)];
      if (!sheet || !own) return [];
      const { tiling } = paperPlacement(input.package, id, input.project);
      const grid = tiling && tileGrid(own, tiling);
      if (grid) return grid.tiles.map(() => ({ sheet: id, paper: grid.paper }));
      const { paper, map } = printedPaper(input, sheet, own);
      return [{ sheet: id, paper, ...(ink && { ink: mappedBox(map, ink) }) }];
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

/** What comes out of a plotter for some pages, mm; `label`: what a page goes by in the picture. */
export function plotDraft(
  pages: readonly (PaperSize & { label: string })[],
  { copies, nesting, costPerM2 }: Plot,
  media: readonly Medium[],
): PlotDraft {
  const planned = planPlot(pages, { media, copies, nested: nesting !== undefined });
  const pieces = planned.pieces.map(({ medium, width, length, pages: placed }) => ({
    medium:
      medium.kind === 'roll' ? `${mediumInWords(medium)}, ${(length / 1000).toFixed(2)} m` : mediumInWords(medium),
    ...{ width, length },
    pages: placed.map(({ page, x, y, turned }) => {
      const { label, width: w, height: h } = pages[page]!;
      return { number: label, x, y, across: turned ? h : w, along: turned ? w : h };
    }),
  }));
  return { pieces, ...paperTaken(planned.pieces, costPerM2) };
}

/** For each destination of a package what comes out of it; null where it is no plotter, or its paper is not known. */
export function plotDrafts(input: PlanInput, plan: OutputPlan): (PlotDraft | null)[] {
  const destinations = input.package.destinations ?? [];
  if (!destinations.some(({ kind }) => kind === 'plotter')) return destinations.map(() => null);
  const pages = plotPages(input, plan);
  const numbers = new Map(input.sheets.map(({ id, number }) => [id, number]));
  const labelled = pages.map(({ sheet, paper }) => ({ ...paper, label: numbers.get(sheet) ?? '' }));
  return destinations.map((destination, at) => {
    if (destination.kind !== 'plotter') return null;
    const { media } = mediaFor(destination, input.project.papers, input.plotters?.[at]);
    return media.length === 0 ? null : plotDraft(labelled, destination, media);
  });
}
