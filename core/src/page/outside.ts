import { union, type Box } from '../geometry/box';
import type { PaperSize } from '../paper/sizes';
import { maskTest } from './groups';
import { markBoxes, markOrder } from './mark-boxes';
import { UNITS_PER_MM, type ClipShape, type Page } from './page';

/** What lies beyond an area of a page: how many marks, and where the first of them are, mm. */
export interface Outside {
  count: number;
  boxes: Box[];
}

const MAX_BOXES = 200;
/** Less than this beyond the edge is not seen, mm. */
const TOLERANCE_MM = 0.05;

/** Marks that reach beyond an area (mm), as far as their clips let them show; those on the named layers are left out. */
export function marksOutside(page: Page, area: Box, without: readonly string[] = []): Outside {
  const found: Outside = { count: 0, boxes: [] };
  forEachShown(page, without, (box) => {
    if (!within(box, area) && found.count++ < MAX_BOXES) found.boxes.push(box);
  });
  return found;
}

/** The box around all marks of a page, mm, counted in the same way; undefined where there are none. */
export function boxOfMarks(page: Page, without: readonly string[] = []): Box | undefined {
  const boxes: Box[] = [];
  forEachShown(page, without, (box) => {
    if (boxes[0]) union(boxes[0], box);
    else boxes.push({ ...box });
  });
  return boxes[0];
}

function forEachShown(page: Page, without: readonly string[], take: (box: Box) => void): void {
  const boxes = markBoxes(page, markOrder(page));
  const skipped = page.layers.map(({ source, name }) => source === '' && without.includes(name));
  const isOfMask = maskTest(page);
  const clips = page.clips.map(boxOfClip);
  for (let mark = 0; mark < page.markCount; mark++) {
    if (skipped[page.layer[mark]!] || isOfMask(mark)) continue;
    const clip = page.clip[mark]! > 0 ? clips[page.clip[mark]! - 1]! : undefined;
    const side = (i: number, limit: (a: number, b: number) => number): number => {
      const own = boxes[4 * mark + i]! / UNITS_PER_MM;
      return clip ? limit(own, clip[i]!) : own;
    };
    const box = {
      xmin: side(0, Math.max),
      ymin: side(1, Math.max),
      xmax: side(2, Math.min),
      ymax: side(3, Math.min),
    };
    if (box.xmin <= box.xmax && box.ymin <= box.ymax) take(box);
  }
}

/** How far a box comes nearer than a margin to the edges of an area that begins at 0 0, mm; 0 where it does not. */
export function withinMargin(box: Box, { width, height }: PaperSize, margin: number): number {
  const nearest = Math.min(box.xmin, box.ymin, width - box.xmax, height - box.ymax);
  return nearest < margin - TOLERANCE_MM ? margin - nearest : 0;
}

function within(box: Box, area: Box): boolean {
  return (
    box.xmin >= area.xmin - TOLERANCE_MM &&
    box.ymin >= area.ymin - TOLERANCE_MM &&
    box.xmax <= area.xmax + TOLERANCE_MM &&
    box.ymax <= area.ymax + TOLERANCE_MM
  );
}

/** xmin, ymin, xmax, ymax in mm of what all areas of a clip leave. */
function boxOfClip(shapes: readonly ClipShape[]): number[] {
  const left = [-Infinity, -Infinity, Infinity, Infinity];
  for (const shape of shapes) {
    const xs = shape.flatMap((loop) => loop.filter((_, i) => i % 2 === 0));
    const ys = shape.flatMap((loop) => loop.filter((_, i) => i % 2 === 1));
    left[0] = Math.max(left[0]!, Math.min(...xs) / UNITS_PER_MM);
    left[1] = Math.max(left[1]!, Math.min(...ys) / UNITS_PER_MM);
    left[2] = Math.min(left[2]!, Math.max(...xs) / UNITS_PER_MM);
    left[3] = Math.min(left[3]!, Math.max(...ys) / UNITS_PER_MM);
  }
  return left;
}
