import { apply } from '../geometry/affine';
import { POLYLINE_STRIDE, type Drawing } from '../drawing/model';
import { METRIC_SCALES, IMPERIAL_SCALES, formatScale, type Scale } from '../measure/scale';
import { MM_PER_UNIT, type LengthUnit } from '../measure/units';
import { namesOf, type Orientation } from '../paper/sizes';
import { walk } from './walk';

/** A rectangle of a drawing's model, drawing units. */
export interface FoundFrame {
  window: [xmin: number, ymin: number, xmax: number, ymax: number];
}

/** In which direction frames are counted: along rows from the top, or down columns from the left. */
export type FrameOrder = 'rows' | 'columns';

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
 * Closed rectangles of the model by the layer they lie on: four corners, four sides, square to the axes within a
 * five-hundredth of their size. Open ones, crossed ones, filled areas and those with other corners are not frames. A rectangle drawn
 * twice counts once.
 */
export function findFrames(drawing: Drawing): Map<string, FoundFrame[]> {
  const byLayer = new Map<string, FoundFrame[]>();
  const seen = new Set<string>();
  walk(drawing, drawing.spaces[0]!.entities, {
    entity: (entity, looks, map) => {
      const points =
        entity.kind === 'polyline' ? cornersOf(entity.vertices, POLYLINE_STRIDE, entity.closed) : undefined;
      const window = points && rectangleOf(points.map(([x, y]) => apply(map, x, y)));
      const layer = drawing.layers[looks.layer]?.name ?? '0';
      const key = `${layer} ${window?.join(' ')}`;
      if (!window || seen.has(key)) return;
      seen.add(key);
      byLayer.set(layer, [...(byLayer.get(layer) ?? []), { window }]);
    },
    stopped: () => undefined,
  });
  return byLayer;
}

/** Frames in reading order. Those that overlap by half their height (or width) stand in one row (or column). */
export function orderFrames(frames: readonly FoundFrame[], order: FrameOrder): FoundFrame[] {
  const rows = order === 'rows';
  const start = ({ window }: FoundFrame): number => (rows ? -window[3] : window[0]);
  const length = ({ window }: FoundFrame): number => (rows ? window[3] - window[1] : window[2] - window[0]);
  const along = ({ window }: FoundFrame): number => (rows ? window[0] : -window[3]);
  const lines: FoundFrame[][] = [];
  for (const frame of [...frames].sort((a, b) => start(a) - start(b))) {
    const line = lines.at(-1);
    const first = line?.[0];
    if (line && first && start(frame) < start(first) + Math.min(length(first), length(frame)) / 2) line.push(frame);
    else lines.push([frame]);
  }
  return lines.flatMap((line) => line.sort((a, b) => along(a) - along(b)));
}

/** The named paper that a frame fills at a standard scale, the nearest first choice; undefined where there is none. */
export function paperOfFrame({ window }: FoundFrame, unit: LengthUnit): FramePaper | undefined {
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
  const [best] = found.sort((a, b) => a.off - b.off || b.scale - a.scale);
  return best && { name: best.name, orientation: best.orientation, scale: best.scale, scaleText: best.scaleText };
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

/** The box of four corners that stand square to the axes, one after the other around it; undefined for any others. */
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
