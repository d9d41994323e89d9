/**
 * The parts of a segment inside loops of x, y pairs, by the even-odd rule, as pairs of places along it between 0 and 1
 * in turn.
 */
export function insideLoops(
  loops: readonly (readonly number[])[],
  x0: number,
  y0: number,
  x1: number,
  y1: number,
): number[] {
  const places = [0, 1];
  const [dx, dy] = [x1 - x0, y1 - y0];
  for (const loop of loops) {
    for (let i = 0; i < loop.length; i += 2) {
      const j = (i + 2) % loop.length;
      const [ex, ey] = [loop[j]! - loop[i]!, loop[j + 1]! - loop[i + 1]!];
      const across = dx * ey - dy * ex;
      if (across === 0) continue;
      const [rx, ry] = [loop[i]! - x0, loop[i + 1]! - y0];
      const [along, onEdge] = [(rx * ey - ry * ex) / across, (rx * dy - ry * dx) / across];
      if (along > 0 && along < 1 && onEdge >= 0 && onEdge <= 1) places.push(along);
    }
  }
  places.sort((a, b) => a - b);
  const inside: number[] = [];
  for (let i = 0; i + 1 < places.length; i++) {
    const [from, to] = [places[i]!, places[i + 1]!];
    if (to <= from) continue;
    const middle = (from + to) / 2;
    if (!isInside(loops, x0 + middle * dx, y0 + middle * dy)) continue;
    if (inside.at(-1) === from) inside[inside.length - 1] = to;
    else inside.push(from, to);
  }
  return inside;
}

/** Whether a point lies inside loops of x, y pairs, by the even-odd rule. */
export function isInside(loops: readonly (readonly number[])[], x: number, y: number): boolean {
  let inside = false;
  for (const loop of loops) {
    for (let i = 0, j = loop.length - 2; i < loop.length; j = i, i += 2) {
      const [xi, yi, xj, yj] = [loop[i]!, loop[i + 1]!, loop[j]!, loop[j + 1]!];
      if (yi > y !== yj > y && x < ((xj - xi) * (y - yi)) / (yj - yi) + xi) inside = !inside;
    }
  }
  return inside;
}
