/** The area inside a ring (x, y of each corner), by Gauss's formula; positive where it runs counter-clockwise. */
export function areaOfRing(ring: readonly number[]): number {
  let twice = 0;
  for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2)
    twice += ring[j]! * ring[i + 1]! - ring[i]! * ring[j + 1]!;
  return twice / 2;
}
