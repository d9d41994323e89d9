import { colourFromIndex } from '../../drawing/colours';
import type { Box } from '../../geometry/box';
import { WEIGHT_DEFAULT } from '../../drawing/model';
import { dimensionStyleOf } from './dimension-looks';
import { styledFamily } from '../../text/fonts';
import { opacityFrom } from './entities';
import { NEVER_PLOTS, type NameTables } from './names';
import type { Record } from './record';

/** In a line type's dash: a text or a figure goes with it (code 74). */
const WITH_FIGURE = 2 | 4;
const TRUE_COLOUR = 0xffffff;
/** Flags of a font's style in extended data, from memory. */
const [BOLD, ITALIC] = [0x2000000, 0x1000000];

/** Takes an entry of the TABLES section over. */
export function readTableEntry(record: Record, names: NameTables): void {
  const name = record.text(2);
  if (record.type === 'BLOCK_RECORD') names.setBlockHandle(record.text(5), name);
  if (!name) return;
  if (record.type === 'LTYPE') readLineType(record, name, names);
  else if (record.type === 'STYLE') {
    names.setTextStyle({ name, font: fontOf(record), widthFactor: record.number(41, 1) || 1 });
  } else if (record.type === 'DIMSTYLE')
    names.setDimensionStyle(name, dimensionStyleOf(record, names.standardDimensions));
  else if (record.type === 'LAYER') readLayer(record, name, names);
  else if (record.type === 'VIEW') names.setView(name, viewOf(record));
}

/** A named view: its middle and its size. */
function viewOf(record: Record): Box {
  const [x, y, halfWidth, halfHeight] = [
    record.number(10),
    record.number(20),
    record.number(41) / 2,
    record.number(40) / 2,
  ];
  return { xmin: x - halfWidth, ymin: y - halfHeight, xmax: x + halfWidth, ymax: y + halfHeight };
}

function readLineType(record: Record, name: string, names: NameTables): void {
  const dashes: number[] = [];
  let figures = false;
  for (let i = 0; i < record.count; i++) {
    if (record.codes[i] === 49) dashes.push(record.numberAt(i));
    if (record.codes[i] === 74 && record.numberAt(i) & WITH_FIGURE) figures = true;
  }
  const index = names.setLineType({ name, dashes });
  if (figures) names.withFigures.set(index, { handle: record.text(5), line: record.line });
}

function readLayer(record: Record, name: string, names: NameTables): void {
  const index = record.integer(62, 7);
  const opacity = opacityOf(record);
  const layer = names.setLayer({
    name,
    colour: record.has(420) ? record.integer(420) & TRUE_COLOUR : colourFromIndex(Math.abs(index)),
    weight: record.integer(370, WEIGHT_DEFAULT),
    lineType: names.lineType(record.text(6)),
    off: index < 0,
    frozen: (record.integer(70) & 1) === 1,
    plots: record.integer(290, 1) !== 0 && name.toLowerCase() !== NEVER_PLOTS,
    ...(opacity !== undefined && { opacity }),
  });
  names.setLayerHandle(record.text(5), layer);
}

/** The font file of a text style, or the family that its extended data name where there is no file (published DXF reference, STYLE). */
function fontOf(record: Record): string {
  const file = record.text(3);
  if (file) return file;
  const { from, to } = record.extended('ACAD');
  let [family, flags] = ['', 0];
  for (let i = from; i < to; i++) {
    if (record.codes[i] === 1000) family = record.textAt(i).trim();
    if (record.codes[i] === 1071) flags = record.numberAt(i);
  }
  return family && styledFamily(family, (flags & BOLD) !== 0, (flags & ITALIC) !== 0);
}

/** The transparency of a layer is kept in extended data. */
function opacityOf(record: Record): number | undefined {
  const { from, to } = record.extended('AcCmTransparency');
  for (let i = from; i < to; i++) if (record.codes[i] === 1071) return opacityFrom(record.numberAt(i));
  return undefined;
}
