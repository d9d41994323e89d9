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
 * carries its margins round with it. Undefined where no paper is given.
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

/** What a viewport shows of the model; lengths in model units, the twist in degrees. */
interface Seen {
  height: number;
  viewX: number;
  viewY: number;
  targetX: number;
  targetY: number;
  twist: number;
  /** Indices of layers. */
  frozen: number[];
}

/** A VIEWPORT; undefined for the one that is the paper, and for those that are off or show nothing. */
export function readViewport(
  record: Record,
  style: Style,
  handle: string,
  names: NameTables,
): ViewportEntity | undefined {
  const flags = record.integer(90);
  const [width, height] = [record.number(40), record.number(41)];
  if (record.integer(69) === PAPER_ITSELF || record.integer(68, 1) === 0 || flags & OFF) return undefined;
  const { height: viewHeight, twist, ...seen } = record.has(45) ? seenByCodes(record, names) : seenOfR12(record, names);
  if (!(width > 0 && height > 0 && viewHeight > 0)) return undefined;
  return {
    kind: 'viewport',
    style,
    handle,
    cx: record.number(10),
    cy: record.number(20),
    width,
    height,
    ...seen,
    twist: twist * RADIANS,
    scale: height / viewHeight,
    outline: flags & CLIPPED_BY_OUTLINE ? record.text(340) : undefined,
  };
}

function seenByCodes(record: Record, names: NameTables): Seen {
  const frozen: string[] = [];
  for (let i = 0; i < record.count; i++)
    if (record.codes[i] === 331 || record.codes[i] === 341) frozen.push(record.textAt(i));
  return {
    height: record.number(45),
    viewX: record.number(12),
    viewY: record.number(22),
    targetX: record.number(17),
    targetY: record.number(27),
    twist: record.number(51),
    frozen: frozen.flatMap((layer) => names.layerOfHandle(layer) ?? []),
  };
}

/**
 * R12 keeps it in extended data, in a fixed order: the target, the direction, then as reals the twist, the height of the
 * view, its middle in x and in y; and in the end the names of frozen layers.
 */
function seenOfR12(record: Record, names: NameTables): Seen {
  const [TARGET_X, TARGET_Y, REAL, LAYER] = [1010, 1020, 1040, 1003];
  const { from, to } = record.extended('ACAD');
  const seen = { height: 0, viewX: 0, viewY: 0, targetX: 0, targetY: 0, twist: 0, frozen: [] as number[] };
  const reals: number[] = [];
  let targets = 0;
  for (let i = from; i < to; i++) {
    const code = record.codes[i];
    if (code === REAL) reals.push(record.numberAt(i));
    else if (code === LAYER) seen.frozen.push(names.layer(record.textAt(i)));
    // The second of the points is the direction.
    else if (code === TARGET_X && targets++ === 0) seen.targetX = record.numberAt(i);
    else if (code === TARGET_Y && targets === 1) seen.targetY = record.numberAt(i);
  }
  [seen.twist, seen.height, seen.viewX, seen.viewY] = [reals[0] ?? 0, reals[1] ?? 0, reals[2] ?? 0, reals[3] ?? 0];
  return seen;
}

/** Paper limits up to this long are taken for inches, longer ones for mm (common practice; R12 does not say). */
const MAX_IN_INCHES = 100;

/** How the one layout of an R12 drawing lies on its paper: by the limits of its paper space. Undefined without any. */
export function plotOfLimits([xmin, ymin, xmax, ymax]: readonly number[]): PlotSettings | undefined {
  const [width, height] = [(xmax ?? 0) - (xmin ?? 0), (ymax ?? 0) - (ymin ?? 0)];
  if (!(width > 0 && height > 0)) return undefined;
  const mmPerUnit = Math.max(width, height) <= MAX_IN_INCHES ? MM_PER_INCH : 1;
  return {
    paper: { width: width * mmPerUnit, height: height * mmPerUnit },
    originX: -(xmin ?? 0) * mmPerUnit,
    originY: -(ymin ?? 0) * mmPerUnit,
    mmPerUnit,
  };
}
