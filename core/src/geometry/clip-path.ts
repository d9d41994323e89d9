import type { Box } from './box';
import { clipPolygon, clipSegment } from './clip';
import { flattened } from './flatten';
import type { Path } from './path';

/** Writes into `out` what a stroked path shows within `box`, as straight pieces. */
export function clipStroke(path: Path, box: Box, out: Path): void {
  for (const points of flattened(path)) {
    let [lastX, lastY] = [NaN, NaN];
    for (let i = 0; i + 3 < points.length; i += 2) {
      const part = clipSegment(box, points[i]!, points[i + 1]!, points[i + 2]!, points[i + 3]!);
      if (!part) continue;
      if (part[0] !== lastX || part[1] !== lastY) out.moveTo(part[0], part[1]);
      out.lineTo(part[2], part[3]);
      [lastX, lastY] = [part[2], part[3]];
    }
  }
}

/** Writes into `out` what a filled path covers within `box`, as straight-sided polygons. */
export function clipFill(path: Path, box: Box, out: Path): void {
  for (const points of flattened(path)) {
    const inside = clipPolygon(box, points);
    for (let i = 0; i < inside.length; i += 2) {
      if (i === 0) out.moveTo(inside[0]!, inside[1]!);
      else out.lineTo(inside[i]!, inside[i + 1]!);
    }
    if (inside.length) out.close();
  }
}
