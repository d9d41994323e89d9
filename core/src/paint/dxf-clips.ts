import type { Box } from '../geometry/box';
import { clipFillToLoops } from '../geometry/clip-areas';
import { insideLoops, isInside } from '../geometry/clip-loops';
import { clipFill, clipStroke } from '../geometry/clip-path';
import { flattened } from '../geometry/flatten';
import { Path } from '../geometry/path';
import { areaOfRing } from '../geometry/ring-area';
import type { ClipShape } from '../page/page';

/** What of a path its clips leave; curves of lines inside outlines become straight pieces. */
export function cutTo(path: Path, clips: readonly ClipShape[], stroked: boolean): Path {
  let current = path;
  for (const shape of clips) {
    const next = new Path();
    const box = boxOf(shape);
    if (stroked && box) clipStroke(current, box, next);
    else if (stroked) strokeInLoops(current, shape, next);
    else if (box) clipFill(current, box, next);
    else clipFillToLoops(current, shape, next);
    current = next;
  }
  return current;
}

/** The loop that encloses most; undefined where there is none. */
export function largest(loops: readonly number[][]): number[] | undefined {
  const size = (loop: readonly number[]): number => Math.abs(areaOfRing(loop));
  return [...loops].sort((one, other) => size(other) - size(one))[0];
}

/** What of a stroked path lies inside loops, as straight pieces. */
function strokeInLoops(path: Path, loops: ClipShape, out: Path): void {
  for (const points of flattened(path)) {
    let [lastX, lastY] = [NaN, NaN];
    for (let i = 0; i + 3 < points.length; i += 2) {
      const [x0, y0, x1, y1] = [points[i]!, points[i + 1]!, points[i + 2]!, points[i + 3]!];
      const inside = insideLoops(loops, x0, y0, x1, y1);
      for (let k = 0; k < inside.length; k += 2) {
        const at = (place: number): [number, number] => [x0 + place * (x1 - x0), y0 + place * (y1 - y0)];
        const [[fx, fy], [tx, ty]] = [at(inside[k]!), at(inside[k + 1]!)];
        if (fx !== lastX || fy !== lastY) out.moveTo(fx, fy);
        out.lineTo(tx, ty);
        [lastX, lastY] = [tx, ty];
      }
    }
  }
}

/** A clip that is a rectangle. */
function boxOf(shape: ClipShape): Box | undefined {
  const loop = shape[0];
  if (shape.length !== 1 || loop?.length !== 4) return undefined;
  const [xmin, ymin, xmax, ymax] = loop as [number, number, number, number];
  return { xmin, ymin, xmax, ymax };
}

/** True for a point that a clip leaves. */
export function shows(shape: ClipShape, x: number, y: number): boolean {
  const box = boxOf(shape);
  return box ? x >= box.xmin && x <= box.xmax && y >= box.ymin && y <= box.ymax : isInside(shape, x, y);
}
