import { multiply, rotation, scaling, translation, type Affine } from '../../geometry/affine';
import { CLOSE, CURVE, MOVE, type Path } from '../../geometry/path';
import { lengthIn, numbersIn } from './numbers';
import { viewBoxMap } from './transform';
import type { Declarations } from './css';

/** A corner of a path that a marker may stand on. */
export interface MarkerPlace {
  x: number;
  y: number;
  /** Direction of the path there, radians: between those of the pieces that meet. */
  angle: number;
  at: 'start' | 'mid' | 'end';
}

type Direction = [dx: number, dy: number] | undefined;

/** The corners of a path in their order (SVG 1.1, 11.6.2); of a path without any, none. */
export function markerPlaces(path: Path): MarkerPlace[] {
  const corners: { x: number; y: number; into: Direction; out: Direction }[] = [];
  let [at, first] = [0, 0];
  const { coords } = path;
  for (let v = 0; v < path.verbCount; v++) {
    const verb = path.verbs[v]!;
    const last = corners.at(-1);
    if (verb === MOVE) {
      first = corners.length;
      corners.push({ x: coords[at]!, y: coords[at + 1]!, into: undefined, out: undefined });
      at += 2;
      continue;
    }
    if (!last) continue;
    if (verb === CLOSE) {
      const start = corners[first]!;
      const along = direction(start.x - last.x, start.y - last.y);
      last.out ??= along;
      start.into ??= along ?? last.into;
      corners.push({ x: start.x, y: start.y, into: along ?? last.into, out: start.out });
      continue;
    }
    const points = [...coords.subarray(at, (at += verb === CURVE ? 6 : 2))];
    const [x, y] = points.slice(-2) as [number, number];
    // Handles that lie on their ends say nothing: the next point does.
    const polygon = [last.x, last.y, ...points];
    last.out = firstDirection(polygon);
    const backwards = firstDirection(polygon.flatMap((_, i) => (i % 2 ? [] : polygon.slice(-2 - i).slice(0, 2))));
    const into: Direction = backwards && [-backwards[0], -backwards[1]];
    corners.push({ x, y, into, out: undefined });
  }
  return corners.map(({ x, y, into, out }, i) => ({
    x,
    y,
    angle: between(into, out),
    at: i === 0 ? 'start' : i === corners.length - 1 ? 'end' : 'mid',
  }));
}

function direction(dx: number, dy: number): Direction {
  return dx === 0 && dy === 0 ? undefined : [dx, dy];
}

/** From the first of several points to the next one that lies elsewhere. */
function firstDirection(points: readonly number[]): Direction {
  for (let i = 2; i + 1 < points.length; i += 2) {
    const found = direction(points[i]! - points[0]!, points[i + 1]! - points[1]!);
    if (found) return found;
  }
  return undefined;
}

function between(into: Direction, out: Direction): number {
  const [a, b] = [into ?? out, out ?? into];
  if (!a || !b) return 0;
  const [from, to] = [Math.hypot(...a), Math.hypot(...b)];
  const [x, y] = [a[0] / from + b[0] / to, a[1] / from + b[1] / to];
  return Math.hypot(x, y) < 1e-9 ? Math.atan2(b[1], b[0]) : Math.atan2(y, x);
}

/** A marker as it stands on a corner. */
export interface StandingMarker {
  /** Its content to user units. */
  map: Affine;
  /** What its viewport shows, in units of its content; undefined where it cuts nothing off. */
  clip: [x: number, y: number, width: number, height: number] | undefined;
}

/** A marker on a corner of a path whose strokes are `strokeWidth` wide; undefined for one without a size. */
export function standing(own: Declarations, place: MarkerPlace, strokeWidth: number): StandingMarker | undefined {
  const length = (name: string, standard: number): number => lengthIn(own[name], 0, standard);
  const [width, height] = [length('markerWidth', 3), length('markerHeight', 3)];
  const size = own['markerUnits'] === 'userSpaceOnUse' ? 1 : strokeWidth;
  if (!(width > 0 && height > 0 && size > 0)) return undefined;
  const orient = (own['orient'] ?? '0').trim();
  const backwards = orient === 'auto-start-reverse' && place.at === 'start' ? Math.PI : 0;
  const angle = orient.startsWith('auto') ? place.angle + backwards : (parseFloat(orient) || 0) * (Math.PI / 180);
  const box = numbersIn(own['viewBox'] ?? '');
  const view = viewBoxMap(own['viewBox'], own['preserveAspectRatio'], width, height);
  // The reference point, not the corner of its viewport, comes to lie on the corner of the path.
  const content: Affine = { ...view, e: 0, f: 0 };
  const reference = translation(-length('refX', 0), -length('refY', 0));
  const turned = multiply(translation(place.x, place.y), multiply(rotation(angle), scaling(size)));
  const overflow = own['overflow'];
  const [x, y, w, h] = box.length >= 4 ? [box[0]!, box[1]!, width / view.a, height / view.d] : [0, 0, width, height];
  return {
    map: multiply(turned, multiply(content, reference)),
    clip: overflow === 'visible' || overflow === 'auto' ? undefined : [x, y, w, h],
  };
}
