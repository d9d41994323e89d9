import type { PlainEntity, Style } from '../../drawing/model';
import type { NameTables } from './names';
import type { Record } from './record';
import { spannedText } from './texts';
import { Path } from '../../geometry/path';
import { pathEntity } from './curves';

/** Letters of the symbol font that tolerances are written in, by what they show (ISO 1101 symbols; common practice). */
const SYMBOLS: Readonly<{ [letter: string]: string }> = {
  a: '∠',
  b: '⟂',
  c: '⏥',
  d: '⌓',
  e: '○',
  f: '∥',
  g: '⌭',
  h: '↗',
  i: '⌯',
  j: '⌖',
  k: '⌒',
  l: 'Ⓛ',
  m: 'Ⓜ',
  n: '⌀',
  o: '□',
  p: 'Ⓟ',
  r: '◎',
  s: 'Ⓢ',
  t: '⌰',
  u: '⏤',
};
/** Height of a compartment, and width of a character and of the space next to it, over the height of the text. */
const [ROW, CHARACTER, PADDING] = [2, 0.95, 1];

/** TOLERANCE: its compartments in rows, each a box with its text, along the direction it states. */
export function drawTolerance(record: Record, style: Style, handle: string, names: NameTables): PlainEntity[] {
  const looks = names.dimensionLooks(record.text(3, 'STANDARD'));
  const height = looks.textHeight * looks.scale;
  const turn = Math.atan2(record.number(21), record.number(11, 1));
  const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
  const at = (x: number, y: number): [number, number] => [
    record.number(10) + x * cos - y * sin,
    record.number(20) + x * sin + y * cos,
  ];
  const boxes = new Path();
  const texts: PlainEntity[] = [];
  rowsOf(record.text(1)).forEach((cells, row) => {
    let x = 0;
    const y = -row * ROW * height;
    for (const cell of cells) {
      const width = ([...cell].length * CHARACTER + PADDING) * height;
      const half = (ROW * height) / 2;
      boxes.moveTo(...at(x, y - half));
      boxes.lineTo(...at(x + width, y - half));
      boxes.lineTo(...at(x + width, y + half));
      boxes.lineTo(...at(x, y + half));
      boxes.close();
      const [tx, ty] = at(x + width / 2, y);
      const text = spannedText(cell, height, style, handle);
      texts.push({ ...text, x: tx, y: ty, rotation: turn, horizontal: 'centre', vertical: 'middle' });
      x += width;
    }
  });
  return texts.length > 0 ? [pathEntity(boxes, style, handle), ...texts] : [];
}

/** Rows (`^J`) of compartments (`%%v`), the empty ones left out, symbols as characters. */
function rowsOf(raw: string): string[][] {
  const plain = raw.replace(/\{\\Fgdt;([^}]*)\}/gi, (_, letters: string) =>
    [...letters].map((letter) => SYMBOLS[letter.toLowerCase()] ?? letter).join(''),
  );
  return plain
    .split(/\^J|\\P|\n/)
    .map((row) => row.split(/%%v/i).map((cell) => cell.trim()))
    .map((cells) => cells.filter((cell) => cell !== ''))
    .filter((cells) => cells.length > 0);
}
