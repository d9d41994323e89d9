import type { Box } from '../../geometry/box';
import { arcTo } from '../../geometry/curves';
import { cornersOf, polygonPath } from '../../geometry/outline';
import { Path } from '../../geometry/path';
import { writeAt, type NotePen } from './pen';
import { NOTE_WEIGHT_MM, type Note } from './model';

const INK = 0x000000;
const PAPER = 0xffffff;
/** Chord of an arc of a revision cloud, side of its triangle, lettering in it (common practice), mm. */
const [ARC_MM, TRIANGLE_MM, INDEX_MM] = [8, 9, 2];

/** A revision cloud round a box, with the index in its triangle where it says one. */
export function drawCloud(pen: NotePen, { text, weight = NOTE_WEIGHT_MM }: Note, box: Box): void {
  pen.builder.stroke(cloud(box), pen.layer, pen.builder.pen(weight, INK));
  if (text) drawTriangle(pen, text, box);
}

/** Arcs that bulge outwards round a box, as many on each side as come nearest to their usual size. */
function cloud(box: Box): Path {
  const path = new Path();
  const corners = cornersOf(box);
  path.moveTo(...corners[0]!);
  corners.forEach(([x0, y0], side) => {
    const [x1, y1] = corners[(side + 1) % corners.length]!;
    const length = Math.hypot(x1 - x0, y1 - y0);
    const arcs = Math.max(1, Math.round(length / ARC_MM));
    const [dx, dy] = [(x1 - x0) / arcs, (y1 - y0) / arcs];
    for (let i = 0; i < arcs; i++) {
      const middle: [number, number] = [x0 + (i + 0.5) * dx, y0 + (i + 0.5) * dy];
      // Corners run counter-clockwise, so that outwards is to the right of the way.
      arcTo(path, middle, [-dx / 2, -dy / 2], [dy / 2, -dx / 2], 0, Math.PI);
    }
  });
  path.close();
  return path;
}

/** The index of a revision in a triangle at the upper right corner of its cloud. */
function drawTriangle(pen: NotePen, index: string, box: Box): void {
  const { builder, layer } = pen;
  const height = (TRIANGLE_MM * Math.sqrt(3)) / 2;
  const [x, y] = [box.xmax + ARC_MM / 2 + TRIANGLE_MM / 2, box.ymax];
  const corners: [number, number][] = [
    [x - TRIANGLE_MM / 2, y],
    [x + TRIANGLE_MM / 2, y],
    [x, y + height],
  ];
  builder.fill(polygonPath(corners), layer, builder.pen(0, PAPER));
  builder.stroke(polygonPath(corners), layer, builder.pen(NOTE_WEIGHT_MM, INK));
  writeAt(pen, index, { height: INDEX_MM }, [x, y + 1.6]);
}
