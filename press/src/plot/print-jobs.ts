import {
  describePaper,
  mediumInWords,
  planPlot,
  ProblemError,
  type Medium,
  type Plot,
  type PlotPiece,
} from '@folvex/core';
import type { PlotFiles } from './plot-files';

/** As many pieces as one job has: a stop at the plotter then loses little. */
const MAX_PIECES_IN_JOB = 50;

/**
 * The pieces of paper that files come out on, in jobs: pieces that follow each other and are of one size. `where`: the
 * plotter, for people. Throws a `ProblemError` where there is no paper for a page.
 */
export function printJobs(
  { sources }: PlotFiles,
  { copies, nesting }: Plot,
  { media, where }: { media: readonly Medium[]; where: string },
): PlotPiece[][] {
  const { pieces, misfits } = planPlot(sources, { media, copies, nested: nesting !== undefined });
  const [misfit] = misfits;
  if (misfit === undefined) return inJobs(pieces);
  const source = sources[misfit]!;
  const sentence =
    media.length === 0
      ? `${where} does not say which paper it holds, and nothing was printed; state its paper in the destination.`
      : `${source.file}, page ${source.page} (${describePaper(source)}) fits no paper of ${where}, which holds ${media.map(mediumInWords).join(', ')}; nothing was printed. Load a wider roll, or state its paper in the destination.`;
  throw new ProblemError({ code: 'plot.paper', sentence, place: { file: source.file } });
}

function inJobs(pieces: readonly PlotPiece[]): PlotPiece[][] {
  const jobs: PlotPiece[][] = [];
  for (const piece of pieces) {
    const [last] = jobs.at(-1) ?? [];
    const isSame = last && last.width === piece.width && last.length === piece.length;
    if (isSame && jobs.at(-1)!.length < MAX_PIECES_IN_JOB) jobs.at(-1)!.push(piece);
    else jobs.push([piece]);
  }
  return jobs;
}
