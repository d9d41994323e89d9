import type { Box } from '../geometry/box';
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
  const boxes = markBoxes(page, markOrder(page));
  const skipped = page.layers.map(({ source, name }) => source === '' && without.includes(name));
  const isOfMask = maskTest(page);
  const clips = page.clips.map(boxOfClip);
  const found: Outside = { count: 0, boxes: [] };
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
    if (box.xmin > box.xmax || box.ymin > box.ymax || within(box, area)) continue;
    if (found.count++ < MAX_BOXES) found.boxes.push(box);
  }
  return found;
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
