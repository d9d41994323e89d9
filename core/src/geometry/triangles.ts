import earcut from 'earcut';
import { evenOddRings } from './clip-areas';
import { isInside } from './clip-loops';
import type { Path } from './path';
import { areaOfRing } from './ring-area';

/** What a filled path covers by the even-odd rule, as triangles: x, y of three corners each. */
export function triangles(path: Path): number[][] {
  const rings = evenOddRings(path);
  const outers = rings
    .filter((ring) => areaOfRing(ring) > 0)
    .map((ring) => ({ ring, size: areaOfRing(ring), holes: [] as number[][] }));
  for (const hole of rings.filter((ring) => areaOfRing(ring) < 0)) {
    const around = outers.filter(({ ring, size }) => size > -areaOfRing(hole) && isInside([ring], hole[0]!, hole[1]!));
    around.sort((a, b) => a.size - b.size)[0]?.holes.push(hole);
  }
  return outers.flatMap(({ ring, holes }) => {
    const points = [ring, ...holes].flat();
    let at = ring.length / 2;
    const starts = holes.map((hole) => (at += hole.length / 2) - hole.length / 2);
    const corners = earcut(points, starts);
    return Array.from({ length: corners.length / 3 }, (_, i) =>
      corners.slice(3 * i, 3 * i + 3).flatMap((corner) => [points[2 * corner]!, points[2 * corner + 1]!]),
    );
  });
}
