import {
  boxOfMarks,
  letteringFacts,
  marksOutside,
  printableArea,
  referencesIn,
  type ComposedFacts,
  type ComposedSheet,
  type Drawing,
  type FontSet,
  type Page,
  type PictureFacts,
} from '@folvex/core';
import { fontsWith } from '../typefaces/own';
import { pictureFacts } from '../pictures/resample-pictures';
import type { SheetTask } from './sheet-task';

/** What checks look at of a composed sheet. */
export function pageFacts(
  { page, paper, frame, views, viewports, warnings, drawings }: ComposedSheet & { drawings: Drawing[] },
  { project, typefaces }: Pick<SheetTask, 'project' | 'typefaces'>,
): ComposedFacts & { pictures: PictureFacts[] } {
  const fonts = fontsWith(typefaces);
  const ink = boxOfMarks(page, ['Frame']);
  return {
    paper,
    views: views.map(({ view, scale, box }) => ({ id: view.id, scale, box })),
    viewports: viewports.map(({ scale, box }) => ({ scale, box })),
    // Marks of the frame are at the very edge on purpose.
    outside: marksOutside(page, printableArea(paper, project), ['Frame']),
    ...(ink && { ink }),
    // Stamps along the edge of the paper are meant to be there.
    overFrame: frame ? marksOutside(page, frame, ['Frame', 'Stamps']).count : 0,
    pictures: pictureFacts(page, drawings),
    ...(page.pens.some(({ gradient }) => gradient) && { gradients: true }),
    ...(page.groups.length > 0 && { transparencyGroups: true as const }),
    lettering: letteringFacts(page, fonts),
    names: sheetNamesIn(page, fonts),
    warnings,
  };
}

function sheetNamesIn(page: Page, fonts: FontSet): string[] {
  const sheets = referencesIn(page, fonts).filter(({ kind }) => kind === 'sheet');
  return [...new Set(sheets.map(({ names }) => names))];
}
