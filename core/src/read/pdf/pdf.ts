import { PDFName, type PDFDocument, type PDFPage } from '@cantoo/pdf-lib';
import type { PictureSource } from '../../drawing/model';
import { SHEET_SIDE_MM } from '../../paper/sizes';
import type { Problem } from '../../problem';
import { fullPage, pagedDrawing, type PaperPage } from '../paged';
import type { ReadResult } from '../result';
import { annotationsOn, isDrawn, kindOf, mergeAnnotations, type AnnotationKind } from './annotations';
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
  // Values of forms belong to the page: they print.
  const bytes = (await merged(document, 'field')) ?? sent;
  const pages = document.getPages().map((page, i): PaperPage => {
    const paper = paperOfPage(areaOf(page));
    if (!(Math.max(paper.width, paper.height) <= SHEET_SIDE_MM.max)) throw new Error('absurd paper');
    pictures.push({ kind: 'pdf', bytes, page: i + 1 });
    const { comments, undrawn, fields } = leftOut(page);
    if (comments > 0) {
      const rest =
        comments === 1
          ? 'is not shown; merge it into the page if it belongs there'
          : 'are not shown; merge them into the page if they belong there';
      warn('pdf.annotations', `Page ${i + 1} has ${counted(comments, COMMENTS)} of a PDF reader, which ${rest}.`);
    }
    for (const [count, words] of [[undrawn, COMMENTS] as const, [fields, FIELDS] as const]) {
      if (count === 0) continue;
      const rest = count === 1 ? 'it is not shown' : 'they are not shown';
      const sentence = `Page ${i + 1} has ${counted(count, words)} whose appearance is not in the file, so ${rest}; print the page to a new PDF from a PDF reader and add that file.`;
      warn('pdf.undrawn', sentence);
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

/** A PDF with its annotations of a kind in its pages; undefined where it draws none. */
async function merged(document: PDFDocument, kind: AnnotationKind): Promise<Uint8Array | undefined> {
  let count = 0;
  for (const page of document.getPages()) count += mergeAnnotations(document, page, kind);
  return count > 0 ? withoutProtection(document) : undefined;
}

interface LeftOut {
  /** Comments that the file draws: they can be merged. */
  comments: number;
  /** Comments that readers draw as they see fit. */
  undrawn: number;
  /** Fields with a value that the file does not draw. */
  fields: number;
}

function leftOut(page: PDFPage): LeftOut {
  const notes = annotationsOn(page);
  const comments = notes.filter((note) => kindOf(note) === 'comment');
  const drawn = comments.filter(isDrawn).length;
  const fields = notes.filter((note) => kindOf(note) === 'field' && !isDrawn(note) && note.has(PDFName.of('V')));
  return { comments: drawn, undrawn: comments.length - drawn, fields: fields.length };
}

const COMMENTS = ['a comment or mark', 'comments or marks'] as const;
const FIELDS = ['a form field', 'form fields'] as const;

function counted(count: number, [one, many]: readonly [string, string]): string {
  return count === 1 ? one : `${count} ${many}`;
}

/** A PDF with the comments and marks of its readers in its pages; undefined where it draws none. */
export function withComments(document: PDFDocument): Promise<Uint8Array | undefined> {
  return merged(document, 'comment');
}
