import { translation } from '../../geometry/affine';
import { emptyBox, include, type Box } from '../../geometry/box';
import { arcTo } from '../../geometry/curves';
import { boxPath, cornersOf, linePath, polygonPath } from '../../geometry/outline';
import { Path } from '../../geometry/path';
import type { PageBuilder } from '../../page/builder';
import { wrapLines, type FontSet } from '../../text/layout';
import { emOf, placeLettering } from '../lettering';
import { NOTE_SIZE_MM, NOTE_WEIGHT_MM, type Note } from './model';

const INK = 0x000000;
/** Chord of an arc of a revision cloud, side of its triangle, arrow of a leader (common practice), mm. */
const [ARC_MM, TRIANGLE_MM, ARROW_MM] = [8, 9, 3];

/** A note on the paper, with the box around it, mm. */
export interface PlacedNote {
  id: string;
  at: [x: number, y: number];
  box: Box;
}

/** Draws the notes of a sheet above its views; returns where each lies. */
export function drawNotes(builder: PageBuilder, fonts: FontSet, notes: readonly Note[]): PlacedNote[] {
  if (notes.length === 0) return [];
  const layer = builder.layer('', 'Notes');
  return notes.map((note) => {
    const box = note.kind === 'text' ? drawText(builder, fonts, layer, note) : drawShape(builder, fonts, layer, note);
    return { id: note.id, at: note.at, box };
  });
}

function drawText(builder: PageBuilder, fonts: FontSet, layer: number, note: Note): Box {
  const { at, to, text = '', size = NOTE_SIZE_MM, width = 0 } = note;
  const font = 'sans';
  const lines = wrapLines(fonts, font, text.split('\n'), width / emOf(fonts, font, size));
  const look = {
    lines,
    font,
    height: size,
    widthFactor: 1,
    horizontal: 'left',
    vertical: 'top',
    lineSpacing: 1,
  } as const;
  const box = emptyBox();
  include(box, ...at);
  for (const placed of placeLettering(fonts, look, translation(...at))) {
    builder.text(placed.text, placed.box, layer, builder.pen(0, INK));
    include(box, placed.box.xmin, placed.box.ymin);
    include(box, placed.box.xmax, placed.box.ymax);
  }
  if (to) drawLeader(builder, layer, { ...note, to }, box);
  return box;
}

/** From the nearer side of a text, at the middle of its first line, to what it points at. */
function drawLeader(builder: PageBuilder, layer: number, note: Note & { to: [number, number] }, box: Box): void {
  const { at, to, size = NOTE_SIZE_MM, weight = NOTE_WEIGHT_MM } = note;
  const left = to[0] < (box.xmin + box.xmax) / 2;
  const from: [number, number] = [left ? box.xmin - 1 : box.xmax + 1, at[1] - size / 2];
  builder.stroke(linePath(from, to), layer, builder.pen(weight, INK));
  const length = Math.hypot(to[0] - from[0], to[1] - from[1]);
  if (length < ARROW_MM) return;
  const [ux, uy] = [(from[0] - to[0]) / length, (from[1] - to[1]) / length];
  const half = ARROW_MM / 6;
  const [bx, by] = [to[0] + ux * ARROW_MM, to[1] + uy * ARROW_MM];
  const arrow = polygonPath([to, [bx - uy * half, by + ux * half], [bx + uy * half, by - ux * half]]);
  builder.fill(arrow, layer, builder.pen(0, INK));
}

function drawShape(builder: PageBuilder, fonts: FontSet, layer: number, note: Note): Box {
  const { kind, at, to = at, weight = NOTE_WEIGHT_MM } = note;
  const box = emptyBox();
  include(box, ...at);
  include(box, ...to);
  const pen = builder.pen(weight, INK);
  if (kind === 'line') builder.stroke(linePath(at, to), layer, pen);
  else if (kind === 'rectangle') builder.stroke(boxPath(box), layer, pen);
  else {
    builder.stroke(cloud(box), layer, pen);
    if (note.text) drawTriangle(builder, fonts, layer, note.text, box);
  }
  return box;
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
function drawTriangle(builder: PageBuilder, fonts: FontSet, layer: number, index: string, box: Box): void {
  const height = (TRIANGLE_MM * Math.sqrt(3)) / 2;
  const [x, y] = [box.xmax + ARC_MM / 2 + TRIANGLE_MM / 2, box.ymax];
  const corners: [number, number][] = [
    [x - TRIANGLE_MM / 2, y],
    [x + TRIANGLE_MM / 2, y],
    [x, y + height],
  ];
  builder.fill(polygonPath(corners), layer, builder.pen(0, 0xffffff));
  builder.stroke(polygonPath(corners), layer, builder.pen(NOTE_WEIGHT_MM, INK));
  const look = {
    lines: [index],
    font: 'sans',
    height: 2,
    widthFactor: 1,
    vertical: 'baseline',
    lineSpacing: 1,
  } as const;
  for (const { text, box: around } of placeLettering(
    fonts,
    { ...look, horizontal: 'centre' },
    translation(x, y + 1.6),
  )) {
    builder.text(text, around, layer, builder.pen(0, INK));
  }
}
