import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { paperOf } from '@folvex/core';
import { testSheetPdf } from '../../src/index';
import { MM_PER_POINT, ownFolder, tool } from '../support/published';

const folder = ownFolder();

/** Lengths and weights of all straight strokes, mm, as MuPDF reads them. */
async function strokes(name: string): Promise<{ length: number; weight: number }[]> {
  const pdf = join(folder, `${name}.pdf`);
  writeFileSync(pdf, await testSheetPdf(paperOf(name)!, name));
  expect(tool('qpdf', '--check', pdf)).toContain('No syntax or stream encoding errors');
  const trace = tool('mutool', 'draw', '-F', 'trace', '-o', '-', pdf, '1');
  return [...trace.matchAll(/<stroke_path([^>]*)>([\s\S]*?)<\/stroke_path>/g)].flatMap(([, head, body]) => {
    const scale = Number(/transform="([^" ]+)/.exec(head!)![1]) * MM_PER_POINT;
    const weight = Number(/linewidth="([^"]+)"/.exec(head!)![1]) * scale;
    const points = [...body!.matchAll(/ x="([^"]+)" y="([^"]+)"/g)].map(([, x, y]) => [Number(x), Number(y)] as const);
    // Strokes of one pen come together: a move and a line each.
    return points.flatMap(([x, y], i) => {
      const [x1, y1] = points[i + 1] ?? [x, y];
      return i % 2 ? [] : [{ length: Math.hypot(x1 - x, y1 - y) * scale, weight }];
    });
  });
}

describe('the test sheet', () => {
  it('measures what it says: rulers, the square with its diagonals, and line weights', async () => {
    const lines = await strokes('A3');
    const long = lines.map(({ length }) => Math.round(length * 100) / 100);
    // A3 is 420 × 297 mm (ISO 216); rulers keep 20 mm to the edges.
    expect(long.filter((length) => length === 380)).toHaveLength(1);
    expect(long.filter((length) => length === 250)).toHaveLength(1);
    expect(long.filter((length) => length === 100)).toHaveLength(4);
    expect(long.filter((length) => length === 141.42)).toHaveLength(2);
    const ladder = lines.filter(({ length }) => Math.abs(length - 38) < 0.01).map(({ weight }) => weight);
    expect(ladder).toEqual([0.05, 0.09, 0.13, 0.18, 0.25, 0.35, 0.5, 0.7, 1, 1.4].map((mm) => expect.closeTo(mm, 3)));
    // A mark at every millimetre of both rulers, both ends included.
    expect(long.filter((length) => [6, 4, 2.5].includes(length))).toHaveLength(381 + 251);
    const said = tool('pdftotext', join(folder, 'A3.pdf'), '-');
    for (const text of [
      'This line is 380 mm long',
      'This line is 250 mm long',
      '100 × 100 mm; both diagonals 141.42 mm',
    ]) {
      expect(said).toContain(text);
    }
  });

  it.each(['A4', 'A0', 'A (ASME)'])('keeps within the edges of %s', async (name) => {
    await strokes(name);
    const { width, height } = paperOf(name)!;
    const box = tool('mutool', 'draw', '-F', 'stext', '-o', '-', join(folder, `${name}.pdf`), '1');
    for (const [, x0, y0, x1, y1] of box.matchAll(/<line bbox="(\S+) (\S+) (\S+) (\S+)"/g)) {
      const [left, top, right, bottom] = [x0, y0, x1, y1].map((value) => Number(value) * MM_PER_POINT) as number[];
      expect(Math.min(left!, top!, width - right!, height - bottom!)).toBeGreaterThan(5);
    }
  });
});
