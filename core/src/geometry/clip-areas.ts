import polygons, { type MultiPolygon, type Polygon } from 'polygon-clipping';
import { flattened } from './flatten';
import type { Path } from './path';

/** Writes into `out` what a filled path covers inside loops of x, y pairs, both by the even-odd rule. */
export function clipFillToLoops(path: Path, loops: readonly (readonly number[])[], out: Path): void {
  const filled = evenOdd(flattened(path));
  const inside = evenOdd(loops);
  if (!filled || !inside) return;
  for (const ring of polygons.intersection(filled, inside).flat()) {
    // Rings end where they began.
    ring.slice(0, -1).forEach(([x, y], i) => (i === 0 ? out.moveTo(x, y) : out.lineTo(x, y)));
    out.close();
  }
}

/** The area of loops where an odd number of them lie over each other. */
function evenOdd(loops: readonly (readonly number[])[]): MultiPolygon | undefined {
  const rings = loops.filter((loop) => loop.length >= 6).map(polygonOf);
  const [first, ...others] = rings;
  return first && polygons.xor(first, ...others);
}

function polygonOf(loop: readonly number[]): Polygon {
  const ring: [number, number][] = [];
  for (let i = 0; i + 1 < loop.length; i += 2) ring.push([loop[i]!, loop[i + 1]!]);
  return [ring];
}
