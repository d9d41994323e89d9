import type { PlotSettings, Style, ViewportEntity } from '../../drawing/model';
import type { NameTables } from './names';
import type { Record } from './record';

const RADIANS = Math.PI / 180;
const INCH = 0;
const MM_PER_INCH = 25.4;
const OFF = 0x20000;
const CLIPPED_BY_OUTLINE = 0x10000;
/** The viewport that is the paper itself. */
const PAPER_ITSELF = 1;

/**
 * The plot settings of a LAYOUT. Sizes and margins are in mm whatever the plot unit; turning the plot turns the sheet and
 * carries its margins round with it. Undefined where no paper is stated.
 */
export function plotSettingsOf(record: Record): PlotSettings | undefined {
  const [width, height] = [record.number(44), record.number(45)];
  if (!(width > 0 && height > 0)) return undefined;
  const turn = ((record.integer(73) % 4) + 4) % 4;
  const [left, bottom, right, top] = [40, 41, 42, 43].map((code) => record.number(code)) as [
    number,
    number,
    number,
    number,
  ];
  // What lies left of and below the drawing area once the sheet is turned counter-clockwise so many quarters.
  const [marginX, marginY] = (
    [
      [left, bottom],
      [bottom, right],
      [right, top],
      [top, left],
    ] as const
  )[turn]!;
  const unit = record.integer(72, 1) === INCH ? MM_PER_INCH : 1;
  const [over, under] = [record.number(142, 1), record.number(143, 1)];
  return {
    paper: turn % 2 ? { width: height, height: width } : { width, height },
    originX: marginX + record.number(46),
    originY: marginY + record.number(47),
    mmPerUnit: unit * (over > 0 && under > 0 ? over / under : 1),
  };
}

/** A VIEWPORT; undefined for the one that is the paper, and for those that are off or show nothing. */
export function readViewport(
  record: Record,
  style: Style,
  handle: string,
  names: NameTables,
): ViewportEntity | undefined {
  const flags = record.integer(90);
  const [width, height, viewHeight] = [record.number(40), record.number(41), record.number(45)];
  if (record.integer(69) === PAPER_ITSELF || record.integer(68, 1) === 0 || flags & OFF) return undefined;
  if (!(width > 0 && height > 0 && viewHeight > 0)) return undefined;
  const frozen: string[] = [];
  for (let i = 0; i < record.count; i++)
    if (record.codes[i] === 331 || record.codes[i] === 341) frozen.push(record.textAt(i));
  return {
    kind: 'viewport',
    style,
    handle,
    cx: record.number(10),
    cy: record.number(20),
    width,
    height,
    viewX: record.number(12),
    viewY: record.number(22),
    targetX: record.number(17),
    targetY: record.number(27),
    twist: record.number(51) * RADIANS,
    scale: height / viewHeight,
    frozen: frozen.flatMap((layer) => names.layerOfHandle(layer) ?? []),
    outline: flags & CLIPPED_BY_OUTLINE ? record.text(340) : undefined,
  };
}
