import {
  BUILDING_LAYERS,
  DEPTH,
  GRID_X,
  GRID_X_NAMES,
  GRID_Y,
  GRID_Y_NAMES,
  GROUND_ROOMS,
  GROUND_WALLS,
  LENGTH,
  OUTER,
  UPPER_ROOMS,
  UPPER_WALLS,
  type Opening,
  type Room,
  type Wall,
} from './building';
import { corners, DxfWriter, type Point } from './dxf-writer';
import { defineFurniture, furnishGround, furnishUpper } from './furniture';
import { detailMark, gridBubble, northArrow, note, sectionMark } from './symbols';

const MM = 4;
/** Drawing units for a millimetre on paper at 1:100. */
const U = 100;
const DARK = 0x4a4a4a;

export function groundFloor(): string {
  const d = begin();
  floorPattern(d, 12125, 200, 11750, 16400, 600);
  for (const wall of GROUND_WALLS) drawWall(d, wall);
  for (const room of GROUND_ROOMS) tagRoom(d, room);
  stairs(d, true);
  furnishGround(d);
  canopy(d);
  bridge(d);
  grid(d);
  dimensions(d);
  northArrow(d, 41500, 20300, 900, 'A-ANNO-MARK');
  sectionMark(d, 15000, -9800, 'A', 'A-301', [1, 0], U);
  sectionMark(d, 15000, DEPTH + 5000, 'A', 'A-301', [1, 0], U);
  d.on('A-ANNO-MARK').line(15000, -9100, 15000, -7600, { lineType: 'CENTER', weight: 50 });
  d.line(15000, DEPTH + 4350, 15000, DEPTH + 3200, { lineType: 'CENTER', weight: 50 });
  detailMark(d, [18000, -6000], 700, [21500, -7600], '3', 'A-501', U);
  detailMark(d, [33000, 0], 900, [37800, -2600], '2', 'A-501', U);
  note(d, [16000, 15600], [18600, 13700], ['Matwell 3000 × 1800,', 'drained'], 2.5 * U);
  d.on('A-FLOR').rectangle(13500, 14700, 3000, 1800);
  note(d, [35300, 10900], [39200, 9800], ['Cold store 4 °C,', 'see A-401'], 2.5 * U);
  d.on('X-SETOUT').line(-5000, 0, 45000, 0);
  d.line(0, -5000, 0, 22000);
  return d.toString();
}

export function upperFloor(): string {
  const d = begin();
  for (const wall of UPPER_WALLS) drawWall(d, wall);
  for (const room of UPPER_ROOMS) tagRoom(d, room);
  stairs(d, false);
  furnishUpper(d);
  voidCross(d, 12125, 200, 11750, 10525);
  d.on('A-GLAZ').line(12125, 10725, 23875, 10725);
  d.on('A-OVHD').rectangle(-900, -900, LENGTH + 1800, DEPTH + 1800);
  d.text(600, -700, 2.5 * U, 'Edge of roof above');
  grid(d);
  dimensions(d);
  northArrow(d, 41500, 20300, 900, 'A-ANNO-MARK');
  sectionMark(d, 15000, -4600, 'A', 'A-301', [1, 0], U);
  sectionMark(d, 15000, DEPTH + 5000, 'A', 'A-301', [1, 0], U);
  detailMark(d, [0, DEPTH], 900, [-4600, DEPTH + 3000], '1', 'A-501', U);
  note(d, [30000, 15000], [38500, 18200], ['Air handling on', 'spring mounts'], 2.5 * U);
  return d.toString();
}

function begin(): DxfWriter {
  const d = new DxfWriter(BUILDING_LAYERS, MM, U);
  d.block('DOOR', () => {
    d.line(0, 0, 0, 1000, { weight: 35 });
    d.arc(0, 0, 1000, 0, 90, { weight: 13 });
  });
  d.block('ROOM-TAG', () => {
    d.line(-1200, 0, 1200, 0, { weight: 18 });
  });
  defineFurniture(d);
  return d;
}

/** A wall with its openings: solid pieces filled, glass and door leaves in between. */
function drawWall(d: DxfWriter, wall: Wall): void {
  const length = Math.hypot(wall.x1 - wall.x0, wall.y1 - wall.y0);
  const openings = [...(wall.openings ?? [])].sort((a, b) => a.at - b.at);
  const half = wall.thickness / 2;
  let from = -half;
  for (const opening of [...openings, undefined]) {
    const to = opening ? opening.at - opening.width / 2 : length + half;
    const piece = placed(wall, from, -half, to, half);
    d.on('A-WALL-FILL').fill([piece], { trueColour: DARK });
    d.on('A-WALL').polyline(piece, true, { trueColour: DARK });
    if (!opening) break;
    from = opening.at + opening.width / 2;
    drawOpening(d, wall, opening, half);
  }
}

function drawOpening(d: DxfWriter, wall: Wall, opening: Opening, half: number): void {
  const [a, b] = [opening.at - opening.width / 2, opening.at + opening.width / 2];
  const across = (s: number, t0: number, t1: number): void => {
    const [p, q] = [along(wall, s, t0), along(wall, s, t1)];
    d.line(...p, ...q);
  };
  if (opening.kind === 'gap') return;
  if (opening.kind === 'window') {
    d.on('A-GLAZ').polyline(placed(wall, a, -half, b, half));
    d.polyline(placed(wall, a + 60, -40, b - 60, 40));
    across(opening.at, -40, 40);
    return;
  }
  d.on('A-DOOR');
  d.polyline(placed(wall, a, -half, b, half), true, { weight: 13, colour: 9 });
  const swing = opening.swing ?? 1;
  const leaf = opening.kind === 'double' ? opening.width / 2 : opening.width;
  const hang = (s: number, direction: 1 | -1): void => {
    const [x, y] = along(wall, s, swing * half);
    const turn = (Math.atan2(wall.y1 - wall.y0, wall.x1 - wall.x0) * 180) / Math.PI;
    d.insert('DOOR', x, y, { scaleX: (direction * leaf) / 1000, scaleY: (swing * leaf) / 1000, rotation: turn });
  };
  if (opening.kind === 'double' || opening.hinge !== 'end') hang(a, 1);
  if (opening.kind === 'double' || opening.hinge === 'end') hang(b, -1);
}

/** Point at distance `s` along a wall and `t` to its left. */
function along(wall: Wall, s: number, t: number): Point {
  const length = Math.hypot(wall.x1 - wall.x0, wall.y1 - wall.y0);
  const [ux, uy] = [(wall.x1 - wall.x0) / length, (wall.y1 - wall.y0) / length];
  return [wall.x0 + ux * s - uy * t, wall.y0 + uy * s + ux * t];
}

function placed(wall: Wall, s0: number, t0: number, s1: number, t1: number): Point[] {
  return [along(wall, s0, t0), along(wall, s1, t0), along(wall, s1, t1), along(wall, s0, t1)];
}

function tagRoom(d: DxfWriter, room: Room): void {
  const [across, up] = room.tagAt ?? [0.5, 0.5];
  const [x, y] = [room.x + room.width * across, room.y + room.depth * up];
  const area = (room.width * room.depth) / 1e6;
  d.on('A-AREA-IDEN').insert('ROOM-TAG', x, y, {
    attributes: [
      { tag: 'NUMBER', text: room.number, at: [0, 480], height: 2.5 * U, align: 'centre' },
      { tag: 'NAME', text: room.name, at: [0, -260], height: 2.5 * U, align: 'centre' },
      { tag: 'AREA', text: `${area.toFixed(1)} m²`, at: [0, -640], height: 2 * U, align: 'centre' },
    ],
  });
}

function stairs(d: DxfWriter, up: boolean): void {
  const [x, y, width, tread] = [6500, 10400, 1400, 280];
  d.on('A-STRS');
  for (let flight = 0; flight < 2; flight++) {
    const left = x + flight * (width + 200);
    for (let i = 0; i <= 11; i++) d.line(left, y + i * tread, left + width, y + i * tread);
    d.rectangle(left, y, width, 11 * tread);
  }
  d.rectangle(x, y + 11 * tread, 2 * width + 200, 1400);
  const middle = x + width / 2;
  d.line(middle, y - 300, middle, y + 11 * tread + 700);
  d.line(middle, y + 11 * tread + 700, middle + width + 200, y + 11 * tread + 700);
  d.line(middle + width + 200, y + 11 * tread + 700, middle + width + 200, y + 400);
  d.fill([
    [
      [middle + width + 200, y + 100],
      [middle + width + 80, y + 400],
      [middle + width + 320, y + 400],
    ],
  ]);
  d.text(middle - 150, y - 700, 2.5 * U, up ? 'UP' : 'DN');
  d.text(x + 2 * width + 400, y + 1300, 2 * U, '24 R 175 / 280', { rotation: 90 });
  d.on('A-WALL-FILL').fill([corners(9800, 13900, 2075, 2500), corners(9950, 14050, 1925, 2200)], { trueColour: DARK });
  d.on('A-STRS').rectangle(9950, 14050, 1925, 2200);
  d.line(9950, 14050, 11875, 16250);
  d.line(9950, 16250, 11875, 14050);
  d.text(10900, 13550, 2.2 * U, 'Lift 630 kg', { align: 'centre' });
  detailMark(d, [8000, 13000], 3300, [4000, 18800], '1', 'A-401', U);
}

function canopy(d: DxfWriter): void {
  d.on('A-OVHD').rectangle(10500, -5200, 15000, 5000);
  d.rectangle(12600, DEPTH + 200, 9600, 2400);
  d.text(11000, -4900, 2.5 * U, 'Canopy above');
  for (const x of [12000, 18000, 24000]) {
    d.on('A-WALL-FILL').fill([corners(x - 125, -4525, 250, 250)], { trueColour: DARK });
    d.on('A-WALL').rectangle(x - 125, -4525, 250, 250, { trueColour: DARK });
  }
  d.on('L-GRND').line(-3000, -6000, 39000, -6000);
  d.text(28200, -5700, 2.5 * U, 'Quay edge');
  const wave = d.on('L-WATR');
  for (let row = 0; row < 4; row++) {
    for (let x = -2500 + (row % 2) * 1200; x < 38000; x += 2400) {
      if (x > 14200 && x < 20800) continue;
      wave.polyline(
        [
          [x, -6700 - row * 600, 0.35],
          [x + 500, -6700 - row * 600, -0.35],
          [x + 1000, -6700 - row * 600],
        ],
        false,
      );
    }
  }
}

/** The foot of the pontoon bridge at the quay. */
function bridge(d: DxfWriter): void {
  d.on('A-FLOR');
  for (let y = -9000; y < -6100; y += 150) d.line(16650, y, 19350, y);
  d.on('A-VIEW').rectangle(16500, -9000, 3000, 2900);
  d.line(16650, -9000, 16650, -6000);
  d.line(19350, -9000, 19350, -6000);
  d.circle(16575, -6300, 90);
  d.circle(19425, -6300, 90);
  d.text(19900, -8800, 2.5 * U, 'Bridge to pontoon, 1:12 at low water');
}

function floorPattern(d: DxfWriter, x: number, y: number, width: number, depth: number, step: number): void {
  d.on('A-FLOR');
  for (let s = step; s < width; s += step) d.line(x + s, y, x + s, y + depth);
  for (let s = step; s < depth; s += step) d.line(x, y + s, x + width, y + s);
}

function voidCross(d: DxfWriter, x: number, y: number, width: number, depth: number): void {
  d.on('A-OVHD').line(x, y, x + width, y + depth);
  d.line(x, y + depth, x + width, y);
}

function grid(d: DxfWriter): void {
  GRID_X.forEach((x, i) => {
    d.on('A-GRID').line(x, -2600, x, DEPTH + 4300);
    gridBubble(d, x, DEPTH + 4700, GRID_X_NAMES[i]!, U);
  });
  GRID_Y.forEach((y, i) => {
    d.on('A-GRID').line(-4300, y, LENGTH + 2200, y);
    gridBubble(d, -4700, y, GRID_Y_NAMES[i]!, U);
  });
}

function dimensions(d: DxfWriter): void {
  d.on('A-ANNO-DIMS');
  for (let i = 0; i + 1 < GRID_X.length; i++) d.dimension([GRID_X[i]!, DEPTH], [GRID_X[i + 1]!, DEPTH], 2900, 2.5 * U);
  d.dimension([-OUTER / 2, DEPTH], [LENGTH + OUTER / 2, DEPTH], 3700, 2.5 * U);
  for (let i = 0; i + 1 < GRID_Y.length; i++) d.dimension([0, GRID_Y[i]!], [0, GRID_Y[i + 1]!], -2500, 2.5 * U);
  d.dimension([0, -OUTER / 2], [0, DEPTH + OUTER / 2], -3400, 2.5 * U);
}
