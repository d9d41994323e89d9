import { performance } from 'node:perf_hooks';
import {
  type Affine,
  type BlankCell,
  type Box,
  type ComposedSheet,
  type ComposeInput,
  composeSheet,
  type ContentOptions,
  type Drawing,
  formatScale,
  inkBySchedule,
  inkPage,
  isImperial,
  type LengthUnit,
  type LetteringFacts,
  letteringFacts,
  marksOutside,
  type MeasuredArea,
  nameOf,
  type Outcome,
  type Outside,
  packPage,
  packParts,
  type Page,
  type PaperSize,
  type PenSchedule,
  type PictureFacts,
  type PlacedNote,
  type PlacedView,
  printableArea,
  type Problem,
  ProblemError,
  type ProjectFacts,
  type Recipe,
  referencesIn,
  resizedBox,
  resizedPage,
  type Resizing,
  type Sheet,
  type SheetContext,
  type SourceDrawing,
  strokeLettering,
  tileGrid,
  tilePages,
  type Tiling,
  userUnit,
  withReferences,
  writePart,
} from '@folvex/core';
import { loadDrawing, type DrawingFile } from './drawings';
import { embedPictures } from './embed';
import { WholeFile } from './files';
import { shippedFonts } from './fonts';
import { pictureFacts, type PictureWish } from './refit';
import { storeTrouble } from './store-trouble';
import { deflate } from './tools';

/** One sheet to make, with everything it is made from. */
export interface SheetTask {
  project: ProjectFacts;
  sheet: Sheet;
  /** What it shows of the sheets and the package around it. */
  context?: SheetContext;
  recipe: Recipe;
  /** The pens of the recipe; absent: lines print as they are drawn. */
  schedule?: PenSchedule;
  /** Has sheets larger than a paper go on several pages of it. */
  tiling?: Tiling;
  /** The paper that it is printed on, mm; absent: its own. */
  onto?: PaperSize;
  drawings: DrawingFile[];
  /** Files that the drawings may refer to by name; read where they do. */
  referable?: DrawingFile[];
}

/** A sheet to make into a part, and the folder that the part is put into. */
export interface PartTask extends SheetTask {
  folder: string;
}

export interface MadePart {
  /** Where the packed part lies, synced; the caller gives it its place. */
  temporary: string;
  /** SHA-256 of the packed part. */
  hash: string;
  /** What making it took. */
  milliseconds: number;
  warnings: Problem[];
}

export interface MadePage {
  /** Packed page, uninked. */
  page: Uint8Array<ArrayBuffer>;
  paper: { width: number; height: number };
  /** The views on the paper, mm, with their scales as paper over real length. */
  views: { id: string; scale: number; box: Box; toPaper: Affine }[];
  /** The same of the viewports of a layout, where its unit is known. */
  viewports: { scale: number; box: Box }[];
  notes: PlacedNote[];
  /** Required cells of the title block that have no value. */
  blanks: BlankCell[];
  /** What of the paper can be printed on, mm, and what lies beyond it. */
  printable: Box;
  outside: Outside;
  /** Marks that reach over its frame; 0 where it has none. */
  overFrame: number;
  pictures: PictureFacts[];
  lettering: LetteringFacts;
  /** Words in its texts that may be numbers of sheets. */
  names: string[];
  warnings: Problem[];
}

/** A sheet as its recipe prints it, and the drawings that its pictures are in. */
export interface PrintedSheet extends ComposedSheet {
  /** The page inked, on the paper that it is printed on. */
  printed: Page;
  drawings: Drawing[];
}

/** Composes and inks a sheet. Throws a `ProblemError` where a person must mend something. */
export async function printedSheet(task: SheetTask): Promise<PrintedSheet> {
  const everything = task.recipe.layers === 'all';
  const sheet = await composed(task, { everything, ...(task.onto && { onto: task.onto }) });
  return { ...sheet, printed: resized(inkedFor(sheet.page, task), sheet.resizing, task) };
}

/** Composes, inks and writes a sheet into a file; what a person must mend comes back as a problem. */
export function makePart(task: PartTask): Promise<Outcome<MadePart>> {
  return attempt(task, async () => {
    const start = performance.now();
    const sheet = await printedSheet(task);
    const { warnings, drawings, printed: inked } = sheet;
    refuseGiant(inked, task);
    const pictures = await embedPictures(inked, drawings, pictureWish(task.recipe));
    // Layers came with PDF 1.5.
    const layered = task.recipe.layers !== 'none' && task.recipe.version !== '1.4';
    const pages = pagesOf(inked, task);
    // A tile shows parts of views, of which none is measured.
    const measured = pages.length === 1 ? measuredOn(sheet) : [];
    const extras = { pictures, measured, links: task.recipe.links !== 'none', ...lettering(task.recipe) };
    const parts = pages.map((one) => writePart(one, shippedFonts(), layered, deflate, extras));
    const file = new WholeFile(task.folder);
    file.write(packParts(parts));
    const hash = file.sync();
    return { temporary: file.temporary, hash, milliseconds: performance.now() - start, warnings };
  });
}

function resized(page: Page, resizing: Resizing | undefined, { recipe }: SheetTask): Page {
  return resizing ? resizedPage(page, resizing, recipe.leastWeight) : page;
}

/** What of a sheet can be measured, where it lies on the paper that it is printed on. */
function measuredOn({ views, viewports, resizing }: ComposedSheet): MeasuredArea[] {
  const areas = [...views.map(measuredArea), ...viewports.map(measuredViewport)];
  if (!resizing) return areas;
  return areas.map((area) => {
    const [xmin, ymin, xmax, ymax] = area.box;
    const box = resizedBox({ xmin, ymin, xmax, ymax }, resizing);
    const scale = area.scale * resizing.factor;
    const words = formatScale(scale, area.unit === 'ft' ? 'imperial' : 'metric');
    return { ...area, box: [box.xmin, box.ymin, box.xmax, box.ymax], scale, words };
  });
}

/** Sides beyond 14 400 units came to PDF with version 1.6. */
function refuseGiant(page: Page, { recipe, sheet }: SheetTask): void {
  if (recipe.version !== '1.4' || userUnit(page) === 1) return;
  const sentence = `Sheet ${nameOf(sheet)} is longer than PDF 1.4 can say; choose a recipe with a later version.`;
  throw new ProblemError({ code: 'sheet.giant', sentence, place: {} });
}

/** How texts are written; single strokes are lines of the page already. */
function lettering({ text, pictureDpi }: Recipe): ContentOptions {
  return text === 'outlines' || text === 'picture'
    ? { text, ...(pictureDpi !== undefined && { textDpi: pictureDpi }) }
    : {};
}

export function pictureWish({ colour, pictureDpi, pictureQuality, pictureTone }: Recipe): PictureWish {
  return {
    colour,
    ...(pictureTone && { bilevel: true }),
    ...(pictureDpi !== undefined && { dpi: pictureDpi }),
    ...(pictureQuality !== undefined && { quality: pictureQuality }),
  };
}

/** A viewport of a layout as a reader that measures takes it; it has no name of its own. */
function measuredViewport({ scale, box, unit }: ComposedSheet['viewports'][number], at: number): MeasuredArea {
  const imperial = unit === 'in' || unit === 'ft';
  const corners: MeasuredArea['box'] = [box.xmin, box.ymin, box.xmax, box.ymax];
  const words = formatScale(scale, imperial ? 'imperial' : 'metric');
  return { name: `Viewport ${at + 1}`, box: corners, scale, words, unit: imperial ? 'ft' : 'm' };
}

/** A view as a reader that measures takes it. */
function measuredArea({ view, scale, box }: PlacedView): MeasuredArea {
  const imperial = isImperial(view.scale);
  const words = formatScale(scale, imperial ? 'imperial' : 'metric');
  const corners: MeasuredArea['box'] = [box.xmin, box.ymin, box.xmax, box.ymax];
  return { name: view.label || view.id, box: corners, scale, words, unit: imperial ? 'ft' : 'm' };
}

/** A page as a recipe prints it: by its pens, then in its colours. */
function inkedFor(page: Page, { recipe, schedule }: SheetTask): Page {
  const { leastWeight, weightFactor } = recipe;
  const limits = { ...(leastWeight && { least: leastWeight }), ...(weightFactor && { factor: weightFactor }) };
  const lettered = recipe.text === 'strokes' ? strokeLettering(page, shippedFonts()) : page;
  return inkPage(inkBySchedule(lettered, schedule, limits), recipe.colour);
}

/** The pages that a sheet goes on. */
function pagesOf(page: Page, { tiling, sheet }: SheetTask): Page[] {
  const grid = tiling && tileGrid({ width: page.widthMm, height: page.heightMm }, tiling);
  return grid ? tilePages(page, grid, tiling.overlap, shippedFonts(), sheet.number) : [page];
}

/** Composes a sheet for the screen. */
export function makePage(task: SheetTask): Promise<Outcome<MadePage>> {
  return attempt(task, async () => {
    const { page, paper, frame, views, viewports, notes, blanks, warnings, drawings } = await composed(task);
    const placed = views.map(({ view, scale, box, toPaper }) => ({ id: view.id, scale, box, toPaper }));
    const printable = printableArea(paper, task.project);
    // Marks of the frame lie at the very edge on purpose.
    const outside = marksOutside(page, printable, ['Frame']);
    return {
      page: packPage(page),
      paper,
      views: placed,
      viewports: viewports.map(({ scale, box }) => ({ scale, box })),
      notes,
      blanks,
      printable,
      outside,
      // What stamps say along the edge of the paper is meant to lie there.
      overFrame: frame ? marksOutside(page, frame, ['Frame', 'Stamps']).count : 0,
      pictures: pictureFacts(page, drawings),
      lettering: letteringFacts(page, shippedFonts()),
      names: sheetNamesIn(page),
      warnings,
    };
  });
}

function sheetNamesIn(page: Page): string[] {
  const sheets = referencesIn(page, shippedFonts()).filter(({ kind }) => kind === 'sheet');
  return [...new Set(sheets.map(({ names }) => names))];
}

/** Stands in no id that anybody would write. */
const HELD = '\u001f';

/** Id by which a drawing file is listed: that of a held version carries its number. */
export function sourceId(drawing: string, held?: number): string {
  return held === undefined ? drawing : `${drawing}${HELD}${held}`;
}

/** True for the id of a held version. */
export function isHeld(id: string): boolean {
  return id.includes(HELD);
}

/** Composes; what reading the drawings could not show counts among the warnings. */
async function composed(
  task: SheetTask,
  how: Pick<ComposeInput, 'everything' | 'onto'> = {},
): Promise<ComposedSheet & { drawings: Drawing[] }> {
  const sources = new Map<string, SourceDrawing>();
  const warnings: Problem[] = [];
  const loaded: Drawing[] = [];
  /** The latest versions by name (lower case): what refers to a file by name means those. */
  const named = new Map<string, Drawing>();
  const waiting = [...task.drawings];
  for (let file = waiting.shift(); file; file = waiting.shift()) {
    const read = await loadDrawing(file);
    if (!read.ok) throw new ProblemError(read.problem);
    warnings.push(...read.warnings);
    const { drawing } = read;
    sources.set(file.id, { drawing, unit: (file.unit as LengthUnit | undefined) ?? drawing.unit });
    loaded.push(drawing);
    if (!isHeld(file.id)) named.set(drawing.name.toLowerCase(), drawing);
    for (const name of drawing.references.map((reference) => reference.toLowerCase())) {
      const other = task.referable?.find((one) => one.name.toLowerCase() === name);
      if (other && !sources.has(other.id) && !waiting.includes(other)) waiting.push(other);
    }
  }
  for (const source of sources.values()) {
    source.drawing = withReferences(source.drawing, (name) => named.get(name.toLowerCase()));
  }
  const { project, sheet, context } = task;
  const made = composeSheet({
    project,
    sheet,
    ...(context && { context }),
    ...how,
    fonts: shippedFonts(),
    source: (id, held) => sources.get(sourceId(id, held)),
  });
  return { ...made, warnings: [...warnings, ...made.warnings], drawings: loaded };
}

/** What comes of work on a sheet; what a person must mend, or what went wrong, comes back as a problem. */
export async function attempt<T>(task: SheetTask, make: () => Promise<T>): Promise<Outcome<T>> {
  const place = { sheet: nameOf(task.sheet) };
  try {
    return { ok: true, value: await make() };
  } catch (error) {
    if (error instanceof ProblemError) {
      return { ok: false, problem: { ...error.problem, place: { ...error.problem.place, ...place } } };
    }
    const trouble = storeTrouble(error);
    if (trouble) return { ok: false, problem: { ...trouble, place } };
    const reason = error instanceof Error ? error.message : String(error);
    const sentence = `Sheet ${place.sheet} could not be made (${reason}); try again, and report it if it stays so.`;
    return { ok: false, problem: { code: 'sheet.failed', sentence, place } };
  }
}
