import type { HorizontalAlign, Style, TextColumns, TextEntity, VerticalAlign } from '../../drawing/model';
import { isMirrored } from './projection';
import type { NameTables } from './names';
import { embeddedGroups, type Record, type TextGroups } from './record';
import { isPlain, mtextLines, plainLines } from './mtext';
import { decodeDxfText } from './text';

const RADIANS = Math.PI / 180;
const BACKWARDS = 2;
const UPSIDE_DOWN = 4;
const HORIZONTAL: readonly HorizontalAlign[] = ['left', 'centre', 'right', 'aligned', 'centre', 'fit'];
const VERTICAL: readonly VerticalAlign[] = ['baseline', 'bottom', 'middle', 'top'];

/** ATTRIB and ATTDEF. One of several lines keeps them, and their position, in an embedded MTEXT. */
export function readAttribute(record: Record, style: Style, handle: string, names: NameTables): TextEntity {
  const embedded = embeddedGroups(record);
  if (!embedded?.has(1)) return readText(record, style, handle, names);
  const text = readMtext(embedded, style, handle, names);
  return embedded.has(7) ? text : { ...text, textStyle: names.textStyle(record.text(7, 'STANDARD')) };
}

/** TEXT and ATTRIB. Anything but left-aligned baseline text is anchored at its second point (codes 11 and 21). */
export function readText(record: Record, style: Style, handle: string, names: NameTables): TextEntity {
  const mirrored = isMirrored(record);
  const mirror = mirrored ? -1 : 1;
  const alignCode = record.integer(72);
  const horizontal = HORIZONTAL[alignCode] ?? 'left';
  const vertical =
    alignCode === 4 ? 'middle' : (VERTICAL[record.integer(record.type === 'ATTRIB' ? 74 : 73)] ?? 'baseline');
  const stretched = horizontal === 'fit' || horizontal === 'aligned';
  const second = record.has(11) && !stretched && (horizontal !== 'left' || vertical !== 'baseline');
  const flags = record.integer(71);
  return {
    kind: 'text',
    style,
    handle,
    lines: [decodeDxfText(record.text(1))],
    x: mirror * record.number(second ? 11 : 10),
    y: record.number(second ? 21 : 20),
    x2: mirror * record.number(11),
    y2: record.number(21),
    height: record.number(40, 1),
    rotation: mirror * record.number(50) * RADIANS,
    widthFactor: record.number(41, 1) || 1,
    oblique: record.number(51) * RADIANS,
    backwards: ((flags & BACKWARDS) !== 0) !== mirrored,
    upsideDown: (flags & UPSIDE_DOWN) !== 0,
    horizontal,
    vertical,
    wrapWidth: 0,
    lineSpacing: 1,
    textStyle: names.textStyle(record.text(7, 'STANDARD')),
  };
}

/** MTEXT. Its text comes in pieces of 250 characters (code 3) with the rest last (code 1). */
export function readMtext(
  record: TextGroups,
  style: Style,
  handle: string,
  names: NameTables,
  columns?: TextColumns,
): TextEntity {
  let raw = '';
  for (let i = 0; i < record.count; i++) {
    if (record.codes[i] === 3 || record.codes[i] === 1) raw += record.textAt(i);
  }
  const attachment = Math.min(9, Math.max(1, record.integer(71, 1))) - 1;
  const textStyle = names.textStyle(record.text(7, 'STANDARD'));
  return {
    ...spannedText(raw, record.number(40, 1), style, handle, columns),
    x: record.number(10),
    y: record.number(20),
    rotation: record.has(11) ? Math.atan2(record.number(21), record.number(11)) : record.number(50) * RADIANS,
    widthFactor: names.textStyles[textStyle]?.widthFactor ?? 1,
    horizontal: (['left', 'centre', 'right'] as const)[attachment % 3]!,
    vertical: (['top', 'middle', 'bottom'] as const)[Math.floor(attachment / 3)]!,
    wrapWidth: Math.max(0, columns?.width ?? record.number(41)),
    lineSpacing: record.number(44, 1) || 1,
    textStyle,
  };
}

/** A text in one look throughout. */
export function plainTextOf({ rich: _rich, columns: _columns, ...text }: TextEntity): TextEntity {
  return text;
}

/** A text at the origin, hanging from its upper left corner, with the looks that its MTEXT codes give it. */
export function spannedText(
  raw: string,
  height: number,
  style: Style,
  handle: string,
  columns?: TextColumns,
): TextEntity {
  const lines = mtextLines(raw, height);
  return {
    kind: 'text',
    style,
    handle,
    lines: plainLines(lines),
    ...((columns || !isPlain(lines)) && { rich: lines }),
    ...(columns && { columns }),
    x: 0,
    y: 0,
    x2: 0,
    y2: 0,
    height,
    rotation: 0,
    widthFactor: 1,
    oblique: 0,
    backwards: false,
    upsideDown: false,
    horizontal: 'left',
    vertical: 'top',
    wrapWidth: 0,
    lineSpacing: 1,
    textStyle: 0,
  };
}
