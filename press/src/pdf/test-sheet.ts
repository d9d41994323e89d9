import { PdfDocument, testSheet, writePart, type PaperSize } from '@folvex/core';
import { shippedFonts } from './fonts';
import { deflate, pdfTools } from './tools';

/** The test sheet of a paper as a PDF; the same paper gives the same bytes. */
export async function testSheetPdf(paper: PaperSize, name: string): Promise<Uint8Array> {
  const chunks: Uint8Array[] = [];
  const facts = { title: `Test sheet ${name}`, author: '', producer: 'Folvex', date: '', id: '0'.repeat(32) };
  const document = new PdfDocument({ write: (bytes) => chunks.push(bytes.slice()) }, await pdfTools(), facts);
  const part = writePart(testSheet(paper, name, shippedFonts()), shippedFonts(), false, deflate);
  document.addPage(part, { number: '', title: facts.title });
  document.finish();
  return Buffer.concat(chunks);
}
