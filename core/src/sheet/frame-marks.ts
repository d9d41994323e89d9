import { translation } from '../geometry/affine';
import type { Box } from '../geometry/box';
import { linePath, polygonPath } from '../geometry/outline';
import type { Path } from '../geometry/path';
import { foldLines } from '../paper/folding';
import { CENTRING_INSIDE_MM, gridFields, type FrameMark, type GridField } from '../paper/grid';
import type { PaperSize } from '../paper/sizes';
import type { PageBuilder } from '../page/builder';
import { FRAME_LAYER } from '../page/page';
import type { FontSet } from '../text/layout';
import { placeLettering } from './lettering';

const INK = 0x000000;
/** ISO 5457 (from memory): centring marks, lines of the grid reference and its lettering; trimming marks. mm. */
const CENTRING_LINE = 0.7;
const GRID_LINE = 0.35;
const LETTERING = 3.5;
const BAND = 5;
const [TRIM_LONG, TRIM_SHORT] = [10, 5];
/** Folding marks lie in the margin (common practice), mm. */
const [FOLD_LINE, FOLD_LONG] = [0.25, 5];
/** Up to this paper (A4) only the upper and the right edge are marked. */
const SMALL = { short: 210, long: 297 };

/** Draws the marks around the frame that a sheet asks for. */
export function drawFrameMarks(
  builder: PageBuilder,
  fonts: FontSet,
  paper: PaperSize,
  frame: Box,
  marks: readonly FrameMark[],
): void {
  const layer = builder.layer('', FRAME_LAYER);
  if (marks.includes('grid')) drawGrid(builder, fonts, layer, paper, frame);
  if (marks.includes('centring')) {
    const [x, y] = [paper.width / 2, paper.height / 2];
    const pen = builder.pen(CENTRING_LINE, INK, [], false);
    const reach = CENTRING_INSIDE_MM;
    builder.stroke(linePath([x, 0], [x, frame.ymin + reach]), layer, pen);
    builder.stroke(linePath([x, paper.height], [x, frame.ymax - reach]), layer, pen);
    builder.stroke(linePath([0, y], [frame.xmin + reach, y]), layer, pen);
    builder.stroke(linePath([paper.width, y], [frame.xmax - reach, y]), layer, pen);
  }
  if (marks.includes('folding')) {
    const { across, up } = foldLines(paper);
    const pen = builder.pen(FOLD_LINE, INK, [], false);
    const ends: [number, number, number, number][] = [
      ...across.flatMap((x): [number, number, number, number][] => [
        [x, 0, x, FOLD_LONG],
        [x, paper.height - FOLD_LONG, x, paper.height],
      ]),
      ...up.flatMap((y): [number, number, number, number][] => [
        [0, y, FOLD_LONG, y],
        [paper.width - FOLD_LONG, y, paper.width, y],
      ]),
    ];
    for (const [x0, y0, x1, y1] of ends) builder.stroke(linePath([x0, y0], [x1, y1]), layer, pen);
  }
  if (marks.includes('trimming')) {
    const pen = builder.pen(0, INK);
    for (const [x, right] of [
      [0, 1],
      [paper.width, -1],
    ] as const) {
      for (const [y, up] of [
        [0, 1],
        [paper.height, -1],
      ] as const) {
        builder.fill(corner(x, y, right, up), layer, pen);
      }
    }
  }
}

function drawGrid(builder: PageBuilder, fonts: FontSet, layer: number, paper: PaperSize, frame: Box): void {
  const { across, down } = gridFields(paper, frame);
  const small = Math.min(paper.width, paper.height) <= SMALL.short && Math.max(paper.width, paper.height) <= SMALL.long;
  const pen = builder.pen(GRID_LINE, INK, [], false);
  const ink = builder.pen(0, INK);
  const write = (name: string, x: number, y: number): void => {
    const lettering = {
      lines: [name],
      font: 'sans',
      height: LETTERING,
      widthFactor: 1,
      horizontal: 'centre',
      vertical: 'middle',
      lineSpacing: 1,
    } as const;
    for (const { text, box } of placeLettering(fonts, lettering, translation(x, y)))
      builder.text(text, box, layer, ink);
  };
  /** Where a field ends and the next begins; those of the sides run downwards. */
  const between = (fields: readonly GridField[]): number[] =>
    fields.slice(0, -1).map(({ from, to }) => (fields === down ? from : to));
  for (const out of small ? [1] : [1, -1]) {
    const [y, x] = out > 0 ? [frame.ymax, frame.xmax] : [frame.ymin, frame.xmin];
    for (const at of between(across)) builder.stroke(linePath([at, y], [at, y + out * BAND]), layer, pen);
    for (const at of between(down)) builder.stroke(linePath([x, at], [x + out * BAND, at]), layer, pen);
    for (const { name, from, to } of across) write(name, (from + to) / 2, y + (out * BAND) / 2);
    for (const { name, from, to } of down) write(name, x + (out * BAND) / 2, (from + to) / 2);
  }
}

/** Two overlapping rectangles of 10 × 5 mm in a corner of the paper. */
function corner(x: number, y: number, right: number, up: number): Path {
  return polygonPath([
    [x, y],
    [x + right * TRIM_LONG, y],
    [x + right * TRIM_LONG, y + up * TRIM_SHORT],
    [x + right * TRIM_SHORT, y + up * TRIM_SHORT],
    [x + right * TRIM_SHORT, y + up * TRIM_LONG],
    [x, y + up * TRIM_LONG],
  ]);
}
