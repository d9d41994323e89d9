import { mappedGradient } from '../drawing/gradient';
import { multiply, scaling, translation } from '../geometry/affine';
import type { Box } from '../geometry/box';
import type { Margins } from '../paper/frame';
import type { PaperSize } from '../paper/sizes';
import { UNITS_PER_MM, type ClipShape, type Page } from './page';

/** How a page goes on another paper: enlarged or reduced by `factor`, its lower left corner moved by `dx`, `dy`, mm. */
export interface Resizing {
  factor: number;
  dx: number;
  dy: number;
  /** The paper, lying as the page does, mm. */
  paper: PaperSize;
}

/** Where on a paper a page is put. */
export type PaperCorner = 'lower-left' | 'lower-right' | 'upper-left' | 'upper-right';

/** How a page is put on paper, where it is not simply printed on its own. */
export interface PaperPlacement {
  /** The paper, mm; absent: its own. */
  paper?: PaperSize;
  /** What cannot be printed on at its edges, mm, where the page is to keep clear of it; absent: all of it counts. */
  margins?: Margins;
  /** How large, per cent; absent: as large as fits the paper. */
  percent?: number;
  /** The corner that it lies in; absent: it lies in the middle. */
  corner?: PaperCorner;
  /** How far it is moved from there, mm: from a corner towards the middle, else to the right and upwards. */
  x?: number;
  y?: number;
}

/** Papers that differ by less need no resizing, mm. */
const SAME_MM = 0.5;
/** Factors that differ by less are one. */
const SAME_FACTOR = 1e-6;

/** How a page comes to lie on a paper, which lies as the page does; undefined where it is printed as it is. */
export function resizingOnto(page: PaperSize, placement: PaperPlacement): Resizing | undefined {
  const { paper: onto = page, margins, percent, corner, x = 0, y = 0 } = placement;
  const turned = page.width >= page.height !== onto.width >= onto.height;
  const given = turned ? { width: onto.height, height: onto.width } : onto;
  const same = Math.abs(given.width - page.width) < SAME_MM && Math.abs(given.height - page.height) < SAME_MM;
  const paper = same ? page : given;
  const [left, bottom, across, up] = areaWithin(paper, margins);
  const fitting = same && !margins ? 1 : Math.min(across / page.width, up / page.height);
  const factor = percent === undefined ? fitting : percent / 100;
  const [freeX, freeY] = [across - page.width * factor, up - page.height * factor];
  const dx = left + (corner ? (corner.endsWith('right') ? freeX - x : x) : freeX / 2 + x);
  const dy = bottom + (corner ? (corner.startsWith('upper') ? freeY - y : y) : freeY / 2 + y);
  if (same && isToScale(factor) && Math.abs(dx) < SAME_FACTOR && Math.abs(dy) < SAME_FACTOR) return undefined;
  return { factor, dx, dy, paper };
}

/** The part of a paper inside margins; all of it where they would leave nothing. */
function areaWithin(
  { width, height }: PaperSize,
  [left, bottom, right, top]: Margins = [0, 0, 0, 0],
): [left: number, bottom: number, width: number, height: number] {
  const [across, up] = [width - left - right, height - bottom - top];
  return across > 0 && up > 0 ? [left, bottom, across, up] : [0, 0, width, height];
}

/** True where scales hold under a factor. */
export function isToScale(factor: number): boolean {
  return Math.abs(factor - 1) < SAME_FACTOR;
}

/** How far a page that is put on a paper reaches beyond it, mm; 0 where all of it is on the paper. */
export function beyondPaper({ width, height }: PaperSize, { factor, dx, dy, paper }: Resizing): number {
  const [right, top] = [dx + width * factor - paper.width, dy + height * factor - paper.height];
  return Math.max(0, -dx, -dy, right, top);
}

/** A page on another paper. Lines get thinner or heavier with it, but no thinner than `least`, mm; those without width stay so. */
export function resizedPage(page: Page, { factor, dx, dy, paper }: Resizing, least = 0): Page {
  const [x0, y0] = [dx * UNITS_PER_MM, dy * UNITS_PER_MM];
  const along = (value: number, i: number): number => Math.round(value * factor + (i % 2 ? y0 : x0));
  const width = (value: number): number => {
    return value === 0 ? 0 : Math.max(1, Math.round(value * factor), Math.round(least * UNITS_PER_MM));
  };
  const map = multiply(translation(x0, y0), scaling(factor));
  const clip = (shape: ClipShape): ClipShape => shape.map((loop) => loop.map(along));
  return {
    ...page,
    widthMm: paper.width,
    heightMm: paper.height,
    pens: page.pens.map((pen) => ({
      ...pen,
      width: width(pen.width),
      dashes: pen.dashes.map((dash) => Math.round(dash * factor)),
      ...(pen.gradient && { gradient: mappedGradient(pen.gradient, map) }),
    })),
    clips: page.clips.map((shapes) => shapes.map(clip)),
    // The size stays and the matrix shrinks: sizes are whole numbers.
    texts: page.texts.map((text) => ({
      ...text,
      a: text.a * factor,
      b: text.b * factor,
      c: text.c * factor,
      d: text.d * factor,
      x: along(text.x, 0),
      y: along(text.y, 1),
    })),
    placed: page.placed.map(({ picture, a, b, c, d, e, f }) => ({
      picture,
      a: a * factor,
      b: b * factor,
      c: c * factor,
      d: d * factor,
      e: e * factor + x0,
      f: f * factor + y0,
    })),
    coords: page.coords.map(along),
    ...(page.blocks && { blocks: page.blocks.map((block) => ({ ...block, map: multiply(map, block.map) })) }),
  };
}

/** Where a box of a page lies on its other paper, mm. */
export function resizedBox({ xmin, ymin, xmax, ymax }: Box, { factor, dx, dy }: Resizing): Box {
  return {
    xmin: xmin * factor + dx,
    ymin: ymin * factor + dy,
    xmax: xmax * factor + dx,
    ymax: ymax * factor + dy,
  };
}

/** The note on a page that is printed on another paper, so that nobody measures on it by its own scale. */
export function resizingInWords(factor: number, from: string, onto: string): string {
  const how = Math.abs(factor - 0.5) < 0.005 ? 'Half scale' : `At ${Math.round(factor * 100)} % of its scale`;
  return `${how}: ${from} printed on ${onto}`;
}
