import { PDFArray, PDFDict, PDFName, type PDFDocument, type PDFPage } from '@cantoo/pdf-lib';
import type { PictureSource } from '../../drawing/model';
import { SHEET_SIDE_MM } from '../../paper/sizes';
import type { Problem } from '../../problem';
import { fullPage, pagedDrawing, type PaperPage } from '../paged';
import type { ReadResult } from '../result';
import { areaOf, openPdf, paperOfPage } from './open';

/** Reads a PDF of others: each page becomes a layout that shows it whole. Resolves with one refusal on bad input. */
export async function readPdf(bytes: Uint8Array, name: string, password?: string): Promise<ReadResult> {
  const opened = await openPdf(bytes, name, password);
  if (!opened.ok) return opened;
  const { document } = opened.value;
  try {
    return pagesOf(document, bytes, name);
  } catch {
    const sentence = `${name} has pages that cannot be read; open it in a PDF reader, print it to a new PDF and add that file.`;
    return { ok: false, problem: { code: 'pdf.pages', sentence, place: { file: name } } };
  }
}

function pagesOf(document: PDFDocument, bytes: Uint8Array, name: string): ReadResult {
  const warnings: Problem[] = [];
  const pictures: PictureSource[] = [];
  const pages = document.getPages().map((page, i): PaperPage => {
    const paper = paperOfPage(areaOf(page));
    if (!(Math.max(paper.width, paper.height) <= SHEET_SIDE_MM.max)) throw new Error('absurd paper');
    pictures.push({ kind: 'pdf', bytes, page: i + 1 });
    const notes = annotationsOf(page);
    if (notes > 0) {
      const sentence = `Page ${i + 1} has ${notes === 1 ? 'a comment or mark' : `${notes} comments or marks`} of a PDF reader, which are not shown; have them merged into the page if they belong to it.`;
      warnings.push({ code: 'pdf.annotations', sentence, place: { file: name } });
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

/** How many annotations of a page draw something of their own: links and form fields do not count. */
function annotationsOf(page: PDFPage): number {
  const list = page.node.Annots();
  if (!list) return 0;
  let count = 0;
  for (let i = 0; i < list.size(); i++) {
    const note = list.lookupMaybe(i, PDFDict);
    const kind = note?.lookupMaybe(PDFName.of('Subtype'), PDFName)?.asString();
    if (!note || kind === '/Link' || kind === '/Popup' || kind === '/Widget') continue;
    if (note.has(PDFName.of('AP')) || note.lookup(PDFName.of('QuadPoints')) instanceof PDFArray) count++;
  }
  return count;
}
