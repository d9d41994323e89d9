import { CLOSE, CURVE, LINE, MOVE, type Path } from '../geometry/path';
import type { Page } from './page';

/** Writes the path of a mark into `out`, page units. */
export function markPath({ verbs, coords, verbStart, coordStart }: Page, mark: number, out: Path): Path {
  out.clear();
  let at = coordStart[mark]!;
  for (let i = verbStart[mark]!; i < verbStart[mark + 1]!; i++) {
    const verb = verbs[i];
    if (verb === MOVE) out.moveTo(coords[at]!, coords[at + 1]!);
    else if (verb === LINE) out.lineTo(coords[at]!, coords[at + 1]!);
    else if (verb === CURVE) {
      const [x1, y1, x2, y2] = [coords[at]!, coords[at + 1]!, coords[at + 2]!, coords[at + 3]!];
      out.curveTo(x1, y1, x2, y2, coords[at + 4]!, coords[at + 5]!);
    } else if (verb === CLOSE) out.close();
    at += verb === CURVE ? 6 : verb === MOVE || verb === LINE ? 2 : 0;
  }
  return out;
}
