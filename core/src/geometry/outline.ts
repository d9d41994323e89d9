import type { Box } from './box';
import { arcTo } from './curves';
import { Path } from './path';

type Point = readonly [x: number, y: number];

/** A straight line as a path. */
export function linePath(from: Point, to: Point): Path {
  const path = new Path();
  path.moveTo(...from);
  path.lineTo(...to);
  return path;
}

/** A closed polygon as a path. */
export function polygonPath(points: readonly Point[]): Path {
  const path = new Path();
  points.forEach(([x, y], i) => (i === 0 ? path.moveTo(x, y) : path.lineTo(x, y)));
  path.close();
  return path;
}

/** The corners of a box, counter-clockwise from the lower left. */
export function cornersOf({ xmin, ymin, xmax, ymax }: Box): [x: number, y: number][] {
  return [
    [xmin, ymin],
    [xmax, ymin],
    [xmax, ymax],
    [xmin, ymax],
  ];
}

/** A rectangle as a path. */
export function boxPath(box: Box): Path {
  return polygonPath(cornersOf(box));
}

/** A circle as a path. */
export function circlePath([x, y]: Point, radius: number): Path {
  const path = new Path();
  path.moveTo(x + radius, y);
  arcTo(path, [x, y], [radius, 0], [0, radius], 0, 2 * Math.PI);
  path.close();
  return path;
}
