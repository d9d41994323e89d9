import { dirname } from 'node:path';
import { PdfDocument, writePart } from '@folvex/core';
import { pdfTools, WholeFile } from '@folvex/press';
import { pageOf, sample } from './sample-page';

/** Writes a combined file of that many different sample pages. */
export async function writeMany(pages: number, path: string): Promise<void> {
  const tools = await pdfTools();
  const file = new WholeFile(dirname(path));
  const facts = { title: 'Many', author: '', producer: 'Folvex', date: '', id: '0'.repeat(32) };
  const document = new PdfDocument(file, tools, facts);
  for (let i = 1; i <= pages; i++) {
    const page = pageOf(sample(i), tools.fonts);
    document.addPage(writePart(page, tools.fonts, true, tools.deflate), { number: String(i), title: 'Sample' });
  }
  document.finish();
  file.sync();
  file.moveTo(path);
}
