import { PDFArray, PDFName, type PDFDocument, type PDFPage } from '@cantoo/pdf-lib';
import type { PictureSource } from '../../drawing/model';
import { SHEET_SIDE_MM } from '../../paper/sizes';
import type { Problem } from '../../problem';
import { fullPage, pagedDrawing, type PaperPage } from '../paged';
import type { ReadResult } from '../result';
import { annotationsOn, isDrawn, kindOf, mergeAnnotations } from './annotations';
import { areaOf, openPdf, paperOfPage, withoutProtection } from './open';

/** Reads a PDF of others: each page becomes a layout that shows it whole. Resolves with one refusal on bad input. */
export async function readPdf(bytes: Uint8Array, name: string, password?: string): Promise<ReadResult> {
  const opened = await openPdf(bytes, name, password);
  if (!opened.ok) return opened;
  const { document } = opened.value;
  try {
    return await pagesOf(document, bytes, name);
  } catch {
    const sentence = `${name} has pages that cannot be read; open it in a PDF reader, print it to a new PDF and add that file.`;
    return { ok: false, problem: { code: 'pdf.pages', sentence, place: { file: name } } };
  }
}

async function pagesOf(document: PDFDocument, sent: Uint8Array, name: string): Promise<ReadResult> {
  const warnings: Problem[] = [];
  const pictures: PictureSource[] = [];
  const warn = (code: Problem['code'], sentence: string): void => {
    warnings.push({ code, sentence, place: { file: name } });
  };
  const bytes = (await withFields(document)) ?? sent;
  const pages = document.getPages().map((page, i): PaperPage => {
    const paper = paperOfPage(areaOf(page));
    if (!(Math.max(paper.width, paper.height) <= SHEET_SIDE_MM.max)) throw new Error('absurd paper');
    pictures.push({ kind: 'pdf', bytes, page: i + 1 });
    const { comments, fields } = leftOut(page);
    if (comments > 0) {
      const [what, rest] =
        comments === 1
          ? ['a comment or mark', 'is not shown; merge it into the page if it belongs there']
          : [`${comments} comments or marks`, 'are not shown; merge them into the page if they belong there'];
      warn('pdf.annotations', `Page ${i + 1} has ${what} of a PDF reader, which ${rest}.`);
    }
    if (fields > 0) {
      const what = fields === 1 ? 'a form field' : `${fields} form fields`;
      warn(
        'pdf.fields',
        `Page ${i + 1} has ${what} whose values the file does not draw; print it to a new PDF and add that file.`,
      );
    }
    return { name: `Page ${i + 1}`, paper, entities: [fullPage(i, paper)] };
  });
  if (pages.length === 0) {
    const sentence = `${name} holds no page; ask its sender for it again.`;
    return { ok: false, problem: { code: 'pdf.empty', sentence, place: { file: name } } };
  }
  const version = /%PDF-(\d\.\d)/.exec(String.fromCharCode(...bytes.subarray(0, 1024)))?.[1] ?? '';
  return { ok: true, drawing: pagedDrawing({ name, format: `PDF ${version}`.trim(), pictures }, pages), warnings };
}

/** A PDF with the values of its form fields in its pages, as they print; undefined where it has none. */
async function withFields(document: PDFDocument): Promise<Uint8Array | undefined> {
  let merged = 0;
  for (const page of document.getPages()) merged += mergeAnnotations(document, page, 'field');
  return merged > 0 ? withoutProtection(document) : undefined;
}

/** How many comments of a page draw something, and how many of its fields have a value that they do not draw. */
function leftOut(page: PDFPage): { comments: number; fields: number } {
  const notes = annotationsOn(page);
  const comments = notes.filter(
    (note) =>
      kindOf(note) === 'comment' && (isDrawn(note) || note.lookup(PDFName.of('QuadPoints')) instanceof PDFArray),
  );
  const fields = notes.filter((note) => kindOf(note) === 'field' && !isDrawn(note) && note.has(PDFName.of('V')));
  return { comments: comments.length, fields: fields.length };
}

/** A PDF with the comments and marks of its readers in its pages. */
export async function withComments(document: PDFDocument): Promise<Uint8Array> {
  for (const page of document.getPages()) mergeAnnotations(document, page, 'comment');
  return withoutProtection(document);
}
