import { testSheet, type PaperSize } from '@folvex/core';
import { shippedFonts } from '../typefaces/shipped';
import { pagePdf } from './page-pdf';

/** The test sheet of a paper as a PDF; the same paper gives the same bytes. */
export function testSheetPdf(paper: PaperSize, name: string): Promise<Uint8Array> {
  return pagePdf(testSheet(paper, name, shippedFonts()), `Test sheet ${name}`);
}
