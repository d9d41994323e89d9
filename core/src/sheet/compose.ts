import { compose, rotationAbout, type Affine } from '../geometry/affine';
import { boxOfLoops, expanded, height, mappedBox, width, type Box } from '../geometry/box';
import { boxPath, cornersOf, polygonPath } from '../geometry/outline';
import { spaceOf, type Drawing, type Space } from '../drawing/model';
import { fittingScale, isImperial, parseScale, type Scale } from '../measure/scale';
import { MM_PER_UNIT, type LengthUnit } from '../measure/units';
import { frameBox, FRAME_LINE_MM } from '../paper/frame';
import { NAMED_SIZES, paperNames, paperOfChoice, type PaperChoice, type PaperSize } from '../paper/sizes';
import { PageBuilder } from '../page/builder';
import { FRAME_LAYER, type Page } from '../page/page';
import { inkColour, screened } from '../pens/ink';
import { ProblemError, type Problem } from '../problem';
import type { FontSet } from '../text/layout';
import { drawFitted } from './fitted';
import { drawFrameMarks } from './frame-marks';
import { placeLayout } from './layout';
import type { ProjectFacts, Sheet, View } from './model';
import { visibleExtents } from './extents';
import { markKey, type SheetContext } from './context';
import { resizingOnto, type Resizing } from '../page/resize';
import { drawNotes, type PlacedNote } from './notes/draw';
import { noteStylesOf } from './notes/model';
import { outlineOf, placeView, windowToPaper, type Lettered } from './place-view';
import { drawTitleBlock } from './title/draw';
import { blankCells, templateOf, type TitleFacts } from './title/fields';
import { besideBlock, blockBox, cellBox } from './title/template';
import { drawStamps, stampsOn, type PrintedStamp } from './stamps';
import { drawLabel } from './view-label';
import { warningsOf } from './view-warnings';

/** A drawing as a sheet uses it: its content and the unit it is in (its own, or the one stated for it). */
export interface SourceDrawing {
  drawing: Drawing;
  /** Undefined where nobody said: only layouts can then be shown, which lie on paper already. */
  unit: LengthUnit | undefined;
}

export interface ComposeInput {
  project: ProjectFacts;
  sheet: Sheet;
  fonts: FontSet;
  /** What it shows of the sheets and the package around it. */
  context?: SheetContext;
  /** Draws hidden layers too, marked as switched off. */
  everything?: boolean;
  /** The paper that it will be printed on, mm, which it then says; absent: its own. */
  onto?: PaperSize;
  /** The drawing of an id (the version held, where one is), or undefined when the project has none such. */
  source(id: string, held?: number): SourceDrawing | undefined;
}

/** A view once everything about it is known. */
export interface PlacedView {
  view: View;
  scale: Scale;
  /** On the paper, mm. */
  box: Box;
  /** From the drawing's unit and coordinates to mm on the paper. */
  toPaper: Affine;
}

export interface ComposedSheet {
  page: Page;
  paper: PaperSize;
  /** How it goes on the paper that it is printed on; absent where that is its own. */
  resizing?: Resizing;
  /** Where its frame runs, mm; absent where it has none of its own. */
  frame?: Box;
  views: PlacedView[];
  /** What the viewports of a layout show, where the drawing's unit is known. */
  viewports: { scale: Scale; box: Box; unit: LengthUnit }[];
  notes: PlacedNote[];
  /** Required cells of the title block that have no value, mm on the paper. */
  blanks: BlankCell[];
  warnings: Problem[];
}

export interface BlankCell {
  caption: string;
  box: Box;
}

interface SizedView {
  view: View;
  drawing: Drawing;
  mmPerUnit: number;
  space: Space;
  window: Box;
  scale: Scale | undefined;
}

/** Space left around views when the paper is chosen for them, and inside the frame when a scale is fitted, mm. */
const ROOM_MM = 10;
const EDGE_MM = 2;
const BORDER_MM = 0.25;
const INK = 0x000000;
const LARGEST_PAPER_MM = 20_000;

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
  const builder = new PageBuilder(paper.width, paper.height);
  const warnings: Problem[] = [];
  const { stamps, ...resized } = printing(input, paper);
  drawStamps(builder, fonts, paper, stamps, 'under');
  const views = sized.map((item) => {
    const placed = placeOnPaper(item, drawingArea(frame, sheet, project), sheet);
    const { view, drawing, space } = item;
    const hidden = new Set(view.layersOff.map((name) => name.toLowerCase()));
    const outline = outlineOf(view, placed.toPaper);
    if (outline) builder.clipToLoops([outline]);
    const notes = placeView(builder, fonts, drawing, space.entities, placed.toPaper, clipOf(item, placed.box), hidden, {
      ink: inkOf(view),
      lettering: letteringOf(view, placed.scale, sheet),
      view: view.label || view.id,
      everything,
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

function drawSheetNotes(
  builder: PageBuilder,
  { sheet, project, fonts, source, context }: ComposeInput,
  warnings: Problem[],
): PlacedNote[] {
  const place = { sheet: sheet.number };
  const gone = (code: string, sentence: string): void => void warnings.push({ code, sentence, place });
  const pen = {
    builder,
    fonts,
    styles: noteStylesOf(project),
    words: (refers: Parameters<typeof markKey>[0]) => {
      const words = context?.marks?.[markKey(refers)];
      if (!words) gone('mark.dangling', 'A mark refers to a sheet or view that is not there; choose another for it.');
      return words;
    },
    drawn: (id: string, box: Box): void => {
      const found = source(id);
      if (found) return drawFitted(builder, fonts, found.drawing, box);
      gone('note.drawing', `A note shows the drawing "${id}", which is not there; choose another for it.`);
    },
  };
  return drawNotes(pen, sheet.notes ?? []);
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
  const sentence = `The lettering of view ${id} is meant for "${lettering.scale}", which is no scale; write it like 1:50.`;
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
    const sentence = `The title block shows the drawing "${id}", which is not there; its cell stays empty.`;
    warnings.push({ code: 'sheet.title-drawing', sentence, place: { sheet: sheet.number } });
  });
  const block = blockBox(template, frame);
  return blankCells(facts).map(({ cell, caption }) => ({ caption, box: cellBox(cell, block) }));
}

/** A layout taken over as a sheet, as its drawing lays it out. */
function composeLayout(input: ComposeInput, from: NonNullable<Sheet['from']>): ComposedSheet {
  const { sheet, source, fonts } = input;
  const { drawing, unit } = source(from.drawing, from.held) ?? {};
  if (!drawing) {
    const sentence = `The sheet takes over a layout of the drawing "${from.drawing}", which is not there; add it or choose another.`;
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
  if (Math.max(paper.width, paper.height) > LARGEST_PAPER_MM) {
    const sentence = `The layout "${space.name}" of ${drawing.name} states a paper of ${Math.round(paper.width)} × ${Math.round(paper.height)} mm; correct it there.`;
    throw refuse('sheet.paper', sentence, sheet);
  }
  const builder = new PageBuilder(paper.width, paper.height);
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

/** How a page of a paper goes on the one that it is printed on, and the stamps that follow from it. */
function printing(
  { onto, context }: ComposeInput,
  paper: PaperSize,
): { resizing?: Resizing; stamps: readonly PrintedStamp[] } {
  const resizing = onto && resizingOnto(paper, onto);
  return { ...(resizing && { resizing }), stamps: stampsOn(paper, resizing, context?.stamps) };
}

/** What becomes of the colours of a view. */
function inkOf({ colour = 'full', screen = 100 }: View): (one: number) => number {
  return (one) => screened(inkColour(one, colour), screen);
}

/** A view of everything visible must not cut the outer lines along their middle. */
function clipOf(item: SizedView, box: Box): Box {
  return item.view.window === 'extents' ? expanded(box, EDGE_MM) : box;
}

/** The paper meant by a choice; throws a `ProblemError` for an unknown name. */
function choosePaper(
  choice: PaperChoice,
  sheet: Pick<Sheet, 'number'>,
  { papers }: Pick<ProjectFacts, 'papers'>,
): PaperSize {
  const paper = paperOfChoice(choice, papers);
  if (paper) return paper;
  const asked = 'name' in choice ? choice.name : '';
  const sentence = `There is no paper called "${asked}"; use one of ${paperNames(papers).join(', ')}, or a size in mm.`;
  throw refuse('sheet.paper', sentence, sheet);
}

function sizeView(view: View, { sheet, source, fonts }: ComposeInput): SizedView {
  const found = source(view.drawing, view.held);
  if (!found) {
    throw refuse(
      'sheet.drawing',
      `View ${view.id} shows the drawing "${view.drawing}", which is not there; add it or choose another.`,
      sheet,
    );
  }
  const space = spaceOf(found.drawing, view.space);
  if (!space) {
    const names = found.drawing.spaces.map((s) => s.name).join(', ');
    throw refuse(
      'sheet.space',
      `View ${view.id} shows "${view.space}" of ${found.drawing.name}, which has only ${names}.`,
      sheet,
    );
  }
  const hidden = new Set(view.layersOff.map((name) => name.toLowerCase()));
  const within = view.outline && boxOfLoops([view.outline.flat()]);
  const window =
    view.window === 'extents'
      ? turnedExtents(view, within ?? visibleExtents(found.drawing, space.entities, fonts, hidden))
      : { xmin: view.window[0], ymin: view.window[1], xmax: view.window[2], ymax: view.window[3] };
  if (!window || !(width(window) > 0 || height(window) > 0)) {
    throw refuse(
      'sheet.window',
      `View ${view.id} of ${found.drawing.name} shows nothing; choose a window with something visible in it.`,
      sheet,
    );
  }
  const scale = view.scale.trim().toLowerCase() === 'fit' ? undefined : parseScale(view.scale);
  if (scale === undefined && view.scale.trim().toLowerCase() !== 'fit') {
    throw refuse('sheet.scale', `"${view.scale}" is not a scale; write it like 1:50, 1/8" = 1'-0" or fit.`, sheet);
  }
  if (!found.unit) {
    const { name } = found.drawing;
    const sentence = `${name} does not say what unit it is drawn in; state it (mm, cm, m, km, in or ft).`;
    throw new ProblemError({ code: 'drawing.unit', sentence, place: { file: name, sheet: sheet.number } });
  }
  return { view, drawing: found.drawing, mmPerUnit: MM_PER_UNIT[found.unit], space, window, scale };
}

/** Turns a drawing about the middle of a window, as a view has it. */
function turned({ rotation: degrees = 0 }: View, { xmin, ymin, xmax, ymax }: Box): Affine {
  return rotationAbout((degrees * Math.PI) / 180, (xmin + xmax) / 2, (ymin + ymax) / 2);
}

/** The box around all that is visible, once it is turned. */
function turnedExtents(view: View, extents: Box | undefined): Box | undefined {
  return view.rotation && extents ? mappedBox(turned(view, extents), extents) : extents;
}

function placeOnPaper(item: SizedView, area: Box, sheet: Sheet): PlacedView {
  const mm = item.mmPerUnit;
  const real = { width: width(item.window) * mm, height: height(item.window) * mm };
  const scale = item.scale ?? fittingScale(real, roomIn(area));
  if (scale === undefined) {
    throw refuse(
      'sheet.fit',
      `View ${item.view.id} fits the paper at no standard scale; choose a larger paper or a smaller window.`,
      sheet,
    );
  }
  const size = { width: real.width * scale, height: real.height * scale };
  const [x, y] =
    item.view.at === 'centre'
      ? [(area.xmin + area.xmax - size.width) / 2, (area.ymin + area.ymax - size.height) / 2]
      : item.view.at;
  const box = { xmin: x, ymin: y, xmax: x + size.width, ymax: y + size.height };
  const upright = windowToPaper(item.window, mm, scale, x, y);
  return { view: item.view, scale, box, toPaper: compose(upright, turned(item.view, item.window)) };
}

/** How large a view may be, mm, to be fitted to a paper: inside the frame, above the title block, with space around. */
export function roomForViews(
  paper: PaperSize,
  sheet: Pick<Sheet, 'frame' | 'margins' | 'titleBlock'>,
  project: Pick<ProjectFacts, 'titleBlocks'>,
): PaperSize {
  return roomIn(areaForViews(paper, sheet, project));
}

/** Where views go on a paper, mm: inside the frame, beside the title block. */
export function areaForViews(
  paper: PaperSize,
  sheet: Pick<Sheet, 'frame' | 'margins' | 'titleBlock'>,
  project: Pick<ProjectFacts, 'titleBlocks'>,
): Box {
  return drawingArea(frameBox(paper, sheet.frame, sheet.margins), sheet, project);
}

function roomIn(area: Box): PaperSize {
  return { width: width(area) - 2 * ROOM_MM, height: height(area) - 2 * ROOM_MM };
}

/** Where views go when they are centred: inside the frame, beside the title block if there is one. */
function drawingArea(frame: Box, sheet: Pick<Sheet, 'titleBlock'>, project: Pick<ProjectFacts, 'titleBlocks'>): Box {
  const template = sheet.titleBlock && templateOf(project, sheet.titleBlock);
  return template ? besideBlock(template, frame) : frame;
}

/** The smallest A size, landscape, whose drawing area holds every view at its scale. */
function smallestPaper(views: readonly SizedView[], sheet: Sheet, project: ProjectFacts): PaperSize {
  const sizes = NAMED_SIZES.filter((size) => size.series === 'ISO A').sort((a, b) => a.short - b.short);
  for (const { long, short } of sizes) {
    const paper = { width: long, height: short };
    const area = drawingArea(frameBox(paper, sheet.frame, sheet.margins), sheet, project);
    const holds = views.every((item) => {
      if (item.scale === undefined) return true;
      const factor = item.mmPerUnit * item.scale;
      const [x, y] = item.view.at === 'centre' ? [area.xmin, area.ymin] : item.view.at;
      return x + width(item.window) * factor <= area.xmax && y + height(item.window) * factor <= area.ymax;
    });
    if (holds) return paper;
  }
  throw refuse(
    'sheet.paper',
    'No A size holds the views at their scales; choose a paper size or a smaller scale.',
    sheet,
  );
}

function drawFrame(builder: PageBuilder, frame: Box): void {
  builder.stroke(boxPath(frame), builder.layer('', FRAME_LAYER), builder.pen(FRAME_LINE_MM, INK, [], false));
}

function refuse(code: string, sentence: string, sheet: Pick<Sheet, 'number'>): ProblemError {
  return new ProblemError({ code, sentence, place: { sheet: sheet.number } });
}
