import { multiply, Path, scaling, type Affine, type Drawing, type ShapeEntity } from '../../../src/index';
import { CLOSE, CURVE, MOVE } from '../../../src/geometry/path';
import { drawPath } from '../../../src/sheet/shapes';
import { walk } from '../../../src/sheet/walk';
import { read } from '../../support/dxf';
import { bytesAt, runScript, temporaryFolder } from '../../support/ezdxf';

const DRAWINGS = 12;
/** Looked up once: a lookup costs more than the sum in a test's own realm. */
const { hypot, max, min } = Math;

const SEED = 7;
/** Drawn this much larger, so that curves are taken as finely as on a large sheet. */
const LARGER = 1000;
/** Length of the straight pieces that curves are compared as: bent by 50 units they are off by 1e-4 at most. */
const STEP = 0.2;

interface Segment {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}

/** Everything that a drawing shows, as short straight pieces in its own coordinates. */
function segmentsOf(drawing: Drawing): Segment[] {
  const segments: Segment[] = [];
  const path = new Path();
  walk(drawing, drawing.spaces[0]!.entities, {
    entity: (entity: ShapeEntity, _, map: Affine) => {
      drawPath(path.clear(), entity, multiply(scaling(LARGER), map));
      collect(path, segments);
    },
    stopped: (why) => {
      throw new Error(why);
    },
  });
  return segments;
}

function collect(path: Path, segments: Segment[]): void {
  let at = 0;
  let [x, y, startX, startY] = [0, 0, 0, 0];
  const to = (x1: number, y1: number): void => {
    segments.push({ x0: x / LARGER, y0: y / LARGER, x1: x1 / LARGER, y1: y1 / LARGER });
    [x, y] = [x1, y1];
  };
  for (let v = 0; v < path.verbCount; v++) {
    const c = path.coords.subarray(at, at + 6) as unknown as number[];
    const verb = path.verbs[v];
    if (verb === MOVE) [x, y] = [startX, startY] = [c[0]!, c[1]!];
    else if (verb === CLOSE) to(startX, startY);
    else if (verb === CURVE) {
      const [x0, y0] = [x, y];
      const round =
        hypot(c[0]! - x, c[1]! - y) + hypot(c[2]! - c[0]!, c[3]! - c[1]!) + hypot(c[4]! - c[2]!, c[5]! - c[3]!);
      const pieces = min(5000, max(16, Math.ceil(round / LARGER / STEP)));
      for (let i = 1; i <= pieces; i++) {
        const [t, s] = [i / pieces, 1 - i / pieces];
        const [w0, w1, w2, w3] = [s ** 3, 3 * s * s * t, 3 * s * t * t, t ** 3];
        to(w0 * x0 + w1 * c[0]! + w2 * c[2]! + w3 * c[4]!, w0 * y0 + w1 * c[1]! + w2 * c[3]! + w3 * c[5]!);
      }
    } else to(c[0]!, c[1]!);
    at += verb === CURVE ? 6 : verb === CLOSE ? 0 : 2;
  }
}

/** Distance of a point from a segment; `enough` where it is farther than that for sure. */
function distance(px: number, py: number, { x0, y0, x1, y1 }: Segment, enough: number): number {
  if (min(x0, x1) - px > enough || px - max(x0, x1) > enough) return enough;
  if (min(y0, y1) - py > enough || py - max(y0, y1) > enough) return enough;
  const [dx, dy] = [x1 - x0, y1 - y0];
  const t = max(0, min(1, ((px - x0) * dx + (py - y0) * dy) / (dx * dx + dy * dy || 1)));
  return hypot(px - x0 - t * dx, py - y0 - t * dy);
}

/** ezdxf says which points lie on what it wrote: each must lie on what is read, to a millionth of the extents. */
describe('random drawings of an independent library', () => {
  const written = runScript('write_random.py', temporaryFolder(), String(SEED), String(DRAWINGS));
  const files = JSON.parse(written) as { path: string; points: [number, number][] }[];

  it.each(files.map((file, i) => [i, file] as const))('number %d is read as it was written', (_, { path, points }) => {
    const { drawing, warnings } = read(bytesAt(path));
    expect(warnings).toEqual([]);
    const segments = segmentsOf(drawing);
    const xs = points.map(([x]) => x);
    const extent = max(...xs) - min(...xs);
    const off = points.map(([x, y]) => {
      let nearest = Infinity;
      for (const segment of segments) nearest = min(nearest, distance(x, y, segment, nearest));
      return nearest / extent;
    });
    expect(max(...off)).toBeLessThan(1e-6);
  });
});
