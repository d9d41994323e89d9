import { translation } from '../../geometry/affine';
import { emptyBox, include, type Box } from '../../geometry/box';
import { boxPath, linePath } from '../../geometry/outline';
import { wrapLines } from '../../text/layout';
import { emOf, placeLettering } from '../lettering';
import { drawCloud } from './cloud';
import { drawMark } from './mark';
import { letteringOf, NOTE_WEIGHT_MM, type Note } from './model';
import { drawLeader, TOP_LEFT_LETTERING, type NotePen } from './pen';
import { drawTable } from './table';

const INK = 0x000000;

/** A note on the paper, with the box around it, mm. */
export interface PlacedNote {
  id: string;
  at: [x: number, y: number];
  box: Box;
}

/** Draws the notes of a sheet above its views; returns where each lies. */
export function drawNotes(pen: Omit<NotePen, 'layer'>, notes: readonly Note[]): PlacedNote[] {
  if (notes.length === 0) return [];
  const layered = { ...pen, layer: pen.builder.layer('', 'Notes') };
  return notes.map((note) => ({ id: note.id, at: note.at, box: drawNote(layered, note) }));
}

function drawNote(pen: NotePen, note: Note): Box {
  switch (note.kind) {
    case 'text':
      return drawText(pen, note);
    case 'mark':
      return drawMark(pen, note);
    case 'table':
      return drawTable(pen, note);
    default:
      return drawShape(pen, note);
  }
}

function drawText(pen: NotePen, note: Note): Box {
  const { builder, fonts, layer } = pen;
  const { at, to, text = '', width = 0 } = note;
  const { size, font: chosen, colour } = letteringOf(note, pen.styles);
  const font = pen.fonts.chosen(chosen);
  const lines = wrapLines(fonts, font, text.split('\n'), width / emOf(fonts, font, size));
  const box = emptyBox();
  include(box, ...at);
  const look = { ...TOP_LEFT_LETTERING, lines, font, height: size };
  for (const placed of placeLettering(fonts, look, translation(...at))) {
    builder.text(placed.text, placed.box, layer, builder.pen(0, colour));
    include(box, placed.box.xmin, placed.box.ymin);
    include(box, placed.box.xmax, placed.box.ymax);
  }
  if (to) {
    // From the nearer side, at the middle of the first line.
    const left = to[0] < (box.xmin + box.xmax) / 2;
    drawLeader(pen, [left ? box.xmin - 1 : box.xmax + 1, at[1] - size / 2], to, note.weight);
  }
  return box;
}

function drawShape(pen: NotePen, note: Note): Box {
  const { builder, layer } = pen;
  const { kind, at, to = at, weight = NOTE_WEIGHT_MM } = note;
  const box = emptyBox();
  include(box, ...at);
  include(box, ...to);
  const ink = builder.pen(weight, INK);
  if (kind === 'line') builder.stroke(linePath(at, to), layer, ink);
  else if (kind === 'rectangle') builder.stroke(boxPath(box), layer, ink);
  else if (kind === 'cloud') drawCloud(pen, note, box);
  else if (note.drawing) pen.drawn(note.drawing, box);
  return box;
}
