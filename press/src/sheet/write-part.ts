import {
  formatScale,
  isImperial,
  nameOf,
  packParts,
  ProblemError,
  resizedBox,
  tileGrid,
  tilePages,
  userUnit,
  writePart,
  type ComposedSheet,
  type ContentOptions,
  type MeasuredArea,
  type Page,
  type PlacedView,
  type Recipe,
} from '@folvex/core';
import { fontsWith } from '../typefaces/own';
import { deflate } from '../pdf/tools';
import { embedPictures } from '../pictures/embed';
import { pictureSettings } from '../pictures/resample-pictures';
import type { PrintedSheet } from './compose';
import type { SheetTask } from './sheet-task';

/** Writes a sheet's pages as parts of PDF files, packed. Throws a `ProblemError` where PDF cannot hold it. */
export async function writeSheetPart(sheet: PrintedSheet, task: SheetTask): Promise<Uint8Array> {
  const { drawings, printed } = sheet;
  refuseGiant(printed, task);
  const pictures = await embedPictures(printed, drawings, pictureSettings(task.recipe));
  // Layers came with PDF 1.5.
  const layered = task.recipe.layers !== 'none' && task.recipe.version !== '1.4';
  const pages = pagesOf(printed, task);
  // A tile shows parts of views, of which none is measured.
  const measured = pages.length === 1 ? measuredOn(sheet) : [];
  const extras = { pictures, measured, links: task.recipe.links !== 'none', ...lettering(task.recipe) };
  return packParts(pages.map((one) => writePart(one, fontsWith(task.typefaces), layered, deflate, extras)));
}

/** The measurable parts of a sheet, in the coordinates of the paper that it is printed on. */
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

/** PDF has sides beyond 14 400 units since version 1.6. */
function refuseGiant(page: Page, { recipe, sheet }: SheetTask): void {
  if (recipe.version !== '1.4' || userUnit(page) === 1) return;
  const sentence = `Sheet ${nameOf(sheet)} is longer than PDF 1.4 allows; choose a recipe with a later version.`;
  throw new ProblemError({ code: 'sheet.giant', sentence, place: {} });
}

/** How texts are written; single strokes are lines of the page already. */
function lettering({ text, pictureDpi }: Recipe): ContentOptions {
  return text === 'outlines' || text === 'picture'
    ? { text, ...(pictureDpi !== undefined && { textDpi: pictureDpi }) }
    : {};
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

/** The pages that a sheet goes on. */
function pagesOf(page: Page, { tiling, sheet, typefaces }: SheetTask): Page[] {
  const grid = tiling && tileGrid({ width: page.widthMm, height: page.heightMm }, tiling);
  return grid ? tilePages(page, grid, tiling.overlap, fontsWith(typefaces), sheet.number) : [page];
}
