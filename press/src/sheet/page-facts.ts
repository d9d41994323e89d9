import {
  letteringFacts,
  marksOutside,
  printableArea,
  referencesIn,
  type ComposedFacts,
  type ComposedSheet,
  type Drawing,
  type Page,
  type PictureFacts,
} from '@folvex/core';
import { shippedFonts } from '../pdf/fonts';
import { pictureFacts } from '../pictures/resample-pictures';
import type { SheetTask } from './sheet-task';

/** What checks look at of a composed sheet. */
export function pageFacts(
  { page, paper, frame, views, viewports, warnings, drawings }: ComposedSheet & { drawings: Drawing[] },
  { project }: Pick<SheetTask, 'project'>,
): ComposedFacts & { pictures: PictureFacts[] } {
  return {
    paper,
    views: views.map(({ view, scale, box }) => ({ id: view.id, scale, box })),
    viewports: viewports.map(({ scale, box }) => ({ scale, box })),
    // Marks of the frame are at the very edge on purpose.
    outside: marksOutside(page, printableArea(paper, project), ['Frame']),
    // Stamps along the edge of the paper are meant to be there.
    overFrame: frame ? marksOutside(page, frame, ['Frame', 'Stamps']).count : 0,
    pictures: pictureFacts(page, drawings),
    ...(page.pens.some(({ gradient }) => gradient) && { gradients: true }),
    lettering: letteringFacts(page, shippedFonts()),
    names: sheetNamesIn(page),
    warnings,
  };
}

function sheetNamesIn(page: Page): string[] {
  const sheets = referencesIn(page, shippedFonts()).filter(({ kind }) => kind === 'sheet');
  return [...new Set(sheets.map(({ names }) => names))];
}
