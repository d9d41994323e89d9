import { apply, multiply, rotation, translation, type Affine } from '../../geometry/affine';
import { height, width, type Box } from '../../geometry/box';
import { circlePath, polygonPath } from '../../geometry/outline';
import type { Path } from '../../geometry/path';
import type { Scale } from '../../measure/scale';
import { MM_PER_UNIT } from '../../measure/units';
import { PADDING_MM, type TitlePen } from './pen';

const INK = 0x000000;
const LETTER_MM = 2.5;
const PARTS = 4;
const BAR_MM = 2;

/** An arrow to the north, `degrees` counter-clockwise from upwards. */
export function drawNorth(pen: TitlePen, box: Box, degrees: number): void {
  const size = Math.min(width(box), height(box)) - 2 * PADDING_MM;
  if (!(size > 4)) return;
  const r = size / 2;
  const middle = translation((box.xmin + box.xmax) / 2, (box.ymin + box.ymax) / 2);
  const map = multiply(middle, rotation((degrees * Math.PI) / 180));
  const shape = (points: readonly (readonly [number, number])[]): Path => polygon(map, points);
  const { builder, layer } = pen;
  // A needle, its eastern half filled, through a ring; the letter is upright wherever it points.
  builder.fill(
    shape([
      [0, r * 0.72],
      [r * 0.22, -r * 0.62],
      [0, -r * 0.42],
    ]),
    layer,
    builder.pen(0, INK),
  );
  builder.stroke(
    shape([
      [0, r * 0.72],
      [r * 0.22, -r * 0.62],
      [0, -r * 0.42],
      [-r * 0.22, -r * 0.62],
    ]),
    layer,
    builder.pen(0.25, INK),
  );
  builder.stroke(circlePath(apply(map, 0, 0), r / 2), layer, builder.pen(0.18, INK));
  const [x, y] = apply(map, 0, r * 0.88);
  pen.write('N', { size: LETTER_MM, align: 'centre' }, { x: x - LETTER_MM, y: y - LETTER_MM / 2, room: 2 * LETTER_MM });
}

/** A bar of round lengths at the one scale of the sheet; nothing where it has several scales or none. */
export function drawScaleBar(pen: TitlePen, box: Box, scales: readonly Scale[], unit: 'm' | 'ft'): void {
  const [scale] = scales;
  if (scale === undefined || scales.some((other) => Math.abs(other - scale) > scale * 1e-9)) return;
  const room = width(box) - 2 * PADDING_MM - 2 * LETTER_MM;
  const mmPerUnit = MM_PER_UNIT[unit] * scale;
  const part = roundBelow(room / mmPerUnit / PARTS);
  if (!(part > 0)) return;
  const [x, y] = [box.xmin + PADDING_MM + LETTER_MM / 2, box.ymin + PADDING_MM];
  const { builder, layer } = pen;
  for (let i = 0; i < PARTS; i++) {
    const from = x + i * part * mmPerUnit;
    const path = polygon(translation(from, y), [
      [0, 0],
      [part * mmPerUnit, 0],
      [part * mmPerUnit, BAR_MM],
      [0, BAR_MM],
    ]);
    if (i % 2 === 0) builder.fill(path, layer, builder.pen(0, INK));
    builder.stroke(path, layer, builder.pen(0.18, INK, [], false));
  }
  for (const i of [0, PARTS / 2, PARTS]) {
    const words = `${Number((i * part).toFixed(3))}${i === PARTS ? ` ${unit}` : ''}`;
    const at = x + i * part * mmPerUnit;
    pen.write(words, { size: 1.8, align: 'centre' }, { x: at - 8, y: y + BAR_MM + 1.2, room: 16 });
  }
}

/** The largest of 1, 2, 2.5 and 5 times a power of ten that is not above a length. */
function roundBelow(length: number): number {
  if (!(length > 0) || !Number.isFinite(length)) return 0;
  const power = 10 ** Math.floor(Math.log10(length));
  const digit = [5, 2.5, 2, 1].find((one) => one * power <= length * (1 + 1e-9)) ?? 1;
  return digit * power;
}

function polygon(map: Affine, points: readonly (readonly [number, number])[]): Path {
  return polygonPath(points.map(([x, y]) => apply(map, x, y)));
}
