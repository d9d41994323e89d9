import { multiply, rotation, translation, type Affine } from '../geometry/affine';
import type { PageBuilder } from '../page/builder';
import { isToScale, resizingInWords, type Resizing } from '../page/resize';
import { describePaper, type PaperSize } from '../paper/sizes';
import type { FontSet } from '../text/layout';
import { placeLettering, type Lettering } from './lettering';

/** A text printed over a page by its package. */
export interface PrintedStamp {
  text: string;
  /** Along the upper or lower edge, or from corner to corner as a tint. */
  at: 'top' | 'bottom' | 'middle';
  /** Height of capitals, mm. */
  size: number;
  /** 0xRRGGBB. */
  colour: number;
  /** True where the drawing covers it; else it lies over all. */
  under?: true;
}

/** Height of the note on pages that go on another paper, mm. */
const SAID_MM = 3.5;
/** Space left to the edge of the paper, mm, and how far what is below shows through in the middle, per cent. */
const EDGE_MM = 4;
const TINT = 25;

/** The stamps of a page; one that is printed larger or smaller has a note of that at its lower edge, in letters of the usual size there. */
export function stampsOn(
  paper: PaperSize,
  resizing: Resizing | undefined,
  stamps: readonly PrintedStamp[] = [],
): readonly PrintedStamp[] {
  if (!resizing || isToScale(resizing.factor)) return stamps;
  const text = resizingInWords(resizing.factor, describePaper(paper), describePaper(resizing.paper));
  return [...stamps, { text, at: 'bottom', size: SAID_MM / resizing.factor, colour: 0 }];
}

/** Prints the stamps that lie under the drawing, before it, or those over all, after it; on a layer of their own. */
export function drawStamps(
  builder: PageBuilder,
  fonts: FontSet,
  { width, height }: PaperSize,
  stamps: readonly PrintedStamp[],
  where: 'under' | 'over',
): void {
  for (const { text, at, size, colour, under } of stamps) {
    if ((where === 'under') !== (under === true)) continue;
    const places: Readonly<Record<PrintedStamp['at'], Affine>> = {
      top: translation(width / 2, height - EDGE_MM - size),
      bottom: translation(width / 2, EDGE_MM),
      middle: multiply(translation(width / 2, height / 2), rotation(Math.atan2(height, width))),
    };
    const lettering: Lettering = {
      ...{ lines: [text], font: 'condensed', height: size, widthFactor: 1, lineSpacing: 1 },
      horizontal: 'centre',
      vertical: at === 'middle' ? 'middle' : 'baseline',
    };
    const pen = builder.pen(0, colour, [], true, at === 'middle' ? TINT : 100);
    for (const placed of placeLettering(fonts, lettering, places[at])) {
      builder.text(placed.text, placed.box, builder.layer('', 'Stamps'), pen);
    }
  }
}
