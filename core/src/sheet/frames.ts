import { apply } from '../geometry/affine';
import { POLYLINE_STRIDE, type Drawing } from '../drawing/model';
import { METRIC_SCALES, IMPERIAL_SCALES, formatScale, type Scale } from '../measure/scale';
import { MM_PER_UNIT, type LengthUnit } from '../measure/units';
import { namesOf, type Orientation } from '../paper/sizes';
import { walk } from './walk';

/** A rectangle of a drawing's model, drawing units. */
export interface FoundFrame {
  window: [xmin: number, ymin: number, xmax: number, ymax: number];
  /** Degrees to turn the drawing about the window's middle so that it is upright; absent: it is. */
  rotation?: number;
}

/**
 * How frames are ordered: along rows from the top, down columns from the left, or by the number in each at
 * the same place.
 */
export type FrameOrder = 'rows' | 'columns' | 'text';

/** The paper a frame is drawn for, and the scale at which it fills it. */
export interface FramePaper {
  name: string;
  orientation: Orientation;
  scale: Scale;
  scaleText: string;
}

/** Corners may be off the right angle, and sides off the axes, by this part of the frame's size. */
const SLACK = 0.002;
/** A frame may be off the nominal size by so much on paper, mm. */
const PAPER_SLACK_MM = 1;

/**
 * Closed rectangles of the model by the layer they lie on: four corners, four sides, right angles within a five-hundredth
 * of their size, turned or not. Open ones, crossed ones, filled areas and those with other corners are not frames. A
 * rectangle drawn twice counts once.
 */
export function findFrames(drawing: Drawing): Map<string, FoundFrame[]> {
  const byLayer = new Map<string, FoundFrame[]>();
  const seen = new Set<string>();
  walk(drawing, drawing.spaces[0]!.entities, {
    entity: (entity, looks, map) => {
      const points =
        entity.kind === 'polyline' ? cornersOf(entity.vertices, POLYLINE_STRIDE, entity.closed) : undefined;
      const corners = points?.map(([x, y]) => apply(map, x, y));
      const frame = corners && frameOf(corners);
      if (!frame) return;
      const layer = drawing.layers[looks.layer]?.name ?? '0';
      const key = `${layer} ${frame.window.join(' ')}`;
      if (seen.has(key)) return;
      seen.add(key);
      const onLayer = byLayer.get(layer);
      if (onLayer) onLayer.push(frame);
      else byLayer.set(layer, [frame]);
    },
    stopped: () => undefined,
  });
  return byLayer;
}

/** Frames in reading order. Those that overlap by half their height (or width) form one row (or column). */
export function orderFrames<T extends FoundFrame>(frames: readonly T[], order: 'rows' | 'columns'): T[] {
  const rows = order === 'rows';
  const start = ({ window }: FoundFrame): number => (rows ? -window[3] : window[0]);
  const length = ({ window }: FoundFrame): number => (rows ? window[3] - window[1] : window[2] - window[0]);
  const along = ({ window }: FoundFrame): number => (rows ? window[0] : -window[3]);
  const lines: T[][] = [];
  for (const frame of [...frames].sort((a, b) => start(a) - start(b))) {
    const line = lines.at(-1);
    const first = line?.[0];
    if (line && first && start(frame) < start(first) + Math.min(length(first), length(frame)) / 2) line.push(frame);
    else lines.push([frame]);
  }
  return lines.flatMap((line) => line.sort((a, b) => along(a) - along(b)));
}

/** The named papers that a frame fills at a standard scale, the nearest first. */
export function papersOfFrame({ window }: FoundFrame, unit: LengthUnit): FramePaper[] {
  const [width, height] = [window[2] - window[0], window[3] - window[1]].map((side) => side * MM_PER_UNIT[unit]);
  const imperial = unit === 'in' || unit === 'ft';
  const scales = imperial ? [1, ...IMPERIAL_SCALES] : METRIC_SCALES;
  const found = scales.flatMap((scale) =>
    namesOf({ width: width! * scale, height: height! * scale }, PAPER_SLACK_MM).map(
      ({ name, orientation, differenceMm }) => ({
        name,
        orientation,
        scale,
        scaleText: formatScale(scale, imperial ? 'imperial' : 'metric'),
        // Hundredths of a millimetre: what differs less is the same.
        off: Math.round(100 * Math.max(...differenceMm.map(Math.abs))),
      }),
    ),
  );
  // Two sizes of one series fill a frame at two scales (A1 at 1:50 is A3 at 1:100): the larger paper is meant more often.
  return found
    .sort((a, b) => a.off - b.off || b.scale - a.scale)
    .map(({ name, orientation, scale, scaleText }) => ({ name, orientation, scale, scaleText }));
}

/** Numbers for so many sheets, counting up the last digits of the first: `A-101` → `A-101`, `A-102` … */
export function numbersFrom(first: string, count: number): string[] {
  const parts = /^(.*?)(\d+)(\D*)$/.exec(first.trim());
  if (!parts) return Array.from({ length: count }, (_, i) => `${first.trim()}${i + 1}`);
  const [, before, digits, behind] = parts as unknown as [string, string, string, string];
  return Array.from(
    { length: count },
    (_, i) => before + String(Number(digits) + i).padStart(digits.length, '0') + behind,
  );
}

/** The four corners of a straight-sided closed line; a last point on the first one closes it too. */
function cornersOf(values: Float64Array, stride: number, closed: boolean): [number, number][] | undefined {
  const points: [number, number][] = [];
  for (let i = 0; i < values.length; i += stride) {
    if (values[i + 2] !== 0) return undefined;
    points.push([values[i]!, values[i + 1]!]);
  }
  const [first, last] = [points[0], points.at(-1)];
  const returns = points.length === 5 && first![0] === last![0] && first![1] === last![1];
  if (returns) points.pop();
  return points.length === 4 && (closed || returns) ? points : undefined;
}

/** A rectangle by its corners, turned upright where it is not. */
function frameOf(points: readonly [number, number][]): FoundFrame | undefined {
  const window = rectangleOf(points);
  return window ? { window } : turnedFrame(points);
}

/** A rectangle that is turned: opposite sides are equal and adjacent ones are at right angles. */
function turnedFrame(points: readonly [number, number][]): FoundFrame | undefined {
  const sides = points.map(([x, y], i): [number, number] => {
    const [nextX, nextY] = points[(i + 1) % 4]!;
    return [nextX - x, nextY - y];
  }) as [[number, number], [number, number], [number, number], [number, number]];
  const lengths = sides.map((side) => Math.hypot(...side));
  const slack = Math.max(...lengths) * SLACK;
  if (!(Math.min(...lengths) > slack)) return undefined;
  const alike = ([ax, ay]: [number, number], [bx, by]: [number, number]): boolean =>
    Math.hypot(ax + bx, ay + by) <= slack;
  const [first, second] = sides;
  const square = Math.abs(first[0] * second[0] + first[1] * second[1]) <= slack * Math.min(lengths[0]!, lengths[1]!);
  if (!square || !alike(first, sides[2]) || !alike(second, sides[3])) return undefined;
  // The side that lies flatter is its width.
  const flat = Math.abs(first[0]) / lengths[0]! >= Math.abs(second[0]) / lengths[1]! ? 0 : 1;
  const [dx, dy] = sides[flat]!;
  const angle = Math.atan2(dx < 0 ? -dy : dy, Math.abs(dx));
  const [width, height] = [lengths[flat]!, lengths[1 - flat]!];
  const middle = (axis: 0 | 1): number => points.reduce((sum, point) => sum + point[axis], 0) / 4;
  const [x, y] = [middle(0), middle(1)];
  return {
    window: [x - width / 2, y - height / 2, x + width / 2, y + height / 2],
    rotation: (-angle * 180) / Math.PI,
  };
}

/** The box of four corners in order around it, parallel to the axes; undefined for any others. */
function rectangleOf(points: readonly [number, number][]): FoundFrame['window'] | undefined {
  const [xs, ys] = [points.map(([x]) => x), points.map(([, y]) => y)];
  const window: FoundFrame['window'] = [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
  const [width, height] = [window[2] - window[0], window[3] - window[1]];
  const slack = Math.max(width, height) * SLACK;
  if (!(width > slack && height > slack)) return undefined;
  const corners = points.map(([x, y]) => {
    const column = x - window[0] <= slack ? 0 : window[2] - x <= slack ? 1 : undefined;
    const row = y - window[1] <= slack ? 0 : window[3] - y <= slack ? 1 : undefined;
    return column === undefined || row === undefined ? undefined : column + 2 * row;
  });
  // Around the box, neighbours differ in one direction only; crossed corners do not.
  const around = corners.every((corner, i) => {
    const next = corners[(i + 1) % 4];
    return corner !== undefined && next !== undefined && [1, 2].includes(corner ^ next);
  });
  return around && new Set(corners).size === 4 ? window : undefined;
}
