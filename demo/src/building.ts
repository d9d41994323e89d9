import type { LayerSpec } from './dxf-tables';

/** The ferry terminal in millimetres: grid lines 1…7 along the quay, A…D across it. Everything here is made up. */
export const GRID_X = [0, 6000, 12000, 18000, 24000, 30000, 36000];
export const GRID_Y = [0, 6000, 12000, 16800];
export const GRID_X_NAMES = ['1', '2', '3', '4', '5', '6', '7'];
export const GRID_Y_NAMES = ['A', 'B', 'C', 'D'];

export const LENGTH = 36000;
export const DEPTH = 16800;
export const OUTER = 400;
export const INNER = 150;

/** Heights above the finished ground floor. */
export const FLOOR_1 = 4200;
export const EAVES = 7800;
export const PARAPET = 8400;
/** Water level and quay edge. */
export const WATER = -2100;

export interface Opening {
  /** Distance of its middle along the wall from the wall's start. */
  at: number;
  width: number;
  kind: 'door' | 'double' | 'window' | 'gap';
  /** Which way a door swings: side of the wall and end it hangs on. */
  swing?: 1 | -1;
  hinge?: 'start' | 'end';
  sill?: number;
  head?: number;
}

export interface Wall {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
  thickness: number;
  openings?: Opening[];
}

export interface Room {
  number: string;
  name: string;
  x: number;
  y: number;
  width: number;
  depth: number;
  /** Position of the tag in the room, 0…1 across and up. */
  tagAt?: readonly [number, number];
}

const windows = (...at: number[]): Opening[] =>
  at.map((a) => ({ at: a, width: 2400, kind: 'window', sill: 900, head: 2700 }));
const door = (at: number, swing: 1 | -1 = 1, hinge: 'start' | 'end' = 'start', width = 1000): Opening => ({
  at,
  width,
  kind: 'door',
  swing,
  hinge,
  sill: 0,
  head: 2200,
});
const wide = (at: number, width = 2400, swing: 1 | -1 = 1): Opening => ({
  at,
  width,
  kind: 'double',
  swing,
  sill: 0,
  head: 2600,
});

/** South faces the water, north the town. */
export const GROUND_WALLS: Wall[] = [
  {
    x0: 0,
    y0: 0,
    x1: 36000,
    y1: 0,
    thickness: OUTER,
    openings: [
      ...windows(3000, 7200, 10800),
      wide(15000, 2400, -1),
      wide(21000, 2400, -1),
      ...windows(26000, 29000, 33000),
    ],
  },
  {
    x0: 0,
    y0: DEPTH,
    x1: 36000,
    y1: DEPTH,
    thickness: OUTER,
    openings: [
      ...windows(3000, 8400),
      wide(15000, 3000, 1),
      wide(19800, 3000, 1),
      ...windows(26400),
      door(31500, 1),
      ...windows(34200),
    ],
  },
  { x0: 0, y0: 0, x1: 0, y1: DEPTH, thickness: OUTER, openings: [...windows(3000, 9000), door(14400, 1)] },
  { x0: 36000, y0: 0, x1: 36000, y1: DEPTH, thickness: OUTER, openings: [...windows(3000, 8000), door(14000, -1)] },
  {
    x0: 12000,
    y0: 0,
    x1: 12000,
    y1: DEPTH,
    thickness: INNER + 100,
    openings: [wide(3600, 2000, -1), door(9000, -1), door(14600, 1)],
  },
  {
    x0: 24000,
    y0: 0,
    x1: 24000,
    y1: DEPTH,
    thickness: INNER + 100,
    openings: [wide(3600, 2400, 1), door(8600, 1, 'end'), door(14600, -1)],
  },
  { x0: 0, y0: 7200, x1: 12000, y1: 7200, thickness: INNER, openings: [door(2400, 1), door(10600, 1, 'end')] },
  { x0: 6000, y0: 7200, x1: 6000, y1: DEPTH, thickness: INNER, openings: [door(5200, -1)] },
  { x0: 0, y0: 12000, x1: 6000, y1: 12000, thickness: INNER, openings: [door(5000, 1)] },
  {
    x0: 24000,
    y0: 7200,
    x1: 36000,
    y1: 7200,
    thickness: INNER,
    openings: [{ at: 2600, width: 2800, kind: 'gap' }, door(10800, 1)],
  },
  { x0: 30000, y0: 7200, x1: 30000, y1: DEPTH, thickness: INNER, openings: [door(1400, 1), door(8000, -1)] },
  { x0: 30000, y0: 12000, x1: 36000, y1: 12000, thickness: INNER, openings: [door(2400, 1)] },
  { x0: 24000, y0: 12000, x1: 30000, y1: 12000, thickness: INNER, openings: [door(4800, -1)] },
];

export const GROUND_ROOMS: Room[] = [
  { number: '0.01', name: 'Waiting room', x: 200, y: 200, width: 11675, depth: 6925, tagAt: [0.27, 0.42] },
  { number: '0.02', name: 'Ticket hall', x: 12125, y: 200, width: 11750, depth: 16400, tagAt: [0.3, 0.42] },
  { number: '0.03', name: 'Café', x: 24125, y: 200, width: 11675, depth: 6925, tagAt: [0.62, 0.6] },
  { number: '0.04', name: 'Stairs', x: 6075, y: 7275, width: 5800, depth: 9325, tagAt: [0.4, 0.12] },
  { number: '0.05', name: 'WC women', x: 200, y: 7275, width: 5725, depth: 4650, tagAt: [0.62, 0.4] },
  { number: '0.06', name: 'WC men', x: 200, y: 12075, width: 5725, depth: 4525, tagAt: [0.62, 0.62] },
  { number: '0.07', name: 'Kitchen', x: 24125, y: 7275, width: 5800, depth: 4650, tagAt: [0.5, 0.5] },
  { number: '0.08', name: 'Ticket office', x: 24125, y: 12075, width: 5800, depth: 4525 },
  { number: '0.09', name: 'Cold store', x: 30075, y: 7275, width: 5725, depth: 4650 },
  { number: '0.10', name: 'Luggage', x: 30075, y: 12075, width: 5725, depth: 4525 },
];

export const UPPER_WALLS: Wall[] = [
  {
    x0: 0,
    y0: 0,
    x1: 36000,
    y1: 0,
    thickness: OUTER,
    openings: windows(3000, 7200, 10800, 15000, 18000, 21000, 26000, 29000, 33000),
  },
  {
    x0: 0,
    y0: DEPTH,
    x1: 36000,
    y1: DEPTH,
    thickness: OUTER,
    openings: windows(3000, 8400, 15000, 19800, 26400, 31500),
  },
  { x0: 0, y0: 0, x1: 0, y1: DEPTH, thickness: OUTER, openings: windows(3000, 9000) },
  { x0: 36000, y0: 0, x1: 36000, y1: DEPTH, thickness: OUTER, openings: windows(3000, 8000) },
  { x0: 12000, y0: 0, x1: 12000, y1: DEPTH, thickness: INNER + 100, openings: [door(3600, -1), door(9000, 1)] },
  { x0: 24000, y0: 0, x1: 24000, y1: DEPTH, thickness: INNER + 100, openings: [door(9600, 1), door(14600, -1)] },
  { x0: 0, y0: 7200, x1: 12000, y1: 7200, thickness: INNER, openings: [door(2400, -1), door(10600, 1, 'end')] },
  { x0: 6000, y0: 7200, x1: 6000, y1: DEPTH, thickness: INNER, openings: [door(7600, -1)] },
  { x0: 6000, y0: 0, x1: 6000, y1: 7200, thickness: INNER, openings: [door(5600, 1)] },
  { x0: 24000, y0: 7200, x1: 36000, y1: 7200, thickness: INNER, openings: [door(2600, -1), door(9000, -1)] },
  { x0: 30000, y0: 0, x1: 30000, y1: 7200, thickness: INNER, openings: [] },
  { x0: 24000, y0: 12000, x1: 36000, y1: 12000, thickness: INNER, openings: [door(4800, 1), door(8400, 1)] },
  { x0: 12000, y0: 10800, x1: 24000, y1: 10800, thickness: INNER, openings: [] },
];

export const UPPER_ROOMS: Room[] = [
  { number: '1.01', name: 'Harbour office', x: 200, y: 200, width: 5725, depth: 6925 },
  { number: '1.02', name: 'Meeting', x: 6075, y: 200, width: 5800, depth: 6925 },
  { number: '1.03', name: 'Void over ticket hall', x: 12125, y: 200, width: 11750, depth: 10525, tagAt: [0.5, 0.3] },
  { number: '1.04', name: 'Gallery', x: 12125, y: 10875, width: 11750, depth: 5725 },
  { number: '1.05', name: 'Stairs', x: 6075, y: 7275, width: 5800, depth: 9325, tagAt: [0.4, 0.12] },
  { number: '1.06', name: 'Archive', x: 200, y: 7275, width: 5725, depth: 9325 },
  { number: '1.07', name: 'Crew room', x: 24125, y: 200, width: 5800, depth: 6925 },
  { number: '1.08', name: 'Staff kitchen', x: 30075, y: 200, width: 5725, depth: 6925 },
  { number: '1.09', name: 'Corridor', x: 24125, y: 7275, width: 11675, depth: 4650 },
  { number: '1.10', name: 'Plant', x: 24125, y: 12075, width: 11675, depth: 4525 },
];

/** Layers of the building drawings; weights follow ISO 128 steps. */
export const BUILDING_LAYERS: LayerSpec[] = [
  { name: 'A-WALL', colour: 7, weight: 50 },
  { name: 'A-WALL-FILL', colour: 8, trueColour: 0x5e5a53, weight: 13 },
  { name: 'A-DOOR', colour: 7, weight: 25 },
  { name: 'A-GLAZ', colour: 5, trueColour: 0x2f6690, weight: 25 },
  { name: 'A-FLOR', colour: 9, trueColour: 0xb4aea2, weight: 13 },
  { name: 'A-STRS', colour: 7, weight: 25 },
  { name: 'A-FURN', colour: 8, trueColour: 0x7d786e, weight: 18 },
  { name: 'A-SANI', colour: 8, trueColour: 0x7d786e, weight: 18 },
  { name: 'A-OVHD', colour: 7, weight: 25, lineType: 'DASHED' },
  { name: 'A-GRID', colour: 1, trueColour: 0xa3543c, weight: 18, lineType: 'CENTER' },
  { name: 'A-GRID-IDEN', colour: 1, trueColour: 0xa3543c, weight: 25 },
  { name: 'A-AREA-IDEN', colour: 7, weight: 25 },
  { name: 'A-ANNO-DIMS', colour: 7, weight: 18 },
  { name: 'A-ANNO-NOTE', colour: 7, weight: 25 },
  { name: 'A-ANNO-MARK', colour: 7, weight: 35 },
  { name: 'A-HATCH', colour: 9, trueColour: 0xb4aea2, weight: 13 },
  { name: 'A-CUT', colour: 7, weight: 70 },
  { name: 'A-VIEW', colour: 7, weight: 25 },
  { name: 'A-LEVL', colour: 7, weight: 25 },
  { name: 'L-WATR', colour: 150, trueColour: 0x5b8fa8, weight: 18 },
  { name: 'L-GRND', colour: 7, weight: 70 },
  { name: 'X-SETOUT', colour: 6, weight: 13, plots: false },
];
