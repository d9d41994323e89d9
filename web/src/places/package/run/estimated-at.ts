/** The value at a place between points of a curve, the points in their order. */
export function estimatedAt(points: readonly (readonly [x: number, y: number])[], x: number): number {
  const after = points.findIndex(([at]) => at >= x);
  if (after <= 0) return points[Math.max(0, after)]?.[1] ?? 0;
  const [[x0, y0], [x1, y1]] = [points[after - 1]!, points[after]!];
  return y0 + ((y1 - y0) * (x - x0)) / (x1 - x0);
}
