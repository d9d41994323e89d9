import { rm } from 'node:fs/promises';
import {
  describePaper,
  mediaFor,
  mediumInWords,
  planPlot,
  ProblemError,
  type OwnPaper,
  type Plot,
  type PlotPiece,
  type Problem,
} from '@folvex/core';
import type { PlotJobState, PlotterFacts, PlotterPort } from './port';
import { writtenTo } from '../files/whole-file';
import type { PlotFiles } from '../plot/plot-files';

/** As many pieces as one job has: a stop at the plotter then loses little. */
const MAX_PIECES_IN_JOB = 50;
/** Characters of the package's name in that of a job, which may have 255 bytes (RFC 8011, 5.1.3). */
const MAX_TITLE = 60;

/** Why plotters wait (RFC 8011, 5.4.12), without the suffix that says how bad it is. */
const REASONS: Readonly<Record<string, string>> = {
  'media-empty': 'out of paper',
  'media-needed': 'other paper is needed',
  'media-jam': 'paper jam',
  'cover-open': 'a cover is open',
  'marker-supply-empty': 'out of ink',
  'toner-empty': 'out of toner',
  paused: 'paused',
};

/** Pieces of paper that are printed in one job. */
export interface PlannedJob {
  pieces: PlotPiece[];
  /** A plotter's own display has room for little: the package, and which of its jobs this is. */
  title: string;
  /** Names of the files that have pages on it. */
  files: ReadonlySet<string>;
}

/**
 * The jobs in which files are printed: pieces of paper that follow each other and are of one size. Their paper is what the
 * destination states, or what the plotter holds. `where`: the plotter, for people. Throws a `ProblemError` where there is no
 * paper for a page.
 */
export function plannedJobs(
  { sources }: PlotFiles,
  plot: Plot,
  options: { facts: PlotterFacts; papers: readonly OwnPaper[] | undefined; packageName: string; where: string },
): PlannedJob[] {
  const { facts, papers, packageName, where } = options;
  const { media } = mediaFor(plot, papers, facts);
  const { pieces, misfits } = planPlot(sources, { media, copies: plot.copies, nested: plot.nesting !== undefined });
  const [misfit] = misfits;
  if (misfit !== undefined) {
    const source = sources[misfit]!;
    const sentence =
      media.length === 0
        ? `${where} does not say which paper it holds, and nothing was printed; state its paper in the destination.`
        : `${source.file}, page ${source.page} (${describePaper(source)}) fits no paper of ${where}, which holds ${media.map(mediumInWords).join(', ')}; nothing was printed. Load a wider roll, or state its paper in the destination.`;
    throw new ProblemError({ code: 'plot.paper', sentence, place: { file: source.file } });
  }
  const groups = groupsOf(pieces);
  return groups.map((group, i) => ({
    pieces: group,
    title: `${packageName.slice(0, MAX_TITLE)} ${i + 1} of ${groups.length}`,
    files: new Set(group.flatMap(({ pages }) => pages.map(({ page }) => sources[page]!.file))),
  }));
}

function groupsOf(pieces: readonly PlotPiece[]): PlotPiece[][] {
  const groups: PlotPiece[][] = [];
  for (const piece of pieces) {
    const [last] = groups.at(-1) ?? [];
    const isSame = last && last.width === piece.width && last.length === piece.length;
    if (isSame && groups.at(-1)!.length < MAX_PIECES_IN_JOB) groups.at(-1)!.push(piece);
    else groups.push([piece]);
  }
  return groups;
}

/** Sends a job to a plotter, under a name that tells it from all others; resolves with its id. */
export async function printJob(
  port: PlotterPort,
  files: PlotFiles,
  { pieces, title }: PlannedJob,
  { name, plot, folder }: { name: string; plot: Plot; folder: string },
): Promise<number> {
  const pdf = await files.pdfOf(pieces, { title, cutLines: plot.cutLines === true });
  const { temporary } = writtenTo(folder, pdf);
  const { width, length } = pieces[0]!;
  try {
    return await port.print({ name, file: temporary, width, length, isGrey: plot.colours === 'greys' });
  } finally {
    await rm(temporary, { force: true });
  }
}

/** What a plotter waits for, in words; null where it does not. */
export function waitsFor({ state, reasons }: PlotterFacts): string | null {
  if (state !== 'stopped') return null;
  return [...new Set(reasons.map(reasonInWords))].join(', ') || 'it is stopped';
}

function reasonInWords(keyword: string): string {
  const plain = keyword.replace(/-(error|warning|report)$/, '');
  return REASONS[plain] ?? plain.replaceAll('-', ' ');
}

/** How a job can be over without its pieces having come out. */
export type BadEnd = Exclude<PlotJobState['state'], 'open' | 'done'> | 'unknown';

/** What is told of a file whose pages did not all come out, because a job of it ended badly. */
export function endedBadly(path: string, { name, end }: { name: string; end: BadEnd }, where: string): Problem {
  const ENDINGS: Readonly<Record<BadEnd, string>> = {
    cancelled: `was cancelled at ${where}`,
    failed: `failed at ${where}`,
    unknown: `is no longer known to ${where}; look whether it came out`,
  };
  const sentence = `${path} did not come out: the job "${name}" ${ENDINGS[end]}.`;
  return { code: 'plot.ended', sentence, place: { file: path } };
}
