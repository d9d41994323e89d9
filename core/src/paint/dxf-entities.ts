import { flattened } from '../geometry/flatten';
import { CLOSE, CURVE, LINE, MOVE, type Path } from '../geometry/path';
import { triangles } from '../geometry/triangles';
import type { Groups } from './dxf-file';

const [SOLID_HATCH, EXTERNAL_LOOP, POLYLINE_LOOP] = ['SOLID', 1, 2];

/** Adds an entity with the groups of its kind. */
export type Entity = (type: string, own: Groups) => void;

/** Straight runs of a path as polylines, curved ones as splines of degree 3, which curves of a page are already. */
export function strokes({ verbs, coords, verbCount }: Path, width: number, entity: Entity): void {
  let [run, curve, at]: [number[], number[], number] = [[], [], 0];
  let start: [number, number] = [0, 0];
  const endRun = (closed = false): void => {
    if (run.length >= 4) entity('LWPOLYLINE', polyline(run, closed, width));
    run = run.slice(-2);
  };
  const endCurve = (): void => {
    if (curve.length) entity('SPLINE', spline(curve));
    curve = [];
  };
  for (let v = 0; v < verbCount; v++) {
    const [x, y] = [coords[at]!, coords[at + 1]!];
    switch (verbs[v]) {
      case MOVE:
        endCurve();
        endRun();
        run = [x, y];
        start = [x, y];
        at += 2;
        break;
      case LINE:
        endCurve();
        run.push(x, y);
        at += 2;
        break;
      case CURVE: {
        if (curve.length === 0) {
          endRun();
          curve = [run.at(-2)!, run.at(-1)!];
        }
        for (let k = 0; k < 6; k++) curve.push(coords[at + k]!);
        run = curve.slice(-2);
        at += 6;
        break;
      }
      case CLOSE: {
        endCurve();
        const whole = run.length >= 4 && run[0] === start[0] && run[1] === start[1];
        if (whole) endRun(true);
        else if (run.at(-2) !== start[0] || run.at(-1) !== start[1]) {
          run.push(...start);
          endRun();
        }
        run = [...start];
      }
    }
  }
  endCurve();
  endRun();
}

function polyline(points: readonly number[], closed: boolean, width: number): Groups {
  const vertices = points.map((value, i) => [i % 2 ? 20 : 10, value]).flat();
  return [100, 'AcDbPolyline', 90, points.length / 2, 70, closed ? 1 : 0, 43, width, ...vertices];
}

/** Bézier curves one behind the other as one B-spline: each inner knot three times. */
function spline(points: readonly number[]): Groups {
  const curves = (points.length / 2 - 1) / 3;
  const knots = Array.from({ length: curves + 1 }, (_, i) =>
    Array<number>(i === 0 || i === curves ? 4 : 3).fill(i),
  ).flat();
  const control = points.map((value, i) => (i % 2 ? [20, value, 30, 0] : [10, value])).flat();
  const counts = [72, knots.length, 73, points.length / 2, 74, 0];
  const head = [100, 'AcDbSpline', 210, 0, 220, 0, 230, 1, 70, 8, 71, 3];
  return [...head, ...counts, ...knots.flatMap((k) => [40, k]), ...control];
}

export function fill(path: Path, entity: Entity): void {
  const loops = flattened(path)
    .map(opened)
    .filter((loop) => loop.length >= 6);
  if (loops.length === 0) return;
  const boundaries = loops.flatMap((loop) => [
    ...[92, EXTERNAL_LOOP | POLYLINE_LOOP, 72, 0, 73, 1, 93, loop.length / 2],
    ...loop.map((value, i) => [i % 2 ? 20 : 10, value]).flat(),
    ...[97, 0],
  ]);
  const head = [100, 'AcDbHatch', 10, 0, 20, 0, 30, 0, 210, 0, 220, 0, 230, 1, 2, SOLID_HATCH, 70, 1, 71, 0];
  entity('HATCH', [...head, 91, loops.length, ...boundaries, 75, 0, 76, 1, 98, 0]);
}

/** A loop without the point that repeats its first. */
function opened(loop: number[]): number[] {
  return loop.at(-2) === loop[0] && loop.at(-1) === loop[1] ? loop.slice(0, -2) : loop;
}

/** The same for release 12, which has no splines: straight pieces. */
export function strokes12(path: Path, width: number, entity: Entity): void {
  for (const points of flattened(path)) {
    const loop = opened(points);
    const closed = loop.length < points.length;
    entity('POLYLINE', [66, 1, 10, 0, 20, 0, 30, 0, 70, closed ? 1 : 0, 40, width, 41, width]);
    for (let i = 0; i < loop.length; i += 2) entity('VERTEX', [10, loop[i]!, 20, loop[i + 1]!, 30, 0]);
    entity('SEQEND', []);
  }
}

/** The same for release 12, which has no hatches: triangles. Its fourth corner is the third. */
export function fill12(path: Path, entity: Entity): void {
  for (const [x0, y0, x1, y1, x2, y2] of triangles(path) as [number, number, number, number, number, number][]) {
    const third = (code: number): Groups => [10 + code, x2, 20 + code, y2, 30 + code, 0];
    entity('SOLID', [10, x0, 20, y0, 30, 0, 11, x1, 21, y1, 31, 0, ...third(2), ...third(3)]);
  }
}
