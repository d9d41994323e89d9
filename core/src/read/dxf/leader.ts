import type { PlainEntity, Style } from '../../drawing/model';
import { Path } from '../../geometry/path';
import { throughPoints } from '../../geometry/spline';
import { pointPairs, pathEntity } from './curves';
import type { NameTables } from './names';
import type { Record } from './record';

const SMOOTH = 1;
/** Width of an arrowhead over its length. */
const SLENDERNESS = 1 / 3;

/** LEADER: its line, straight or smooth, and an arrowhead at its first point of the size that its dimension style gives. */
export function readLeader(record: Record, style: Style, handle: string, names: NameTables): PlainEntity[] {
  const points = pointPairs(record, 10);
  if (points.length < 4) return [];
  const path = new Path();
  if (record.integer(72) !== SMOOTH || !throughPoints(path, points)) {
    path.clear();
    path.moveTo(points[0]!, points[1]!);
    for (let i = 2; i < points.length; i += 2) path.lineTo(points[i]!, points[i + 1]!);
  }
  const line = pathEntity(path, style, handle);
  if (record.integer(71, 1) === 0) return [line];
  const { arrow, scale } = names.dimensionLooks(record.text(3, 'STANDARD'));
  return [line, arrowhead(points, arrow * scale, style, handle)];
}

/** A slender filled triangle at the first of some points, pointing away from the second. */
export function arrowhead(points: readonly number[], size: number, style: Style, handle: string): PlainEntity {
  const [x, y, toX, toY] = points as [number, number, number, number];
  const length = Math.hypot(toX - x, toY - y) || 1;
  const [dx, dy] = [((toX - x) / length) * size, ((toY - y) / length) * size];
  const half = SLENDERNESS / 2;
  const corners = [x, y, 0, x + dx - dy * half, y + dy + dx * half, 0, x + dx + dy * half, y + dy - dx * half, 0];
  return { kind: 'fill', style, handle, loops: [Float64Array.from(corners)], arrow: true };
}
