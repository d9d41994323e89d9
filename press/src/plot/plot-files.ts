import { readFile } from 'node:fs/promises';
import type { PDFDocument } from '@cantoo/pdf-lib';
import { piecePage, ProblemError, type Page, type PlotPiece, type PlotSource, type Problem } from '@folvex/core';
import { areaOf, embedPage, openPdf, paperOfPage } from '@folvex/core/foreign';
import { pagesPdf } from '../pdf/page-pdf';
import { deflate } from '../pdf/tools';

/** PDF files that are printed. */
export interface PlotFiles {
  /** Their pages, file by file, with their sizes in mm. */
  sources: PlotSource[];
  /** A PDF whose pages are pieces of paper, which must all be of one size. */
  pdfOf(pieces: readonly PlotPiece[], options: { title: string; cutLines: boolean }): Promise<Uint8Array>;
}

/**
 * Opens PDF files by their paths on this machine and the names they go by. Rejects with a `ProblemError` where one cannot
 * be read, such as one that is protected by a password.
 */
export async function openPlotFiles(files: readonly { from: string; path: string }[]): Promise<PlotFiles> {
  const documents = new Map<string, PDFDocument>();
  const sources: PlotSource[] = [];
  for (const { from, path } of files) {
    const opened = await openPdf(await readFile(from), path);
    if (!opened.ok) throw new ProblemError(unprintable(opened.problem, path));
    const { document } = opened.value;
    documents.set(path, document);
    document.getPages().forEach((page, i) => sources.push({ ...paperOfPage(areaOf(page)), file: path, page: i + 1 }));
  }
  const extrasOf = ({ pictures }: Page) => ({
    pictures: pictures.map(({ drawing: file, page }) =>
      embedPage(documents.get(file)!, page, file, `${file} ${page}`, deflate),
    ),
  });
  return {
    sources,
    pdfOf: (pieces, { title, cutLines }) => {
      const pages = pieces.map((piece) => piecePage(piece, sources, cutLines));
      return pagesPdf(
        pages.map((page) => [page, extrasOf(page)]),
        title,
      );
    },
  };
}

/** Why a file cannot be printed: a password that somebody else has to type is no help here. */
function unprintable(problem: Problem, path: string): Problem {
  if (problem.code !== 'pdf.password') return problem;
  const sentence = `${path} is protected by a password and cannot be printed; publish the package without one.`;
  return { ...problem, sentence };
}
