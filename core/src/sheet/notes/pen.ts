import { translation } from '../../geometry/affine';
import type { Box } from '../../geometry/box';
import { linePath, polygonPath } from '../../geometry/outline';
import type { PageBuilder } from '../../page/builder';
import type { FontSet } from '../../text/layout';
import type { MarkWords } from '../context';
import { placeLettering, type Lettering } from '../lettering';
import { NOTE_WEIGHT_MM, type Note, type NoteStyle } from './model';

const INK = 0x000000;
/** Arrow of a leader (common practice), mm. */
const ARROW_MM = 3;

/** What notes are drawn with. */
export interface NotePen {
  builder: PageBuilder;
  fonts: FontSet;
  layer: number;
  styles: readonly NoteStyle[];
  /** What a mark shows; undefined where what it refers to is not there. */
  words(refers: NonNullable<Note['refers']>): MarkWords | undefined;
  /** Draws a drawing, by its id, into a box. */
  drawn(drawing: string, box: Box): void;
}

/** Texts hang from their upper left corner. */
export const TOP_LEFT_LETTERING: Omit<Lettering, 'lines' | 'font' | 'height'> = {
  widthFactor: 1,
  horizontal: 'left',
  vertical: 'top',
  lineSpacing: 1,
};

/** A line with an arrow at its end. */
export function drawLeader(
  { builder, layer }: Pick<NotePen, 'builder' | 'layer'>,
  from: [x: number, y: number],
  to: [x: number, y: number],
  weight = NOTE_WEIGHT_MM,
): void {
  builder.stroke(linePath(from, to), layer, builder.pen(weight, INK));
  const length = Math.hypot(to[0] - from[0], to[1] - from[1]);
  if (length < ARROW_MM) return;
  const [ux, uy] = [(from[0] - to[0]) / length, (from[1] - to[1]) / length];
  const half = ARROW_MM / 6;
  const [bx, by] = [to[0] + ux * ARROW_MM, to[1] + uy * ARROW_MM];
  const arrow = polygonPath([to, [bx - uy * half, by + ux * half], [bx + uy * half, by - ux * half]]);
  builder.fill(arrow, layer, builder.pen(0, INK));
}

/** A line of text about a point on its baseline. */
export function writeAt(
  { builder, fonts, layer }: Pick<NotePen, 'builder' | 'fonts' | 'layer'>,
  text: string,
  look: Partial<Lettering> & Pick<Lettering, 'height'>,
  at: [x: number, y: number],
): void {
  const lettering: Lettering = {
    ...TOP_LEFT_LETTERING,
    font: 'sans',
    horizontal: 'centre',
    vertical: 'baseline',
    ...look,
    lines: [text],
  };
  for (const placed of placeLettering(fonts, lettering, translation(...at))) {
    builder.text(placed.text, placed.box, layer, builder.pen(0, INK));
  }
}
