import type { Box } from './box';

/** The part of a segment inside a box (Liang and Barsky, 1984); undefined when none is. */
export function clipSegment(
  box: Box,
  x0: number,
  y0: number,
  x1: number,
  y1: number,
): [number, number, number, number] | undefined {
  const dx = x1 - x0;
  const dy = y1 - y0;
  let from = 0;
  let to = 1;
  const edges: [number, number][] = [
    [-dx, x0 - box.xmin],
    [dx, box.xmax - x0],
    [-dy, y0 - box.ymin],
    [dy, box.ymax - y0],
  ];
  for (const [direction, distance] of edges) {
    if (direction === 0) {
      if (distance < 0) return undefined;
      continue;
    }
    const t = distance / direction;
    if (direction < 0) from = Math.max(from, t);
    else to = Math.min(to, t);
    if (from > to) return undefined;
  }
  return [x0 + from * dx, y0 + from * dy, x0 + to * dx, y0 + to * dy];
}

/** The part of a closed polygon (x, y pairs) inside a box (Sutherland and Hodgman, 1974). */
export function clipPolygon(box: Box, points: readonly number[]): number[] {
  const sides: [axis: 0 | 1, limit: number, keepBelow: boolean][] = [
    [0, box.xmin, false],
    [0, box.xmax, true],
    [1, box.ymin, false],
    [1, box.ymax, true],
  ];
  let current = [...points];
  for (const [axis, limit, keepBelow] of sides) {
    const next: number[] = [];
    const inside = (i: number): boolean => (keepBelow ? current[i + axis]! <= limit : current[i + axis]! >= limit);
    for (let i = 0; i < current.length; i += 2) {
      const j = (i + 2) % current.length;
      if (inside(i)) next.push(current[i]!, current[i + 1]!);
      if (inside(i) === inside(j)) continue;
      const t = (limit - current[i + axis]!) / (current[j + axis]! - current[i + axis]!);
      next.push(
        current[i]! + t * (current[j]! - current[i]!),
        current[i + 1]! + t * (current[j + 1]! - current[i + 1]!),
      );
    }
    current = next;
  }
  return current;
}
