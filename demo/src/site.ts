import { DEPTH, LENGTH } from './building';
import type { LayerSpec } from './dxf-tables';
import { DxfWriter, type Point } from './dxf-writer';
import { northArrow } from './symbols';

const METRES = 6;
/** Drawing units (m) for a millimetre on paper at 1:500. */
const U = 0.5;

/** The site lies in made-up national coordinates, as surveyors deliver it. */
export const ORIGIN: Point = [512_300, 5_418_200];

const LAYERS: LayerSpec[] = [
  { name: 'L-SITE', colour: 7, weight: 25 },
  { name: 'A-BLDG', colour: 7, weight: 70 },
  { name: 'A-BLDG-FILL', colour: 8, trueColour: 0xb9b4a8, weight: 13 },
  { name: 'L-WATR', colour: 150, trueColour: 0x5b8fa8, weight: 18 },
  { name: 'L-QUAY', colour: 7, weight: 50 },
  { name: 'L-ROAD', colour: 8, weight: 25 },
  { name: 'L-ROAD-MARK', colour: 8, weight: 18, lineType: 'DASHED' },
  { name: 'L-TREE', colour: 94, trueColour: 0x52794f, weight: 18 },
  { name: 'L-PARK', colour: 8, weight: 18 },
  { name: 'L-ANNO', colour: 7, weight: 25 },
];

/** What the surveyor drew; the site plan refers to it. */
const SURVEYED: LayerSpec[] = [
  { name: 'L-BOUN', colour: 1, trueColour: 0xa3543c, weight: 50, lineType: 'CENTER' },
  { name: 'L-CONT', colour: 33, trueColour: 0xa08a6a, weight: 13 },
  { name: 'L-SURV', colour: 6, trueColour: 0x8a4b6d, weight: 13 },
];

export function site(): string {
  const d = new DxfWriter(LAYERS, METRES, U);
  const [ox, oy] = ORIGIN;
  const p = (x: number, y: number): Point => [ox + x, oy + y];
  d.block('TREE', () => {
    d.circle(0, 0, 2.2);
    d.circle(0, 0, 0.2);
    for (let i = 0; i < 8; i++) {
      const angle = (i * Math.PI) / 4;
      d.line(0.5 * Math.cos(angle), 0.5 * Math.sin(angle), 2.2 * Math.cos(angle), 2.2 * Math.sin(angle));
    }
  });
  d.block('BAY', () =>
    d.polyline(
      [
        [0, 5],
        [0, 0],
        [2.5, 0],
        [2.5, 5],
      ],
      false,
    ),
  );
  const [w, h] = [LENGTH / 1000, DEPTH / 1000];
  d.on('A-BLDG-FILL').fill([rectangle(p, 0, 0, w, h)], { trueColour: 0xc9c5bd });
  d.on('A-BLDG').polyline(rectangle(p, -0.2, -0.2, w + 0.4, h + 0.4));
  d.polyline(rectangle(p, 10.5, -5.2, 15, 5), true, { weight: 25, lineType: 'DASHED' });
  d.text(...p(w / 2, h / 2 + 1), 5 * U, 'Tern Quay Ferry Terminal', { align: 'centre' });
  d.text(...p(w / 2, h / 2 - 2.5), 3.5 * U, 'FFL +0.00 = 3.40 above datum', { align: 'centre' });
  d.on('L-QUAY').line(...p(-60, -6), ...p(110, -6));
  d.line(...p(-60, -6.6), ...p(110, -6.6), { weight: 25 });
  for (let x = -54; x < 110; x += 12) d.circle(...p(x, -5.2), 0.3);
  pontoon(d, p);
  waves(d, p);
  road(d, p);
  trees(d, p);
  // A garden wall inside the boundary, open towards the quay and the road.
  d.on('L-SITE').multiline([p(-19, -5.4), p(-19, 39), p(40, 40.4)], 0.5);
  d.multiline([p(61, -5.4), p(61, 41)], 0.5);
  d.on('0').reference('SURVEY', 'survey.dxf');
  northArrow(d, ...p(102, -14), 5, 'L-ANNO');
  scaleBar(d, p);
  return d.toString();
}

/** Contours, boundary and survey marks, by the surveyor. */
export function survey(): string {
  const d = new DxfWriter(SURVEYED, METRES, U);
  const [ox, oy] = ORIGIN;
  const p = (x: number, y: number): Point => [ox + x, oy + y];
  for (const [i, y] of [26, 30, 36, 46].entries()) {
    d.on('L-CONT').polyline(
      [p(-60, y + i), p(-20, y - 2 - i), p(30, y + 3), p(70, y), p(110, y + 5 + i)].map(([x, z]) => [x, z]),
      false,
      i % 2 ? {} : { weight: 25 },
    );
    d.text(...p(100, y + 5.4 + i), 2.5 * U, (3.5 + i * 0.5).toFixed(1));
  }
  d.on('L-BOUN').polyline([p(-20, -6), p(-20, 40), p(62, 42), p(62, -6)]);
  d.on('L-SURV');
  for (const [x, y, name] of [
    [-20, 40, 'S1'],
    [62, 42, 'S2'],
  ] as const) {
    d.circle(...p(x, y), 0.6);
    d.text(...p(x + 1, y + 1), 2.5 * U, `${name}  E ${(ox + x).toFixed(2)}  N ${(oy + y).toFixed(2)}`);
  }
  return d.toString();
}

type Place = (x: number, y: number) => Point;

function rectangle(p: Place, x: number, y: number, width: number, height: number): Point[] {
  return [p(x, y), p(x + width, y), p(x + width, y + height), p(x, y + height)];
}

function pontoon(d: DxfWriter, p: Place): void {
  d.on('L-QUAY').polyline(rectangle(p, 16.5, -18, 3, 12), true, { weight: 35 });
  d.polyline(rectangle(p, 2, -26, 34, 8), true, { weight: 50 });
  for (const x of [5, 18, 33]) d.circle(...p(x, -26.6), 0.5);
  d.on('L-ANNO').text(...p(19, -22.8), 3.5 * U, 'Pontoon 34 x 8 m', { align: 'centre' });
  d.text(...p(20.4, -13), 3 * U, 'Bridge, see A-502');
  d.on('L-WATR').polyline(
    [p(-2, -36), p(36, -36), p(44, -31.5), p(36, -27), p(-2, -27)].map(([x, y]) => [x, y]),
    true,
    { lineType: 'DASHED', weight: 35 },
  );
  d.on('L-ANNO').text(...p(18, -32.4), 3 * U, 'Ferry at berth', { align: 'centre' });
}

function waves(d: DxfWriter, p: Place): void {
  d.on('L-WATR');
  for (let row = 0; row < 7; row++) {
    for (let x = -58 + (row % 2) * 5; x < 106; x += 10) {
      const y = -10 - row * 4;
      if (x > -8 && x < 46) continue;
      const [a, b, c] = [p(x, y), p(x + 2, y), p(x + 4, y)];
      d.polyline([[...a, 0.35], [...b, -0.35], c], false);
    }
  }
}

function road(d: DxfWriter, p: Place): void {
  d.on('L-ROAD').line(...p(-60, 48), ...p(110, 52));
  d.line(...p(-60, 55), ...p(110, 59));
  d.on('L-ROAD-MARK').line(...p(-60, 51.5), ...p(110, 55.5));
  d.on('L-ROAD').polyline([p(44, 50.4), [...p(44, 22), -0.41] as unknown as Point, p(58, 22), p(58, 50.8)], false);
  d.on('L-ANNO').text(...p(-40, 51), 3.5 * U, 'Harbour Road', { rotation: 1.35 });
  d.on('L-PARK').insert('BAY', ...p(46, 26), { columns: 4, rows: 1, dx: 2.5 });
  d.insert('BAY', ...p(-16, 26), { columns: 11, rows: 1, dx: 2.5 });
  d.on('L-ANNO').text(...p(-14, 32.5), 3 * U, 'Cycle and car parking, 15 bays');
}

function trees(d: DxfWriter, p: Place): void {
  const places: Point[] = [
    [-50, 20],
    [-44, 30],
    [-52, 38],
    [-34, 12],
    [-30, 34],
    [70, 12],
    [78, 24],
    [72, 36],
    [88, 16],
    [94, 32],
    [-8, 44],
    [4, 44],
    [16, 44],
    [28, 44],
  ];
  d.on('L-TREE');
  places.forEach(([x, y], i) => d.insert('TREE', ...p(x, y), { scaleX: 0.8 + (i % 4) * 0.12, rotation: i * 17 }));
}

function scaleBar(d: DxfWriter, p: Place): void {
  d.on('L-ANNO');
  for (let i = 0; i < 5; i++) {
    const bar = rectangle(p, 60 + i * 10, -44, 10, 1);
    d.polyline(bar, true, { weight: 18 });
    if (i % 2 === 0) d.fill([bar]);
    d.text(...p(60 + i * 10, -42.4), 2.5 * U, String(i * 10), { align: 'centre' });
  }
  d.text(...p(111, -42.4), 2.5 * U, '50 m', { align: 'centre' });
}
