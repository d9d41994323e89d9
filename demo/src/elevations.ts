import {
  BUILDING_LAYERS,
  DEPTH,
  EAVES,
  FLOOR_1,
  GRID_X,
  GRID_X_NAMES,
  GRID_Y,
  GRID_Y_NAMES,
  GROUND_WALLS,
  LENGTH,
  PARAPET,
  UPPER_WALLS,
  WATER,
  type Wall,
} from './building';
import { corners, DxfWriter, type Point } from './dxf-writer';
import { detailMark, gridBubble, levelMark, note } from './symbols';

const MM = 4;
const U = 100;
/** Where each elevation is in the drawing: its ground level at this y. */
export const SOUTH_Y = 0;
export const NORTH_Y = 20000;
export const EAST_X = 60000;
export const SECTION_Y = 40000;

/** Elevations and the long section in one drawing, each with its own zero level. */
export function elevations(): string {
  const d = new DxfWriter(BUILDING_LAYERS, MM, U);
  south(d);
  north(d);
  east(d);
  section(d);
  return d.toString();
}

function south(d: DxfWriter): void {
  const at = shifted(d, 0, SOUTH_Y);
  facade(d, 0, SOUTH_Y, LENGTH, [GROUND_WALLS[0]!, UPPER_WALLS[0]!]);
  d.on('A-VIEW');
  at.rectangle(10500, 3400, 15000, 500);
  for (const x of [12000, 18000, 24000]) at.rectangle(x - 125, -300, 250, 3700);
  ground(d, 0, SOUTH_Y, -6000, LENGTH + 6000);
  water(d, SOUTH_Y, -6000, LENGTH + 6000);
  axes(d, GRID_X, GRID_X_NAMES, SOUTH_Y, 0);
  levels(d, LENGTH + 7500, SOUTH_Y);
  detailMark(d, [100, SOUTH_Y + PARAPET - 300], 900, [-4200, SOUTH_Y + 10400], '1', 'A-501', U);
}

function north(d: DxfWriter): void {
  const mirrored = [GROUND_WALLS[1]!, UPPER_WALLS[1]!].map((wall) => ({
    ...wall,
    openings: wall.openings?.map((opening) => ({ ...opening, at: LENGTH - opening.at })),
  }));
  facade(d, 0, NORTH_Y, LENGTH, mirrored as Wall[]);
  d.on('A-VIEW').rectangle(LENGTH - 22200, NORTH_Y + 3400, 9600, 350);
  d.text(LENGTH - 20200, NORTH_Y + 3850, 400, 'TERN QUAY');
  ground(d, 0, NORTH_Y, -6000, LENGTH + 6000);
  axes(
    d,
    GRID_X.map((x) => LENGTH - x),
    GRID_X_NAMES,
    NORTH_Y,
    0,
  );
  levels(d, LENGTH + 7500, NORTH_Y);
}

function east(d: DxfWriter): void {
  facade(d, EAST_X, SOUTH_Y, DEPTH, [GROUND_WALLS[3]!, UPPER_WALLS[3]!]);
  d.on('A-VIEW').rectangle(EAST_X - 5200, SOUTH_Y + 3400, 5000, 500);
  d.rectangle(EAST_X - 4525, SOUTH_Y - 300, 250, 3700);
  d.on('L-GRND').polyline(
    [
      [EAST_X - 6000, WATER - 2400],
      [EAST_X - 6000, -300],
      [EAST_X + DEPTH + 6000, -300],
    ],
    false,
  );
  d.on('L-WATR').line(EAST_X - 12000, WATER, EAST_X - 6000, WATER);
  axes(d, GRID_Y, GRID_Y_NAMES, SOUTH_Y, EAST_X);
  levels(d, EAST_X + DEPTH + 7500, SOUTH_Y);
}

/** Outline, cladding, floor band and openings of a wall seen from outside. */
function facade(d: DxfWriter, x: number, y: number, length: number, [lower, upper]: Wall[]): void {
  d.on('A-HATCH');
  for (let s = 300; s < length; s += 300) d.line(x + s, y + 300, x + s, y + EAVES);
  d.on('A-VIEW').rectangle(x - 200, y - 300, length + 400, PARAPET + 300, { weight: 50 });
  d.rectangle(x - 900, y + EAVES, length + 1800, 250, { weight: 35 });
  d.rectangle(x - 200, y + FLOOR_1 - 500, length + 400, 300);
  openings(d, lower!, x, y);
  openings(d, upper!, x, y + FLOOR_1);
}

function openings(d: DxfWriter, wall: Wall, x: number, y: number): void {
  for (const { at, width, kind, sill = 0, head = 2200 } of wall.openings ?? []) {
    const [left, height] = [x + at - width / 2, head - sill];
    const glass = kind === 'window' || kind === 'double';
    d.on('A-VIEW').fillRectangle(left, y + sill, width, height, { trueColour: glass ? 0xdfe8ec : 0xffffff });
    d.on('A-GLAZ').rectangle(left, y + sill, width, height, { weight: 35 });
    d.rectangle(left + 80, y + sill + 80, width - 160, height - 160);
    if (glass) d.line(x + at, y + sill + 80, x + at, y + head - 80);
    if (kind === 'window')
      d.on('A-VIEW').line(left - 100, y + sill - 40, left + width + 100, y + sill - 40, { weight: 35 });
  }
}

/** Section A-A through the ticket hall, looking east: slabs, roof, quay wall and piles, cut parts filled. */
function section(d: DxfWriter): void {
  const y = SECTION_Y;
  const cut = (points: readonly Point[]): void => {
    const moved = points.map(([px, py]): Point => [px, py + y]);
    d.on('A-WALL-FILL').fill([moved], { trueColour: 0x8c8c8c });
    d.on('A-CUT').polyline(moved);
  };
  const at = shifted(d, 0, y);
  cut(corners(-6000, -900, DEPTH + 10000, 600));
  cut(corners(-200, -300, DEPTH + 400, 300));
  cut(corners(10800, FLOOR_1 - 400, DEPTH - 10800 + 200, 350));
  cut(corners(-900, EAVES, DEPTH + 1800, 350));
  for (const x of [-200, DEPTH - 200]) {
    cut(corners(x, 2600, 400, FLOOR_1 + 900 - 2600));
    cut(corners(x, FLOOR_1 + 2700, 400, PARAPET - FLOOR_1 - 2700));
  }
  cut(corners(-5200, 3400, 5000, 250));
  cut(corners(-6400, -4800, 400, 4500));
  for (const x of [-4400, 2000, 8400, 14800]) cut(corners(x - 200, -6800, 400, 5900));
  d.on('A-VIEW');
  at.rectangle(-4525, -300, 250, 3700);
  at.line(10725, FLOOR_1 - 50, 10725, FLOOR_1 + 1050);
  for (let x = 800; x < 10500; x += 2400) at.rectangle(x, FLOOR_1 + 900, 2000, 1800);
  at.rectangle(11400, 0, 1000, 2200);
  at.rectangle(2600, 0, 2400, 2600);
  at.line(-200, FLOOR_1 - 100, 10600, FLOOR_1 - 100);
  d.on('A-HATCH');
  for (let x = -5800; x < DEPTH + 3800; x += 400) at.line(x, -900, x - 500, -1400);
  d.on('L-WATR').line(-14000, y + WATER, -6400, y + WATER, { weight: 35 });
  for (let i = 0; i < 3; i++)
    d.line(-13600 + i * 600, y + WATER - 250 * (i + 1), -7000 - i * 600, y + WATER - 250 * (i + 1));
  d.on('A-VIEW').polyline([
    [-6100, y - 300],
    [-13800, y - 1500],
    [-13800, y - 1750],
    [-6100, y - 600],
  ]);
  at.rectangle(-15200, -1900, 1900, 900);
  axes(d, GRID_Y, GRID_Y_NAMES, y, 0);
  levels(d, DEPTH + 6500, y);
  for (const [x, py, name] of [
    [5200, 1500, '0.02 Ticket hall'],
    [13600, 5700, '1.04 Gallery'],
    [13600, 1500, '0.02 Ticket hall'],
  ] as const) {
    d.on('A-AREA-IDEN').text(x, y + py, 2.5 * U, name, { align: 'centre' });
  }
  detailMark(d, [-200, y + EAVES], 900, [-4600, y + 11000], '1', 'A-501', U);
  detailMark(d, [-6200, y - 500], 900, [-10400, y + 2200], '3', 'A-501', U);
  note(d, [-14000, y - 1500], [-17500, y + 900], ['Bridge and pontoon,', 'see A-502'], 2.5 * U);
  note(d, [2000, y - 5200], [4200, y - 7400], ['Bored piles Ø 400'], 2.5 * U);
  d.on('A-ANNO-DIMS').dimension([DEPTH + 200, y], [DEPTH + 200, y + FLOOR_1], 2200, 2.5 * U);
  d.dimension([DEPTH + 200, y + FLOOR_1], [DEPTH + 200, y + EAVES], 2200, 2.5 * U);
}

function ground(d: DxfWriter, x: number, y: number, from: number, to: number): void {
  d.on('L-GRND').line(x + from, y - 300, x + to, y - 300);
}

function water(d: DxfWriter, y: number, from: number, to: number): void {
  d.on('A-VIEW').rectangle(from, y + WATER - 500, to - from, -WATER + 200, { weight: 25 });
  d.on('L-WATR');
  for (let i = 0; i < 4; i++)
    d.line(from + i * 900, y + WATER - 600 - i * 220, to - i * 900, y + WATER - 600 - i * 220);
}

function axes(d: DxfWriter, positions: readonly number[], names: readonly string[], y: number, x: number): void {
  positions.forEach((position, i) => {
    d.on('A-GRID').line(x + position, y - 1200, x + position, y + 10600);
    gridBubble(d, x + position, y + 11000, names[i]!, U);
  });
}

function levels(d: DxfWriter, x: number, y: number): void {
  for (const [height, name] of [
    [0, 'Ground floor'],
    [FLOOR_1, 'Upper floor'],
    [EAVES, 'Eaves'],
    [PARAPET + 300, 'Parapet'],
  ] as const) {
    levelMark(d, x, y + height, height, name, U);
  }
}

/** Drawing calls moved by (dx, dy). */
function shifted(d: DxfWriter, dx: number, dy: number) {
  return {
    line: (x0: number, y0: number, x1: number, y1: number): void => d.line(x0 + dx, y0 + dy, x1 + dx, y1 + dy),
    rectangle: (x: number, y: number, w: number, h: number): void => d.rectangle(x + dx, y + dy, w, h),
  };
}
