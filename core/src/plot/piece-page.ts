import type { Affine } from '../geometry/affine';
import { boxPath } from '../geometry/outline';
import { PageBuilder } from '../page/builder';
import type { Page } from '../page/page';
import type { PaperSize } from '../paper/sizes';
import type { NestedPage } from './nest';
import type { PlotPiece } from './plot-plan';

/** A page of a PDF that is printed, with its size, mm. */
export interface PlotSource extends PaperSize {
  /** Which file it is in. */
  file: string;
  /** Counted from 1. */
  page: number;
}

/** Lines to cut along: thin and grey, so that what is left of them is hardly seen. */
const [CUT_WEIGHT_MM, CUT_GREY] = [0.13, 0x80_80_80];

/** A piece of paper as a Page: the pages on it at true size, with lines to cut along where they are wanted. */
export function piecePage(piece: PlotPiece, sources: readonly PlotSource[], cutLines: boolean): Page {
  const builder = new PageBuilder(piece.width, piece.length);
  const layer = builder.layer('', 'Pages');
  for (const placed of piece.pages) {
    const { file, page } = sources[placed.page]!;
    const picture = { kind: 'pdf', drawing: file, index: page, page } as const;
    builder.picture(picture, placeOn(placed, sources[placed.page]!), layer);
  }
  if (!cutLines) return builder.build();
  const [cuts, pen] = [builder.layer('', 'Cutting lines'), builder.pen(CUT_WEIGHT_MM, CUT_GREY)];
  for (const { page, x, y, turned } of piece.pages) {
    const { width, height } = sources[page]!;
    const [across, along] = turned ? [height, width] : [width, height];
    builder.stroke(boxPath({ xmin: x, ymin: y, xmax: x + across, ymax: y + along }), cuts, pen);
  }
  return builder.build();
}

/** Maps the unit square of a page to where it lies, mm. */
function placeOn({ x, y, turned }: NestedPage, { width, height }: PaperSize): Affine {
  return turned
    ? { a: 0, b: width, c: -height, d: 0, e: x + height, f: y }
    : { a: width, b: 0, c: 0, d: height, e: x, f: y };
}
