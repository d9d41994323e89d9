import { height, width, type Box } from '../geometry/box';
import { parseScale, type Scale } from '../measure/scale';
import type { View } from './model';

/** Places on the paper are kept to the hundredth of a millimetre. */
const PLACES_PER_MM = 100;

/** A view with its lower left corner at a point of the paper, mm. */
export function movedTo(view: View, x: number, y: number): View {
  const place = (value: number): number => Math.round(value * PLACES_PER_MM) / PLACES_PER_MM;
  return { ...view, at: [place(x), place(y)] };
}

/** Where a view lies on the paper, mm, and at which scale. */
export interface ViewPlacement {
  scale: Scale;
  box: Box;
}

/**
 * Where a view will lie, from where it lay when it was composed last: its place and scale may have been changed since. A
 * centred one keeps its middle. What only composing can decide (how large a fitted view comes out) stays as it was.
 */
export function predictPlacing(view: View, composed: ViewPlacement): ViewPlacement {
  const { box } = composed;
  const scale = parseScale(view.scale) ?? composed.scale;
  const [w, h] = [width(box), height(box)].map((side) => (side * scale) / composed.scale) as [number, number];
  const [x, y] = view.at === 'centre' ? [(box.xmin + box.xmax - w) / 2, (box.ymin + box.ymax - h) / 2] : view.at;
  return { scale, box: { xmin: x, ymin: y, xmax: x + w, ymax: y + h } };
}

/** A view at another scale, as typed, its middle staying where it is on the paper. */
export function rescaled(view: View, { box, scale }: ViewPlacement, typed: string): View {
  const wanted = parseScale(typed);
  // How large a fitted view comes out is known only once it is composed: it keeps its place or its centring.
  if (wanted === undefined || view.at === 'centre') return { ...view, scale: typed };
  const factor = wanted / scale;
  const x = (box.xmin + box.xmax - width(box) * factor) / 2;
  const y = (box.ymin + box.ymax - height(box) * factor) / 2;
  return movedTo({ ...view, scale: typed }, x, y);
}

/** How far to move a box, mm, and the lines it is then aligned with; absent where nothing is within reach. */
export interface Snap {
  dx: number;
  dy: number;
  x?: number;
  y?: number;
}

/** Moves a box so that its edges or middle align with those of others, where one is within reach. */
export function snapped(box: Box, others: readonly Box[], reach: number): Snap {
  const along = (low: 'xmin' | 'ymin', high: 'xmax' | 'ymax'): { by: number; line?: number } => {
    const lines = (b: Box): number[] => [b[low], (b[low] + b[high]) / 2, b[high]];
    let best: { by: number; line?: number } = { by: 0 };
    for (const target of others.flatMap(lines)) {
      for (const own of lines(box)) {
        const by = target - own;
        const nearer = best.line === undefined || Math.abs(by) < Math.abs(best.by);
        if (Math.abs(by) <= reach && nearer) best = { by, line: target };
      }
    }
    return best;
  };
  const [x, y] = [along('xmin', 'xmax'), along('ymin', 'ymax')];
  return {
    dx: x.by,
    dy: y.by,
    ...(x.line !== undefined && { x: x.line }),
    ...(y.line !== undefined && { y: y.line }),
  };
}
