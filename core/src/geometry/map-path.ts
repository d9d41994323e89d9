import type { Affine } from './affine';
import type { Path } from './path';

/** Maps the points of a path in place; its box stays what it was. Returns the path. */
export function mapPath(path: Path, m: Affine): Path {
  const { coords } = path;
  for (let i = 0; i < path.coordCount; i += 2) {
    const [x, y] = [coords[i]!, coords[i + 1]!];
    coords[i] = m.a * x + m.c * y + m.e;
    coords[i + 1] = m.b * x + m.d * y + m.f;
  }
  return path;
}
