import type { PlotSettings, Style, ViewportEntity } from '../../drawing/model';
import type { Box } from '../../geometry/box';
import type { Vector } from '../../geometry/vector';
import type { NameTables } from './names';
import type { Record } from './record';
import { projectPoint } from './projection';
import type { Projections } from './projections';

const RADIANS = Math.PI / 180;
const INCH = 0;
const MM_PER_INCH = 25.4;
const OFF = 0x20000;
const CLIPPED_BY_OUTLINE = 0x10000;
/** The viewport that is the paper itself. */
const PAPER_ITSELF = 1;
const FLAT = 1e-9;

/** Flags of a plot (code 70). */
const [CENTRED, STANDARD_SCALE, SCALED_WEIGHTS] = [4, 16, 64];
/** The standard scale (code 75) that fits the plotted area to the paper. */
const FIT = 0;
/** What is plotted (code 74). */
const [DISPLAY, EXTENTS, LIMITS, VIEW, WINDOW, LAYOUT] = [0, 1, 2, 3, 4, 5];
const CORNERS: { readonly [type: number]: readonly [number, number, number, number] } = {
  [EXTENTS]: [14, 24, 15, 25],
  [LIMITS]: [10, 20, 11, 21],
  [WINDOW]: [48, 49, 140, 141],
};
/** What is plotted, in words, where it cannot be found in the file. */
const UNFOUND: { readonly [type: number]: string } = {
  [DISPLAY]: 'what was on the screen last',
  [EXTENTS]: 'its extents, which the file does not state',
  [LIMITS]: 'its limits, which the file does not state',
  [VIEW]: 'a named view that is not in the file',
  [WINDOW]: 'a window, which the file does not state',
};

export interface LaidOut {
  /** Undefined where no paper is given. */
  plot: PlotSettings | undefined;
  /** What is plotted, in words, where it cannot be found in the file: the whole layout stands for it. */
  unfound?: string;
}

/**
 * The plot settings of a LAYOUT (DXF reference, PLOTSETTINGS). Sizes and margins are in mm whatever the plot unit;
 * turning the plot turns the sheet and carries its margins round with it. Of a layout plotted whole, paper 0,0 lies at
 * the margin plus the offset; of a part of it, the lower left corner of that part, or its middle in the printable area.
 */
export function plotSettingsOf(record: Record, viewOf: (name: string) => Box | undefined = () => undefined): LaidOut {
  const [width, height] = [record.number(44), record.number(45)];
  if (!(width > 0 && height > 0)) return { plot: undefined };
  const turn = ((record.integer(73) % 4) + 4) % 4;
  // What lies around the printable area once the sheet is turned counter-clockwise so many quarters.
  const margins = [40, 41, 42, 43].map((code) => record.number(code));
  const [left, bottom, right, top] = [0, 1, 2, 3].map((side) => margins[(turn + side) % 4]!) as [
    number,
    number,
    number,
    number,
  ];
  const paper = turn % 2 ? { width: height, height: width } : { width, height };
  const unit = record.integer(72, 1) === INCH ? MM_PER_INCH : 1;
  const [over, under] = [record.number(142, 1), record.number(143, 1)];
  const flags = record.integer(70);
  const type = record.integer(74, LAYOUT);
  const solid = plotsTransparency(record) ? {} : { opaque: true };
  const stated = unit * (over > 0 && under > 0 ? over / under : 1);
  const area = type === LAYOUT ? undefined : areaOf(record, type, viewOf);
  const [originX, originY] = [left + record.number(46), bottom + record.number(47)];
  if (!area) {
    const plot = { paper, originX, originY, mmPerUnit: stated, ...weights(flags, stated / unit), ...solid };
    return { plot, ...(type !== LAYOUT && { unfound: UNFOUND[type] ?? 'a part of it that is not known' }) };
  }
  const [across, up] = [area.xmax - area.xmin, area.ymax - area.ymin];
  const room = { width: paper.width - left - right, height: paper.height - bottom - top };
  const fits = (flags & STANDARD_SCALE) !== 0 && record.integer(75, -1) === FIT;
  const mmPerUnit = fits ? Math.min(room.width / across, room.height / up) : stated;
  const [x, y] =
    flags & CENTRED
      ? [left + (room.width - across * mmPerUnit) / 2, bottom + (room.height - up * mmPerUnit) / 2]
      : [originX, originY];
  const placed = { originX: x - area.xmin * mmPerUnit, originY: y - area.ymin * mmPerUnit };
  return { plot: { paper, ...placed, mmPerUnit, clip: area, ...weights(flags, mmPerUnit / unit), ...solid } };
}

/**
 * Whether a layout plots transparency, which is kept in its extended data (from memory). A layout without them was
 * written by a program that has no such setting.
 */
function plotsTransparency(record: Record): boolean {
  const { from, to } = record.extended('PLOTTRANSPARENCY');
  for (let i = from; i < to; i++) if (record.codes[i] === 1071) return record.numberAt(i) !== 0;
  return true;
}

/** Line weights are scaled with the plot on request. */
function weights(flags: number, factor: number): Pick<PlotSettings, 'weightFactor'> {
  return flags & SCALED_WEIGHTS && factor !== 1 ? { weightFactor: factor } : {};
}

function areaOf(record: Record, type: number, viewOf: (name: string) => Box | undefined): Box | undefined {
  if (type === VIEW) return viewOf(record.text(6));
  const codes = CORNERS[type];
  if (!codes) return undefined;
  const [xmin, ymin, xmax, ymax] = codes.map((code) => record.number(code)) as [number, number, number, number];
  return xmax > xmin && ymax > ymin ? { xmin, ymin, xmax, ymax } : undefined;
}

/** What a viewport shows of the model; lengths in model units, the twist in degrees. */
interface Seen {
  height: number;
  viewX: number;
  viewY: number;
  target: Vector;
  /** Towards the viewer. */
  direction: Vector;
  twist: number;
  /** Indices of layers. */
  frozen: number[];
}

/** Flag of a viewport (code 90): it shows the model in perspective. */
const PERSPECTIVE = 1;

/** A viewport, and in which way it is shown differently from its program. */
interface ReadViewport {
  viewport: ViewportEntity;
  unlike?: string;
}

const FROM_ANOTHER_SIDE =
  'looks at the model from another side; all edges are shown, including those hidden in its program';
const FROM_TOO_MANY = 'looks at the model from another side, one of too many in the file; it is shown as a plan';
const IN_PERSPECTIVE = 'shows the model in perspective; it is shown in parallel projection';

/** A VIEWPORT; undefined for the one that is the paper, and for those that are off or show nothing. */
export function readViewport(
  record: Record,
  style: Style,
  handle: string,
  names: NameTables,
  projections: Projections,
): ReadViewport | undefined {
  const flags = record.integer(90);
  const [width, height] = [record.number(40), record.number(41)];
  if (record.integer(69) === PAPER_ITSELF || record.integer(68, 1) === 0 || flags & OFF) return undefined;
  const {
    height: viewHeight,
    twist,
    target,
    direction,
    ...seen
  } = record.has(45) ? seenByCodes(record, names) : seenOfR12(record, names);
  if (!(width > 0 && height > 0 && viewHeight > 0)) return undefined;
  const [dx, dy, dz] = direction;
  const isPlan = Math.hypot(dx, dy) < FLAT * dz || Math.hypot(...direction) === 0;
  const projected = isPlan ? undefined : projections.from(direction);
  const [targetX, targetY] = projected ? projectPoint(projected.projection, target) : target;
  const viewport: ViewportEntity = {
    kind: 'viewport',
    style,
    handle,
    cx: record.number(10),
    cy: record.number(20),
    width,
    height,
    ...seen,
    targetX,
    targetY,
    twist: twist * RADIANS,
    scale: height / viewHeight,
    outline: flags & CLIPPED_BY_OUTLINE ? record.text(340) : undefined,
    ...(projected && { projection: projected.index }),
  };
  const fromElsewhere = projected ? FROM_ANOTHER_SIDE : FROM_TOO_MANY;
  const unlike = flags & PERSPECTIVE ? IN_PERSPECTIVE : isPlan ? undefined : fromElsewhere;
  return { viewport, ...(unlike && { unlike }) };
}

function seenByCodes(record: Record, names: NameTables): Seen {
  const frozen: string[] = [];
  for (let i = 0; i < record.count; i++)
    if (record.codes[i] === 331 || record.codes[i] === 341) frozen.push(record.textAt(i));
  return {
    height: record.number(45),
    viewX: record.number(12),
    viewY: record.number(22),
    target: [record.number(17), record.number(27), record.number(37)],
    direction: [record.number(16), record.number(26), record.number(36, 1)],
    twist: record.number(51),
    frozen: frozen.flatMap((layer) => names.layerOfHandle(layer) ?? []),
  };
}

/**
 * R12 keeps it in extended data, in a fixed order: the target, the direction, then as reals the twist, the height of the
 * view, its middle in x and in y; and in the end the names of frozen layers.
 */
function seenOfR12(record: Record, names: NameTables): Seen {
  const { points, reals, layers } = dataOfR12(record);
  const [target = [0, 0, 0], direction = [0, 0, 1]] = points;
  const [twist = 0, height = 0, viewX = 0, viewY = 0] = reals;
  return { twist, height, viewX, viewY, target, direction, frozen: layers.map((name) => names.layer(name)) };
}

function dataOfR12(record: Record): { points: [x: number, y: number, z: number][]; reals: number[]; layers: string[] } {
  const { from, to } = record.extended('ACAD');
  const data: ReturnType<typeof dataOfR12> = { points: [], reals: [], layers: [] };
  for (let i = from; i < to; i++) {
    const [code, point] = [record.codes[i], data.points.at(-1)];
    if (code === 1010) data.points.push([record.numberAt(i), 0, 0]);
    else if (code === 1020 && point) point[1] = record.numberAt(i);
    else if (code === 1030 && point) point[2] = record.numberAt(i);
    else if (code === 1040) data.reals.push(record.numberAt(i));
    else if (code === 1003) data.layers.push(record.textAt(i));
  }
  return data;
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
