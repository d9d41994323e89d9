import type { EllipseEntity, LineEntity, PathEntity, Style } from '../../drawing/model';
import { Path } from '../../geometry/path';
import { splinePath, throughPoints } from '../../geometry/spline';
import type { Record } from './record';

/** How far lines without an end are drawn, in drawing units: beyond any building, within exact numbers. */
const ENDLESS = 1e8;

/**
 * ELLIPSE, in world coordinates: centre, end of the major axis, ratio of the axes, parameters of start and end. The minor
 * axis is the extrusion direction across the major one, so that tilted ellipses come out as seen from above.
 */
export function readEllipse(record: Record, style: Style, handle: string): EllipseEntity {
  const [ux, uy, uz] = [record.number(11), record.number(21), record.number(31)];
  const [nx, ny, nz] = [record.number(210), record.number(220), record.number(230, 1)];
  const length = Math.hypot(nx, ny, nz) || 1;
  const ratio = record.number(40, 1) / length;
  const start = record.number(41);
  const end = record.number(42, 2 * Math.PI);
  return {
    kind: 'ellipse',
    style,
    handle,
    cx: record.number(10),
    cy: record.number(20),
    ux,
    uy,
    vx: (ny * uz - nz * uy) * ratio,
    vy: (nz * ux - nx * uz) * ratio,
    start,
    end,
  };
}

/** SPLINE by its control points, or through its fit points where it has no others. Undefined when they make none. */
export function readSpline(record: Record, style: Style, handle: string): PathEntity | undefined {
  if (record.type === 'HELIX') record.endBefore('AcDbHelix');
  const path = new Path();
  const points = pointPairs(record, 10);
  const spline = {
    degree: record.integer(71, 3),
    knots: allNumbers(record, 40),
    points,
    weights: allNumbers(record, 41),
  };
  const drawn = points.length > 0 ? splinePath(path, spline) : throughPoints(path, pointPairs(record, 11));
  return drawn ? pathEntity(path, style, handle) : undefined;
}

/** RAY and XLINE: from a point in a direction, and for XLINE in the other one too. */
export function readEndless(record: Record, style: Style, handle: string): LineEntity {
  const [x, y, dx, dy] = [record.number(10), record.number(20), record.number(11), record.number(21)];
  const reach = ENDLESS / (Math.hypot(dx, dy) || 1);
  const back = record.type === 'XLINE' ? -reach : 0;
  return {
    kind: 'line',
    style,
    handle,
    x0: x + back * dx,
    y0: y + back * dy,
    x1: x + reach * dx,
    y1: y + reach * dy,
    endless: true,
  };
}

/** The verbs and coordinates of a path as an entity of their own. */
export function pathEntity(path: Path, style: Style, handle: string): PathEntity {
  const verbs = path.verbs.slice(0, path.verbCount);
  return { kind: 'path', style, handle, verbs, coords: path.coords.slice(0, path.coordCount) };
}

/** Every number with a code, in order. */
export function allNumbers(record: Record, code: number): number[] {
  const found: number[] = [];
  for (let i = 0; i < record.count; i++) if (record.codes[i] === code) found.push(record.numberAt(i));
  return found;
}

/** Points whose x has a code and whose y the code ten above it. */
export function pointPairs(record: Record, code: number): number[] {
  const [x, y] = [allNumbers(record, code), allNumbers(record, code + 10)];
  return x.flatMap((value, i) => [value, y[i] ?? 0]);
}
