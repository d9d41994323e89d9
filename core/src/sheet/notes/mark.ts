import type { Box } from '../../geometry/box';
import { circlePath, linePath } from '../../geometry/outline';
import { drawLeader, writeAt, type NotePen } from './pen';
import { NOTE_WEIGHT_MM, type Note } from './model';

const INK = 0x000000;
const PAPER = 0xffffff;
/** Ring of a mark and the lettering in it (common practice), mm. */
const [RING_MM, VIEW_MM, SHEET_MM] = [7, 3.5, 2.5];
/** In place of what was removed. */
const GONE = '?';

/**
 * A ring with the number of what a mark refers to: of a view above a line, of its sheet below. Both follow what they
 * refer to.
 */
export function drawMark(pen: NotePen, { at, to, refers, weight = NOTE_WEIGHT_MM }: Note): Box {
  const { builder, layer } = pen;
  const [x, y] = at;
  const words = (refers && pen.words(refers)) ?? { sheet: GONE, view: '' };
  const ink = builder.pen(weight, INK);
  if (to) {
    const far = Math.hypot(to[0] - x, to[1] - y);
    const part = far > RING_MM ? RING_MM / far : 0;
    if (part > 0) drawLeader(pen, [x + (to[0] - x) * part, y + (to[1] - y) * part], to, weight);
  }
  builder.fill(circlePath(at, RING_MM), layer, builder.pen(0, PAPER));
  builder.stroke(circlePath(at, RING_MM), layer, ink);
  const room = { widthFactor: Math.min(1, 7 / Math.max(1, words.sheet.length)) };
  if (words.view === '')
    writeAt(pen, words.sheet, { ...room, height: SHEET_MM, font: 'condensed' }, [x, y - SHEET_MM / 2]);
  else {
    builder.stroke(linePath([x - RING_MM, y], [x + RING_MM, y]), layer, ink);
    writeAt(pen, words.view, { height: VIEW_MM }, [x, y + 1.4]);
    writeAt(pen, words.sheet, { ...room, height: SHEET_MM, font: 'condensed' }, [x, y - SHEET_MM - 1.3]);
  }
  return { xmin: x - RING_MM, ymin: y - RING_MM, xmax: x + RING_MM, ymax: y + RING_MM };
}
