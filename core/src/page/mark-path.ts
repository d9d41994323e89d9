import { CURVE, LINE, MOVE, type Path } from '../geometry/path';
import type { PathSink } from '../geometry/curves';
import type { Page } from './page';

/** Hands the path of a mark to a sink, step by step, page units. */
export function traceMark({ verbs, coords, verbStart, coordStart }: Page, mark: number, sink: PathSink): void {
  let at = coordStart[mark]!;
  const end = verbStart[mark + 1]!;
  for (let i = verbStart[mark]!; i < end; i++) {
    const verb = verbs[i];
    if (verb === LINE) {
      sink.lineTo(coords[at]!, coords[at + 1]!);
      at += 2;
    } else if (verb === MOVE) {
      sink.moveTo(coords[at]!, coords[at + 1]!);
      at += 2;
    } else if (verb === CURVE) {
      const [x1, y1, x2, y2] = [coords[at]!, coords[at + 1]!, coords[at + 2]!, coords[at + 3]!];
      sink.curveTo(x1, y1, x2, y2, coords[at + 4]!, coords[at + 5]!);
      at += 6;
    } else sink.close();
  }
}

/** Writes the path of a mark into `out`, page units. */
export function markPath(page: Page, mark: number, out: Path): Path {
  out.clear();
  traceMark(page, mark, out);
  return out;
}
