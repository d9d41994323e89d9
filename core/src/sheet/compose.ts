import { compose, rotationAbout, translation, type Affine } from '../geometry/affine';
import { expanded, height, mappedBox, width, type Box } from '../geometry/box';
import { boxPath, linePath } from '../geometry/outline';
import { spaceOf, type Drawing, type Space } from '../drawing/model';
import { fittingScale, formatScale, isImperial, parseScale, type Scale } from '../measure/scale';
import { MM_PER_UNIT, type LengthUnit } from '../measure/units';
import { frameBox, FRAME_LINE_MM } from '../paper/frame';
import { NAMED_SIZES, paperOf, type PaperSize } from '../paper/sizes';
import { PageBuilder } from '../page/builder';
import type { Page } from '../page/page';
import { inkColour, screened } from '../pens/ink';
import { ProblemError, type Problem } from '../problem';
import type { FontSet } from '../text/layout';
import { drawFrameMarks } from './frame-marks';
import { placeLayout } from './layout';
import { placeLettering } from './lettering';
import type { PaperChoice, ProjectFacts, Sheet, View } from './model';
import { visibleExtents } from './extents';
import { drawNotes, type PlacedNote } from './notes/draw';
import { placeView, windowToPaper, type ViewNotes } from './place-view';
import { drawTitleBlock } from './title/draw';
import { blankCells, templateOf, type TitleFacts } from './title/fields';
import { besideBlock, blockBox, cellBox } from './title/template';

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
  /** The drawing of an id (the version held, where one is), or undefined when the project has none such. */
  source(id: string, held?: number): SourceDrawing | undefined;
}

/** A view once everything about it is known. */
export interface PlacedView {
  view: View;
  scale: Scale;
  /** On the paper, mm. */
  box: Box;
}

export interface ComposedSheet {
  page: Page;
  paper: PaperSize;
  views: PlacedView[];
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
const LABEL_HEIGHT_MM = 5;
const LABEL_SCALE_MM = 2.5;
const LABEL_DROP_MM = 9;
const INK = 0x000000;
const LARGEST_PAPER_MM = 20_000;

/**
 * Composes a sheet: its views at their scales, labels, frame and title block, as one Page. Throws a `ProblemError`
 * when a view refers to something that is not there or cannot be scaled; what is merely missing in the drawing
 * (blocks, glyphs) comes back as warnings.
 */
export function composeSheet(input: ComposeInput): ComposedSheet {
  const { sheet, fonts, project } = input;
  if (sheet.from) return composeLayout(input, sheet.from);
  const sized = sheet.views.map((view) => sizeView(view, input));
  const paper = sheet.paper ? choosePaper(sheet.paper, sheet) : smallestPaper(sized, sheet, project);
  const frame = frameBox(paper, sheet.frame);
  const builder = new PageBuilder(paper.width, paper.height);
  const warnings: Problem[] = [];
  const views = sized.map((item) => {
    const placed = placeOnPaper(item, drawingArea(frame, sheet, project), sheet);
    const upright = windowToPaper(item.window, item.mmPerUnit, placed.scale, placed.box.xmin, placed.box.ymin);
    const map = compose(upright, turned(item.view, item.window));
    const hidden = new Set(item.view.layersOff.map((name) => name.toLowerCase()));
    const { drawing } = item;
    const notes = placeView(builder, fonts, drawing, item.space.entities, map, clipOf(item, placed.box), hidden, {
      ink: inkOf(item.view),
    });
    warnings.push(...warningsOf(notes, drawing.name, sheet));
    return placed;
  });
  for (const view of views) drawLabel(builder, fonts, view);
  const notes = drawNotes(builder, fonts, sheet.notes ?? []);
  const blanks = drawBlock(builder, input, frame, { paper, views }, warnings);
  if (sheet.frame !== 'none') {
    drawFrame(builder, frame);
    drawFrameMarks(builder, fonts, paper, frame, sheet.marks ?? []);
  }
  return { page: builder.build(), paper, views, notes, blanks, warnings };
}

/** Draws the title block, if there is one; returns its blank cells. */
function drawBlock(
  builder: PageBuilder,
  { sheet, project, fonts, source }: ComposeInput,
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
  const facts: TitleFacts = { project, sheet, paper, scales: views.map(({ scale }) => scale), imperial };
  const rotation = views[0]?.view.rotation ?? 0;
  drawTitleBlock(builder, fonts, frame, template, { ...facts, rotation }, (id, box) => {
    const found = source(id);
    if (found) return drawFitted(builder, fonts, found.drawing, box);
    const sentence = `The title block shows the drawing "${id}", which is not there; its cell stays empty.`;
    warnings.push({ code: 'sheet.title-drawing', sentence, place: { sheet: sheet.number } });
  });
  const block = blockBox(template, frame);
  return blankCells(facts).map(({ cell, caption }) => ({ caption, box: cellBox(cell, block) }));
}

/** All that is visible of a drawing's model, as large as it goes in the middle of a box. */
function drawFitted(builder: PageBuilder, fonts: FontSet, drawing: Drawing, box: Box): void {
  const entities = drawing.spaces[0]?.entities ?? [];
  const window = visibleExtents(drawing, entities, fonts, new Set());
  if (!window || !(width(window) > 0 || height(window) > 0)) return;
  const factor = Math.min(width(box) / width(window), height(box) / height(window));
  const x = (box.xmin + box.xmax - width(window) * factor) / 2;
  const y = (box.ymin + box.ymax - height(window) * factor) / 2;
  placeView(builder, fonts, drawing, entities, windowToPaper(window, 1, factor, x, y), box, new Set());
}

/** A layout taken over as a sheet, as its drawing lays it out. */
function composeLayout({ sheet, source, fonts }: ComposeInput, from: NonNullable<Sheet['from']>): ComposedSheet {
  const drawing = source(from.drawing, from.held)?.drawing;
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
  const placed = placeLayout(builder, fonts, drawing, space, space.plot);
  const warnings = placed.notes.flatMap((notes) => warningsOf(notes, drawing.name, sheet));
  if (placed.viewports.some(({ outlineMissing }) => outlineMissing)) {
    const sentence = 'A viewport is cut by an outline that is not in its layout; it is shown within its box.';
    warnings.push({ code: 'sheet.viewport-outline', sentence, place: { file: drawing.name, sheet: sheet.number } });
  }
  const notes = drawNotes(builder, fonts, sheet.notes ?? []);
  return { page: builder.build(), paper, views: [], notes, blanks: [], warnings };
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
export function choosePaper(choice: PaperChoice, sheet: Pick<Sheet, 'number'>): PaperSize {
  if ('size' in choice) return { width: choice.size[0], height: choice.size[1] };
  const paper = paperOf(choice.name, choice.orientation);
  if (!paper) {
    const names = NAMED_SIZES.map((size) => size.name).join(', ');
    throw refuse(
      'sheet.paper',
      `There is no paper called "${choice.name}"; use one of ${names}, or a size in mm.`,
      sheet,
    );
  }
  return paper;
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
  const window =
    view.window === 'extents'
      ? turnedExtents(view, visibleExtents(found.drawing, space.entities, fonts, hidden))
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
  return { view: item.view, scale, box: { xmin: x, ymin: y, xmax: x + size.width, ymax: y + size.height } };
}

/** How large a view may be, mm, to be fitted to a paper: inside the frame, above the title block, with space around. */
export function roomForViews(
  paper: PaperSize,
  sheet: Pick<Sheet, 'frame' | 'titleBlock'>,
  project: Pick<ProjectFacts, 'titleBlocks'>,
): PaperSize {
  return roomIn(areaForViews(paper, sheet, project));
}

/** Where views go on a paper, mm: inside the frame, beside the title block. */
export function areaForViews(
  paper: PaperSize,
  sheet: Pick<Sheet, 'frame' | 'titleBlock'>,
  project: Pick<ProjectFacts, 'titleBlocks'>,
): Box {
  return drawingArea(frameBox(paper, sheet.frame), sheet, project);
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
    const area = drawingArea(frameBox(paper, sheet.frame), sheet, project);
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
  builder.stroke(boxPath(frame), builder.layer('', 'Frame'), builder.pen(FRAME_LINE_MM, INK, [], false));
}

/** Title and scale of a view under its lower left corner, with a rule between. */
function drawLabel(builder: PageBuilder, fonts: FontSet, { view, scale, box }: PlacedView): void {
  if (!view.label) return;
  const layer = builder.layer('', 'View labels');
  const pen = builder.pen(0, INK);
  const write = (text: string, size: number, y: number): number => {
    const lettering = {
      lines: [text],
      font: 'sans',
      height: size,
      widthFactor: 1,
      horizontal: 'left',
      vertical: 'baseline',
      lineSpacing: 1,
    } as const;
    let right = box.xmin;
    for (const placed of placeLettering(fonts, lettering, translation(box.xmin, y))) {
      builder.text(placed.text, placed.box, layer, pen);
      right = Math.max(right, placed.box.xmax);
    }
    return right;
  };
  const baseline = box.ymin - LABEL_DROP_MM;
  const right = write(view.label, LABEL_HEIGHT_MM, baseline);
  write(
    formatScale(scale, isImperial(view.scale) ? 'imperial' : 'metric'),
    LABEL_SCALE_MM,
    baseline - 2.2 - LABEL_SCALE_MM - 1.5,
  );
  const path = linePath([box.xmin, baseline - 2.2], [Math.max(right, box.xmin + 60), baseline - 2.2]);
  builder.stroke(path, layer, builder.pen(0.35, INK, [], false));
}

function warningsOf(notes: ViewNotes, file: string, sheet: Sheet): Problem[] {
  const place = { file, sheet: sheet.number };
  const warnings: Problem[] = [];
  if (notes.missing.size > 0) {
    const sentence = `No shipped typeface has ${[...notes.missing].join(' ')}; an empty box stands for it.`;
    warnings.push({ code: 'sheet.glyphs', sentence, place });
  }
  if (notes.dense.size > 0) {
    const sentence = `Hatch lines on ${[...notes.dense].join(', ')} stand too close to print at this scale; a tint is shown instead.`;
    warnings.push({ code: 'sheet.dense-hatch', sentence, place });
  }
  for (const [why, blocks] of notes.stops) {
    const names = [...blocks].slice(0, 5).join(', ');
    const sentence = {
      cycle: `Block ${names} contains itself; the inner reference was left out.`,
      'too-many': `Block references multiply beyond five million entities (${names}); the rest was left out.`,
      'missing-block': `The drawing refers to a block it does not hold (${names}); the reference was left out.`,
    }[why];
    warnings.push({ code: `sheet.${why}`, sentence, place });
  }
  return warnings;
}

function refuse(code: string, sentence: string, sheet: Pick<Sheet, 'number'>): ProblemError {
  return new ProblemError({ code, sentence, place: { sheet: sheet.number } });
}
