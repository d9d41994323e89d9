import { translation } from '../geometry/affine';
import type { Box } from '../geometry/box';
import { circlePath, linePath } from '../geometry/outline';
import { formatScale, isImperial, type Scale } from '../measure/scale';
import type { PageBuilder } from '../page/builder';
import type { FontSet } from '../text/layout';
import { placeLettering, type Lettering } from './lettering';
import type { View } from './model';

const INK = 0x000000;
/** Lettering of title and scale, depth of the title below the view, rule under it, ring of the number; mm. */
const [TITLE_MM, SCALE_MM, DROP_MM, RULE_MM, RING_MM] = [5, 2.5, 9, 2.2, 6];

/** Title and scale of a view under its lower left corner, with a rule between; before them its number in a ring. */
export function drawLabel(
  builder: PageBuilder,
  fonts: FontSet,
  { view, scale, box }: { view: View; scale: Scale; box: Box },
): void {
  const { label, number = '' } = view;
  if (!label && !number) return;
  const layer = builder.layer('', 'View labels');
  const write = (text: string, height: number, x: number, y: number, horizontal: Lettering['horizontal']): number => {
    const look = { lines: [text], font: 'sans', height, widthFactor: 1, vertical: 'baseline', lineSpacing: 1 } as const;
    let right = x;
    for (const placed of placeLettering(fonts, { ...look, horizontal }, translation(x, y))) {
      builder.text(placed.text, placed.box, layer, builder.pen(0, INK));
      right = Math.max(right, placed.box.xmax);
    }
    return right;
  };
  const baseline = box.ymin - DROP_MM;
  const rule = baseline - RULE_MM;
  const pen = builder.pen(0.35, INK, [], false);
  let left = box.xmin;
  if (number) {
    const middle: [number, number] = [left + RING_MM, rule];
    builder.stroke(circlePath(middle, RING_MM), layer, pen);
    write(number, number.length > 2 ? TITLE_MM * 0.7 : TITLE_MM, middle[0], rule - TITLE_MM / 2, 'centre');
    left += 2 * RING_MM + 2;
  }
  const right = label ? write(label, TITLE_MM, left, baseline, 'left') : left;
  const words = formatScale(scale, isImperial(view.scale) ? 'imperial' : 'metric');
  write(words, SCALE_MM, left, rule - SCALE_MM - 1.5, 'left');
  const start: [number, number] = [number ? left - 2 : left, rule];
  builder.stroke(linePath(start, [Math.max(right, box.xmin + 60), rule]), layer, pen);
}
