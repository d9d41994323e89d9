import type { DxfWriter } from './dxf-writer';

/** Blocks of loose and fixed furniture, drawn on layer 0 so that they take the layer they are placed on. */
export function defineFurniture(d: DxfWriter): void {
  d.block('CHAIR', () => {
    d.rectangle(-220, -220, 440, 440);
    d.line(-220, 160, 220, 160);
  });
  d.block('TABLE-4', () => {
    d.rectangle(-400, -400, 800, 800);
    d.insert('CHAIR', 0, 680, {});
    d.insert('CHAIR', 0, -680, { rotation: 180 });
    d.insert('CHAIR', 680, 0, { rotation: 270 });
    d.insert('CHAIR', -680, 0, { rotation: 90 });
  });
  d.block('BENCH', () => {
    d.rectangle(-1200, -280, 2400, 560);
    for (const x of [-600, 0, 600]) d.line(x, -280, x, 280);
    d.line(-1200, 180, 1200, 180);
  });
  d.block('WC', () => {
    d.rectangle(-190, 0, 380, 180);
    d.polyline(
      [
        [-180, 180],
        [-180, 420, -1],
        [180, 420],
        [180, 180],
      ],
      true,
    );
  });
  d.block('BASIN', () => {
    d.rectangle(-260, 0, 520, 440);
    d.circle(0, 210, 150);
    d.circle(0, 210, 20);
  });
  d.block('DESK', () => {
    d.rectangle(-800, -400, 1600, 800);
    d.rectangle(-250, 60, 500, 200);
    d.insert('CHAIR', 0, -700, { rotation: 180 });
  });
}

export function furnishGround(d: DxfWriter): void {
  d.on('A-FURN').insert('BENCH', 2400, 1800, { columns: 3, rows: 2, dx: 3200, dy: 3300 });
  d.insert('TABLE-4', 26000, 1700, { columns: 4, rows: 1, dx: 2600 });
  d.insert('TABLE-4', 27300, 4600, { rotation: 45 });
  d.insert('TABLE-4', 34500, 4700, { rotation: 45 });
  d.rectangle(25000, 6300, 3400, 600);
  d.text(25200, 6480, 220, 'Counter');
  d.rectangle(24400, 12400, 700, 3600);
  d.insert('CHAIR', 25600, 13300, { rotation: 270 });
  d.insert('CHAIR', 25600, 15000, { rotation: 270 });
  d.insert('DESK', 28200, 15300, {});
  for (const y of [2600, 6400]) d.insert('BENCH', 22900, y, { rotation: 270 });
  for (const [x, y] of [
    [24600, 7700],
    [26200, 7700],
    [28300, 11100],
  ] as const)
    d.rectangle(x, y, 1400, 700);
  for (let i = 0; i < 3; i++) d.rectangle(30400 + i * 1750, 15600, 1500, 800);
  sanitary(d, 7500);
  sanitary(d, 12300);
}

export function furnishUpper(d: DxfWriter): void {
  d.on('A-FURN').insert('DESK', 1900, 2000, { rows: 3, dy: 2200, columns: 1 });
  d.insert('DESK', 4500, 2000, { rows: 2, dy: 2200, columns: 1 });
  d.rectangle(7700, 1900, 2400, 3400);
  for (const y of [2400, 3600, 4800]) {
    d.insert('CHAIR', 7300, y, { rotation: 90 });
    d.insert('CHAIR', 10500, y, { rotation: 270 });
  }
  for (let i = 0; i < 4; i++) d.rectangle(800, 8000 + i * 2000, 3800, 600);
  d.insert('TABLE-4', 27000, 3600, {});
  d.insert('BENCH', 28900, 5600, { rotation: 90 });
  d.rectangle(30300, 400, 5200, 650);
  d.insert('BASIN', 33000, 480, {});
  d.insert('TABLE-4', 33000, 4600, {});
  d.on('A-VIEW').rectangle(27600, 13300, 4800, 2200);
  d.line(27600, 13300, 32400, 15500);
  d.line(27600, 15500, 32400, 13300);
}

function sanitary(d: DxfWriter, y: number): void {
  d.on('A-SANI');
  for (let i = 0; i < 3; i++) {
    d.rectangle(300, y + i * 1000, 1500, 950);
    d.insert('WC', 350, y + 475 + i * 1000, { rotation: 270 });
  }
  d.insert('BASIN', 3300, y - 130, { columns: 2, rows: 1, dx: 900 });
}
