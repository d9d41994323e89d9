import { PdfDocument, writePart, type FontSet, type Page, type PartExtras } from '@folvex/core';
import { shippedFonts } from '../typefaces/shipped';
import { deflate, pdfTools } from './tools';

/** A page as a PDF file of its own, without layers; the same page gives the same bytes. */
export function pagePdf(
  page: Page,
  title: string,
  { fonts, ...extras }: PartExtras & { fonts?: FontSet } = {},
): Promise<Uint8Array> {
  return pagesPdf([[page, extras]], title, fonts);
}

/** Several pages as one PDF file; the same pages give the same bytes. */
export async function pagesPdf(
  pages: readonly (readonly [page: Page, extras: PartExtras])[],
  title: string,
  fonts = shippedFonts(),
): Promise<Uint8Array> {
  const chunks: Uint8Array[] = [];
  const facts = { title, author: '', producer: 'Folvex', date: '', id: '0'.repeat(32) };
  const document = new PdfDocument({ write: (bytes) => chunks.push(bytes.slice()) }, await pdfTools(fonts), facts);
  for (const [page, extras] of pages)
    document.addPage(writePart(page, fonts, false, deflate, extras), { number: '', title });
  document.finish();
  return Buffer.concat(chunks);
}
