import type { Box } from '../geometry/box';
import { Path } from '../geometry/path';
import { scaleOfSheet, type Scale } from '../measure/scale';
import { translation } from '../geometry/affine';
import { describePaper, type PaperSize } from '../paper/sizes';
import type { PageBuilder } from '../page/builder';
import type { FontId } from '../text/fonts';
import { textAdvance, type FontSet } from '../text/layout';
import { emOf, placeLettering } from './lettering';
import type { ProjectFacts, Sheet } from './model';

/** Width of the block in the lower right corner, mm (ISO 7200:2004, at most 180 mm; from memory). */
export const TITLE_BLOCK_WIDTH_MM = 180;
export const TITLE_BLOCK_HEIGHT_MM = 54;

const OUTLINE_MM = 0.5;
const RULE_MM = 0.25;
const CAPTION_MM = 1.8;
const PADDING_MM = 1.6;
const INK = 0x000000;

/** One cell: a small caption above a value. Position from the block's lower left corner, mm. */
interface Cell {
  caption: string;
  value: string;
  x: number;
  y: number;
  width: number;
  height: number;
  /** Height of the value's capitals, mm. */
  size: number;
  font?: FontId;
}

/** Everything a title block tells; derived, never typed twice. */
export interface TitleFacts {
  project: ProjectFacts;
  sheet: Sheet;
  paper: PaperSize;
  scales: readonly Scale[];
}

/** Draws the title block with its lower right corner in the lower right corner of `frame`. */
export function drawTitleBlock(builder: PageBuilder, fonts: FontSet, frame: Box, facts: TitleFacts): void {
  const x = frame.xmax - TITLE_BLOCK_WIDTH_MM;
  const y = frame.ymin;
  const layer = builder.layer('', 'Title block');
  const path = new Path();
  rectangle(path, x, y, TITLE_BLOCK_WIDTH_MM, TITLE_BLOCK_HEIGHT_MM);
  builder.fill(path, layer, builder.pen(0, 0xffffff));
  for (const cell of cellsOf(facts)) {
    path.clear();
    rectangle(path, x + cell.x, y + cell.y, cell.width, cell.height);
    builder.stroke(path, layer, builder.pen(RULE_MM, INK, [], false));
    writeCell(builder, fonts, layer, cell, x, y);
  }
  path.clear();
  rectangle(path, x, y, TITLE_BLOCK_WIDTH_MM, TITLE_BLOCK_HEIGHT_MM);
  builder.stroke(path, layer, builder.pen(OUTLINE_MM, INK, [], false));
}

function cellsOf({ project, sheet, paper, scales }: TitleFacts): Cell[] {
  const own = sheet.titleBlock?.fields ?? {};
  const revision = sheet.revision;
  const cell = (
    caption: string,
    value: string,
    [x, y, width, height]: [number, number, number, number],
    size: number,
  ): Cell => ({ caption, value, x, y, width, height, size });
  return [
    { ...cell('Legal owner', own['owner'] ?? '', [0, 38, 70, 16], 3.5), font: 'condensed' },
    cell('Project', project.name, [70, 38, 74, 16], 3.5),
    cell('Project no.', project.number, [144, 38, 36, 16], 3.5),
    cell('Title', sheet.title, [0, 22, 110, 16], 5),
    cell('Client', project.client, [110, 22, 70, 16], 2.5),
    cell('Creator', own['creator'] ?? '', [0, 11, 35, 11], 2.5),
    cell('Approval person', own['approval'] ?? '', [35, 11, 35, 11], 2.5),
    cell('Document type', own['type'] ?? '', [0, 0, 40, 11], 2.5),
    cell('Status', own['status'] ?? '', [40, 0, 30, 11], 2.5),
    cell('Scale', scaleOfSheet(scales), [70, 11, 40, 11], 3.5),
    cell('Paper', describePaper(paper), [70, 0, 40, 11], 3.5),
    cell('Date of issue', revision?.date ?? '', [110, 11, 34, 11], 2.5),
    cell('Revision', revision?.index ?? '', [110, 0, 34, 11], 3.5),
    { ...cell('Sheet', sheet.number, [144, 0, 36, 22], 7), font: 'condensed' },
  ];
}

function writeCell(builder: PageBuilder, fonts: FontSet, layer: number, cell: Cell, x: number, y: number): void {
  const pen = builder.pen(0, INK);
  const line = (text: string, height: number, font: FontId, left: number, bottom: number, room: number): void => {
    const natural = textAdvance(fonts, font, text) * emOf(fonts, font, height);
    // A long value is set narrower rather than lower, so that it stays as readable as its neighbours.
    const widthFactor = natural > room ? room / natural : 1;
    const lettering = {
      lines: [text],
      font,
      height,
      widthFactor,
      horizontal: 'left',
      vertical: 'baseline',
      lineSpacing: 1,
    } as const;
    for (const placed of placeLettering(fonts, lettering, translation(left, bottom))) {
      builder.text(placed.text, placed.box, layer, pen);
    }
  };
  const room = cell.width - 2 * PADDING_MM;
  const left = x + cell.x + PADDING_MM;
  const captionBottom = y + cell.y + cell.height - PADDING_MM - CAPTION_MM;
  line(cell.caption, CAPTION_MM, 'sans', left, captionBottom, room);
  const free = cell.height - 2 * PADDING_MM - CAPTION_MM;
  line(
    cell.value,
    cell.size,
    cell.font ?? 'sans',
    left,
    y + cell.y + PADDING_MM + Math.max(0, (free - cell.size) / 2 - 0.3),
    room,
  );
}

function rectangle(path: Path, x: number, y: number, width: number, height: number): void {
  path.moveTo(x, y);
  path.lineTo(x + width, y);
  path.lineTo(x + width, y + height);
  path.lineTo(x, y + height);
  path.close();
}
