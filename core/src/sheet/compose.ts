import type { Box } from '../geometry/box';
import { boxPath, cornersOf, polygonPath } from '../geometry/outline';
import { isImperial, parseScale, type Scale } from '../measure/scale';
import { PageBuilder } from '../page/builder';
import { FRAME_LAYER } from '../page/page';
import { FRAME_LINE_MM, frameBox } from '../paper/frame';
import type { PaperSize } from '../paper/sizes';
import { inkColour, screened } from '../pens/ink';
import type { Problem } from '../problem';
import { drawingArea } from './areas';
import { composeLayout } from './compose-layout';
import { refuse, type BlankCell, type ComposedSheet, type ComposeInput, type PlacedView } from './composed';
import { drawFitted } from './fitted';
import { drawFrameMarks } from './frame-marks';
import type { Sheet, View } from './model';
import { paperDashMm } from './layout';
import { outlineOf, placeView, type Lettered } from './place-view';
import { printing } from './printing';
import { drawSheetNotes } from './sheet-notes';
import { choosePaper, smallestPaper } from './sheet-paper';
import { clipOf, placeOnPaper, sizeView } from './size-view';
import { drawStamps } from './stamps';
import { drawTitleBlock } from './title/draw';
import { blankCells, templateOf, type TitleFacts } from './title/fields';
import { blockBox, cellBox } from './title/template';
import { drawLabel } from './view-label';
import { warningsOf } from './view-warnings';

const BORDER_MM = 0.25;
const INK = 0x000000;

/**
 * Composes a sheet: its views at their scales, labels, frame and title block, as one Page. Throws a `ProblemError`
 * when a view refers to something that is not there or cannot be scaled; what is merely missing in the drawing
 * (blocks, glyphs) comes back as warnings.
 */
export function composeSheet(input: ComposeInput): ComposedSheet {
  const { sheet, fonts, project, everything = false } = input;
  if (sheet.from) return composeLayout(input, sheet.from);
  const sized = sheet.views.map((view) => sizeView(view, input));
  const paper = sheet.paper ? choosePaper(sheet.paper, sheet, project) : smallestPaper(sized, sheet, project);
  const frame = frameBox(paper, sheet.frame, sheet.margins);
  const builder = new PageBuilder(paper.width, paper.height, input.enlarged, input.withBlocks);
  const warnings: Problem[] = [];
  const { stamps, ...resized } = printing(input, paper);
  drawStamps(builder, fonts, paper, stamps, 'under');
  const views = sized.map((item) => {
    const placed = placeOnPaper(item, drawingArea(frame, sheet, project), sheet);
    const { view, drawing, space } = item;
    const hidden = new Set(view.layersOff.map((name) => name.toLowerCase()));
    const outline = outlineOf(view, placed.toPaper);
    if (outline) builder.clipToLoops([outline]);
    const dashMm = space.kind === 'model' ? paperDashMm(drawing) : undefined;
    const notes = placeView(builder, fonts, drawing, space.entities, placed.toPaper, clipOf(item, placed.box), hidden, {
      ...(dashMm !== undefined && { dashMm }),
      ink: inkOf(view),
      flat: view.colour === 'black',
      lettering: letteringOf(view, placed.scale, sheet),
      view: view.label || view.id,
      everything,
      pictureDpi: view.pictureDpi,
    });
    if (outline) builder.endClip();
    if (view.border) drawBorder(builder, placed.box, outline);
    warnings.push(...warningsOf(notes, drawing.name, sheet));
    return placed;
  });
  for (const view of views) drawLabel(builder, fonts, view);
  const notes = drawSheetNotes(builder, input, warnings);
  const blanks = drawBlock(builder, input, frame, { paper, views }, warnings);
  if (sheet.frame !== 'none') {
    drawFrame(builder, frame);
    drawFrameMarks(builder, fonts, paper, frame, sheet.marks ?? []);
  }
  drawStamps(builder, fonts, paper, stamps, 'over');
  const framed = sheet.frame !== 'none' && { frame };
  return { page: builder.build(), paper, ...resized, ...framed, views, viewports: [], notes, blanks, warnings };
}

/** A line round what a view shows. */
function drawBorder(builder: PageBuilder, box: Box, outline: number[] | undefined): void {
  const points = outline
    ? outline.flatMap((x, i) => (i % 2 === 0 ? [[x, outline[i + 1]!] as const] : []))
    : cornersOf(box);
  const layer = builder.layer('', 'View borders');
  builder.stroke(polygonPath(points), layer, builder.pen(BORDER_MM, INK, [], false));
}

/** By how much the lettering of a view that is sized for the paper is larger than the scale makes it. */
function letteringOf({ lettering, id }: View, scale: Scale, sheet: Sheet): Lettered | undefined {
  if (!lettering) return undefined;
  const meant = parseScale(lettering.scale);
  if (meant !== undefined) return { factor: meant / scale, layers: lettering.layers };
  const sentence = `The lettering of view ${id} is meant for "${lettering.scale}", which is not a scale; write it like 1:50.`;
  throw refuse('sheet.scale', sentence, sheet);
}

/** Draws the title block, if there is one; returns its blank cells. */
function drawBlock(
  builder: PageBuilder,
  { sheet, project, fonts, source, context }: ComposeInput,
  frame: Box,
  { paper, views }: { paper: PaperSize; views: readonly PlacedView[] },
  warnings: Problem[],
): BlankCell[] {
  if (!sheet.titleBlock) return [];
  const template = templateOf(project, sheet.titleBlock);
  if (!template) {
    const sentence = `There is no title-block template "${sheet.titleBlock.template}"; choose another for this sheet.`;
    throw refuse('sheet.template', sentence, sheet);
  }
  const imperial = views.length > 0 && views.every(({ view }) => isImperial(view.scale));
  const facts: TitleFacts = { project, sheet, paper, scales: views.map(({ scale }) => scale), imperial, ...context };
  const rotation = views[0]?.view.rotation ?? 0;
  drawTitleBlock(builder, fonts, frame, template, { ...facts, rotation }, (id, box, block) => {
    const found = source(id);
    if (found) return drawFitted(builder, fonts, found.drawing, box, block);
    const sentence = `The title block shows the drawing "${id}", which does not exist; its cell stays empty.`;
    warnings.push({ code: 'sheet.title-drawing', sentence, place: { sheet: sheet.number } });
  });
  const block = blockBox(template, frame);
  return blankCells(facts).map(({ cell, caption }) => ({ caption, box: cellBox(cell, block) }));
}

/** What becomes of the colours of a view. */
function inkOf({ colour = 'full', screen = 100 }: View): (one: number) => number {
  return (one) => screened(inkColour(one, colour), screen);
}

function drawFrame(builder: PageBuilder, frame: Box): void {
  builder.stroke(boxPath(frame), builder.layer('', FRAME_LAYER), builder.pen(FRAME_LINE_MM, INK, [], false));
}
