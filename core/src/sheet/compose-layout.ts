import { spaceOf } from '../drawing/model';
import { MM_PER_UNIT } from '../measure/units';
import { PageBuilder } from '../page/builder';
import { SHEET_SIDE_MM } from '../paper/sizes';
import { refuse, type ComposedSheet, type ComposeInput } from './composed';
import { placeLayout } from './layout';
import type { Sheet } from './model';
import { printing } from './printing';
import { drawSheetNotes } from './sheet-notes';
import { drawStamps } from './stamps';
import { warningsOf } from './view-warnings';

/** A layout taken over as a sheet, as its drawing lays it out; throws a `ProblemError` where it is not there or states no paper. */
export function composeLayout(input: ComposeInput, from: NonNullable<Sheet['from']>): ComposedSheet {
  const { sheet, source, fonts } = input;
  const { drawing, unit } = source(from.drawing, from.held) ?? {};
  if (!drawing) {
    const sentence = `The sheet shows a layout of the drawing "${from.drawing}", which does not exist; add it or choose another.`;
    throw refuse('sheet.drawing', sentence, sheet);
  }
  const space = spaceOf(drawing, from.layout);
  if (!space || space.kind !== 'layout') {
    const names = drawing.spaces.filter(({ kind }) => kind === 'layout').map(({ name }) => name);
    const sentence = `${drawing.name} has no layout "${from.layout}"; it has ${names.join(', ') || 'none'}.`;
    throw refuse('sheet.space', sentence, sheet);
  }
  if (!space.plot) {
    const sentence = `The layout "${space.name}" of ${drawing.name} states no paper; show its model in a view instead.`;
    throw refuse('sheet.paper', sentence, sheet);
  }
  const { paper } = space.plot;
  if (Math.max(paper.width, paper.height) > SHEET_SIDE_MM.max) {
    const sentence = `The layout "${space.name}" of ${drawing.name} states a paper of ${Math.round(paper.width)} × ${Math.round(paper.height)} mm; correct it there.`;
    throw refuse('sheet.paper', sentence, sheet);
  }
  const builder = new PageBuilder(paper.width, paper.height, input.enlarged, input.withBlocks);
  const { stamps, ...resized } = printing(input, paper);
  drawStamps(builder, fonts, paper, stamps, 'under');
  const placed = placeLayout(builder, fonts, drawing, space, space.plot, input.everything);
  const warnings = placed.notes.flatMap((notes) => warningsOf(notes, drawing.name, sheet));
  if (placed.viewports.some(({ outlineMissing }) => outlineMissing)) {
    const sentence = 'A viewport is cut by an outline that is not in its layout; it is shown within its box.';
    warnings.push({ code: 'sheet.viewport-outline', sentence, place: { file: drawing.name, sheet: sheet.number } });
  }
  const notes = drawSheetNotes(builder, input, warnings);
  drawStamps(builder, fonts, paper, stamps, 'over');
  const viewports = placed.viewports.flatMap(({ mmPerModelUnit, box }) =>
    unit ? [{ scale: mmPerModelUnit / MM_PER_UNIT[unit], box, unit }] : [],
  );
  return { page: builder.build(), paper, ...resized, views: [], viewports, notes, blanks: [], warnings };
}
