import { corners, type DxfWriter, type Point } from './dxf-writer';

/** Marks that the building drawings share. `unit` is drawing units for one millimetre on paper at the usual scale. */

/** Grid line bubble with its name. */
export function gridBubble(d: DxfWriter, x: number, y: number, name: string, unit: number): void {
  d.on('A-GRID-IDEN').circle(x, y, 4 * unit);
  d.text(x, y, 3.5 * unit, name, { align: 'middle' });
}

/** Section mark: a circle with section and sheet, an arrow in the direction of sight. */
export function sectionMark(
  d: DxfWriter,
  x: number,
  y: number,
  name: string,
  sheet: string,
  look: Point,
  unit: number,
): void {
  const [lx, ly] = look;
  const r = 6 * unit;
  d.on('A-ANNO-MARK').circle(x, y, r);
  d.line(x - r, y, x + r, y);
  const tip: Point = [x + lx * 1.55 * r, y + ly * 1.55 * r];
  const side: Point = [-ly * r, lx * r];
  d.fill([
    [
      tip,
      [x + side[0] + lx * 0.2 * r, y + side[1] + ly * 0.2 * r],
      [x + lx * r, y + ly * r],
      [x - side[0] + lx * 0.2 * r, y - side[1] + ly * 0.2 * r],
    ],
  ]);
  d.text(x, y + 2.2 * unit, 2.5 * unit, name, { align: 'middle' });
  d.text(x, y - 2.4 * unit, 2.2 * unit, sheet, { align: 'middle' });
}

/** Detail mark: a dashed ring about the place, a leader, and the number of the detail over that of its sheet. */
export function detailMark(
  d: DxfWriter,
  at: Point,
  radius: number,
  to: Point,
  name: string,
  sheet: string,
  unit: number,
): void {
  const angle = Math.atan2(to[1] - at[1], to[0] - at[0]);
  const r = 6 * unit;
  d.on('A-ANNO-MARK').circle(...at, radius, { lineType: 'HIDDEN', weight: 25 });
  d.line(
    at[0] + radius * Math.cos(angle),
    at[1] + radius * Math.sin(angle),
    to[0] - r * Math.cos(angle),
    to[1] - r * Math.sin(angle),
    { weight: 25 },
  );
  d.circle(...to, r);
  d.line(to[0] - r, to[1], to[0] + r, to[1]);
  d.text(to[0], to[1] + 2.4 * unit, 2.5 * unit, name, { align: 'middle' });
  d.text(to[0], to[1] - 2.4 * unit, 2.2 * unit, sheet, { align: 'middle' });
}

/** Height mark on an elevation or section: at (x, y), with `height` (mm) written in metres. */
export function levelMark(d: DxfWriter, x: number, y: number, height: number, name: string, unit: number): void {
  d.on('A-LEVL').line(x - 4 * unit, y, x + 26 * unit, y, { weight: 18 });
  d.fill([
    [
      [x, y],
      [x - 1.6 * unit, y + 2.8 * unit],
      [x + 1.6 * unit, y + 2.8 * unit],
    ],
  ]);
  const metres = height / 1000;
  d.text(
    x + 3 * unit,
    y + 1 * unit,
    2.5 * unit,
    `${metres > 0 ? '+' : metres < 0 ? '-' : '%%p'}${Math.abs(metres).toFixed(2)}  ${name}`,
  );
}

export function northArrow(d: DxfWriter, x: number, y: number, size: number, layer: string): void {
  d.on(layer).circle(x, y, size);
  d.fill([
    [
      [x, y + size],
      [x - size * 0.42, y - size * 0.75],
      [x, y - size * 0.4],
    ],
  ]);
  d.polyline([
    [x, y + size],
    [x - size * 0.42, y - size * 0.75],
    [x, y - size * 0.4],
    [x + size * 0.42, y - size * 0.75],
  ]);
  d.text(x, y + size * 1.2, size * 0.5, 'N', { align: 'centre' });
}

/** Note with a leader from the thing it speaks of to the start of its text. */
export function note(
  d: DxfWriter,
  at: Point,
  to: Point,
  lines: readonly string[],
  height: number,
  layer = 'A-ANNO-NOTE',
): void {
  d.on(layer).line(...at, ...to, { weight: 18 });
  const dot = height * 0.25;
  d.fill([corners(at[0] - dot, at[1] - dot, 2 * dot, 2 * dot)]);
  const right = to[0] >= at[0];
  const end = to[0] + (right ? 1 : -1) * height;
  d.line(...to, end, to[1], { weight: 18 });
  lines.forEach((line, i) => {
    const y = to[1] - height / 2 - i * height * 1.6;
    d.text(end + (right ? 0.6 : -0.6) * height, y, height, line, { align: right ? 'left' : 'right' });
  });
}
