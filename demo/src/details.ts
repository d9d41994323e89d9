import type { LayerSpec } from './dxf-tables';
import { corners, DxfWriter, type Point } from './dxf-writer';
import { note } from './symbols';

const MM = 4;

const LAYERS: LayerSpec[] = [
  { name: 'A-DETL-CUT', colour: 7, weight: 70 },
  { name: 'A-DETL-MED', colour: 7, weight: 35 },
  { name: 'A-DETL-FINE', colour: 7, weight: 18 },
  { name: 'A-DETL-HATCH', colour: 8, weight: 13 },
  { name: 'A-DETL-FILL', colour: 9, trueColour: 0xd5d1c8, weight: 13 },
  { name: 'A-DETL-INSU', colour: 30, trueColour: 0xb98a4e, weight: 18 },
  { name: 'A-DETL-TIMB', colour: 33, trueColour: 0x96703f, weight: 25 },
  { name: 'A-ANNO-NOTE', colour: 7, weight: 25 },
  { name: 'A-ANNO-DIMS', colour: 7, weight: 18 },
  { name: 'L-WATR', colour: 150, trueColour: 0x5b8fa8, weight: 25 },
];

/** Window of each detail in the drawing, mm. */
export const DETAIL_WINDOWS = {
  eaves: [-1500, -1480, 2600, 1300],
  sill: [3800, -1480, 7400, 1300],
  quay: [9000, -2400, 14600, 1200],
  hinge: [16000, -1300, 19200, 1100],
} as const;

export function details(): string {
  const d = new DxfWriter(LAYERS, MM, 20);
  eaves(d);
  sill(d);
  quay(d);
  hinge(d);
  return d.toString();
}

const CONCRETE = 0xd9d7d2;

function concrete(d: DxfWriter, points: readonly Point[]): void {
  d.on('A-DETL-FILL').fill([points], { trueColour: CONCRETE });
  d.on('A-DETL-CUT').polyline(points);
}

/** Insulation as drafters draw it: a band of loops across its thickness. */
function insulation(d: DxfWriter, x: number, y: number, width: number, height: number): void {
  d.on('A-DETL-MED').rectangle(x, y, width, height);
  d.on('A-DETL-INSU');
  const horizontal = width >= height;
  const [length, depth] = horizontal ? [width, height] : [height, width];
  const count = Math.max(2, Math.round(length / (depth * 0.45)));
  const step = length / count;
  const points = Array.from({ length: count + 1 }, (_, i): Point => {
    const across = i % 2 ? depth * 0.92 : depth * 0.08;
    return horizontal ? [x + i * step, y + across] : [x + across, y + i * step];
  });
  d.polyline(
    points.map(([px, py], i) => [px, py, i % 2 ? -0.3 : 0.3]),
    false,
  );
}

function eaves(d: DxfWriter): void {
  concrete(d, corners(0, -250, 2300, 250));
  concrete(d, corners(0, -1200, 250, 950));
  concrete(d, corners(0, 0, 200, 600));
  insulation(d, 200, 0, 2100, 220);
  insulation(d, -180, -1200, 180, 1780);
  d.on('A-DETL-MED').polyline(
    [
      [2300, 225],
      [230, 225],
      [230, 620],
      [-260, 640],
    ],
    false,
    { weight: 50 },
  );
  d.on('A-DETL-FILL').fillRectangle(240, 225, 2060, 55, { trueColour: 0xefe9dc });
  d.on('A-DETL-HATCH');
  for (let x = 300; x < 2300; x += 90) d.circle(x, 252, 22);
  d.on('A-DETL-TIMB').rectangle(-900, 120, 720, 60);
  d.rectangle(-900, 60, 60, 180);
  d.rectangle(-260, 600, 520, 40);
  for (let x = -840; x < -200; x += 110) d.line(x, 120, x + 60, 180);
  d.on('A-DETL-TIMB').rectangle(-215, -1200, 35, 1300);
  for (let y = -1150; y < 60; y += 140) d.line(-215, y, -180, y + 35);
  d.on('A-DETL-FINE').polyline(
    [
      [-300, 650],
      [-300, 560],
      [-290, 560],
      [-290, 640],
    ],
    false,
  );
  note(d, [1400, 250], [1500, 900], ['Gravel 50 on protection mat'], 50);
  note(d, [700, 110], [900, 620], ['Insulation 220, tapered 2 %'], 50);
  note(d, [1200, -120], [1300, -650], ['Concrete slab 250'], 50);
  note(d, [-90, -700], [420, -950], ['Mineral wool 180'], 50);
  note(d, [-600, 150], [-420, 1000], ['Oak eaves board', 'on steel brackets'], 50);
  d.on('A-ANNO-DIMS').dimension([-180, -1200], [0, -1200], -150, 50);
  d.dimension([0, -1200], [250, -1200], -150, 50);
}

function sill(d: DxfWriter): void {
  const x = 5000;
  concrete(d, corners(x, -1200, 250, 1000));
  insulation(d, x - 180, -1200, 180, 960);
  d.on('A-DETL-TIMB').rectangle(x - 60, -200, 110, 90);
  d.rectangle(x - 45, -110, 80, 110);
  d.rectangle(x + 50, -200, 320, 35);
  d.rectangle(x - 215, -1200, 35, 930);
  for (let y = -1150; y < -300; y += 140) d.line(x - 215, y, x - 180, y + 35);
  d.on('A-DETL-FINE').rectangle(x - 22, -60, 6, 1200);
  d.rectangle(x - 4, -60, 6, 1200);
  d.rectangle(x + 14, -60, 6, 1200);
  d.on('A-DETL-MED').polyline(
    [
      [x - 50, -190],
      [x - 260, -240],
      [x - 260, -290],
    ],
    false,
    { weight: 50 },
  );
  d.on('A-DETL-FINE').line(x, -1200, x, -1250);
  note(d, [x - 5, 700], [x + 500, 900], ['Triple glazing 6-16-6-16-6'], 50);
  note(d, [x + 200, -180], [x + 500, 300], ['Oak window board 35'], 50);
  note(d, [x - 230, -235], [x - 420, 260], ['Zinc sill,', 'slope 5 %%d'], 50);
  note(d, [x + 120, -700], [x + 560, -600], ['Concrete 250'], 50);
  note(d, [x - 90, -900], [x - 420, -800], ['Mineral wool 180'], 50);
  d.on('A-ANNO-DIMS').dimension([x, -1200], [x + 250, -1200], -150, 50);
}

function quay(d: DxfWriter): void {
  const x = 11000;
  concrete(d, [
    [x, -2300],
    [x + 400, -2300],
    [x + 400, -700],
    [x + 1100, -300],
    [x + 1100, 0],
    [x, 0],
  ]);
  concrete(d, corners(x + 1120, -220, 2200, 220));
  d.on('A-DETL-MED').rectangle(x - 60, -150, 60, 150, { weight: 50 });
  d.rectangle(x - 300, -1500, 300, 900);
  for (let i = 1; i < 6; i++) d.line(x - 300, -1500 + i * 150, x, -1500 + i * 150, { weight: 18 });
  d.on('A-DETL-HATCH');
  for (let i = 0; i < 26; i++) {
    const px = x + 480 + ((i * 337) % 2700);
    const py = -560 - ((i * 211) % 1500);
    if (py > -700 + (px - x - 400) * 0.55 && px < x + 1100) continue;
    d.circle(px, py, 40 + (i % 3) * 20);
  }
  for (let px = x + 1200; px < x + 3200; px += 160) d.line(px, -220, px - 120, -340);
  d.on('A-DETL-MED').circle(x + 620, 240, 150);
  d.rectangle(x + 520, 0, 200, 110);
  d.on('L-WATR').line(x - 1900, -1100, x - 300, -1100);
  for (let i = 0; i < 3; i++) d.line(x - 1700 + i * 250, -1250 - i * 120, x - 500 - i * 150, -1250 - i * 120);
  d.text(x - 1850, -1040, 70, 'HW +1.10', { style: 'LABELS' });
  note(d, [x - 150, -1000], [x - 700, -1900], ['Rubber fender,', 'replaceable'], 70);
  note(d, [x + 620, 300], [x + 1000, 800], ['Cast iron bollard 150 kN'], 70);
  note(d, [x + 200, -1700], [x + 700, -2150], ['Quay wall, concrete C35/45'], 70);
  note(d, [x + 2200, -100], [x + 1900, 430], ['Granite paving 120 on 100 bed'], 70);
  note(d, [x - 30, -60], [x - 500, 500], ['Steel nosing,', 'galvanised'], 70);
  d.on('A-ANNO-DIMS').dimension([x, -2300], [x + 400, -2300], 160, 60);
}

function hinge(d: DxfWriter): void {
  const x = 17000;
  concrete(d, corners(x - 800, -1200, 800, 1200));
  d.on('A-DETL-CUT').polyline([
    [x + 120, -60],
    [x + 2000, -220],
    [x + 2000, -380],
    [x + 120, -260],
  ]);
  d.on('A-DETL-MED').circle(x + 60, -160, 70);
  d.circle(x + 60, -160, 30);
  d.polyline(
    [
      [x, -40],
      [x + 60, -90],
      [x + 60, -230],
      [x, -280],
    ],
    true,
  );
  d.on('A-DETL-MED').polyline(
    [
      [x - 350, 12],
      [x + 520, -70],
      [x + 520, -90],
      [x - 350, 0],
    ],
    true,
    { weight: 50 },
  );
  d.on('A-DETL-FINE');
  for (let i = 0; i < 14; i++) d.line(x + 240 + i * 125, -75 - i * 10.6, x + 240 + i * 125, -245 - i * 8);
  note(d, [x + 60, -160], [x + 300, -800], ['Hinge pin Ø 60,', 'stainless'], 45);
  note(d, [x + 200, -30], [x + 500, 420], ['Hinged cover plate, ribbed'], 45);
  note(d, [x + 1400, -200], [x + 1000, 180], ['Bridge deck on beams IPE 160'], 45);
  note(d, [x - 500, -700], [x - 300, -950], ['Abutment'], 45);
  d.on('A-ANNO-DIMS').dimension([x, -1200], [x + 60, -1200], 150, 45);
}
