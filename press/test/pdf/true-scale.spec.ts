import { join } from 'node:path';
import type { Drawing, Sheet, View } from '@folvex/core';
import { drawingOf, MM_PER_POINT, ownFolder, publishSheets, tool } from '../support/published';

const folder = ownFolder();
/** PDF measures in points, 1/72 in (ISO 32000-1, 8.3.2.3). */
const WALLS = 1;

/** A drawing of lines on layers, in a unit by its number in DXF's `$INSUNITS`: 1 in, 2 ft, 4 mm, 6 m. */
function drawing(unit: number, lines: readonly (readonly [layer: string, ...at: number[]])[]): Promise<Drawing> {
  const entities = lines.map(([layer, ...at]) => {
    const [x0, y0, x1, y1] = at;
    return `0\nLINE\n8\n${layer}\n10\n${x0}\n20\n${y0}\n11\n${x1}\n21\n${y1}\n`;
  });
  const header = `0\nSECTION\n2\nHEADER\n9\n$ACADVER\n1\nAC1027\n9\n$INSUNITS\n70\n${unit}\n0\nENDSEC\n`;
  const text = `${header}0\nSECTION\n2\nENTITIES\n${entities.join('')}0\nENDSEC\n0\nEOF\n`;
  return drawingOf(new TextEncoder().encode(text), 'known.dxf');
}

function sheet(views: Partial<View>[], more: Partial<Sheet> = {}): Partial<Sheet> {
  const whole = views.map((view, i): View => ({
    id: `v${i}`,
    drawing: 'd',
    space: 'model',
    window: 'extents',
    scale: '1:1',
    at: [100, 100],
    layersOff: [],
    label: '',
    ...view,
  }));
  return { paper: { name: 'A1', orientation: 'landscape' }, number: 'A-101', views: whole, ...more };
}

/** The strokes of a page as MuPDF reads them: ends in mm from the lower left corner, in their order. */
function strokes(pdf: string, page: number, heightMm: number): [number, number, number, number][] {
  const trace = tool('mutool', 'draw', '-F', 'trace', '-o', '-', pdf, String(page));
  return [...trace.matchAll(/<stroke_path[^>]*transform="([^"]+)"[^>]*>([\s\S]*?)<\/stroke_path>/g)].map((found) => {
    const [a, b, c, d, e, f] = found[1]!.split(' ').map(Number) as [number, number, number, number, number, number];
    const points = [...found[2]!.matchAll(/<(?:moveto|lineto) x="([^"]+)" y="([^"]+)"/g)].map(([, x, y]) => [
      (a * Number(x) + c * Number(y) + e) * MM_PER_POINT,
      heightMm - (b * Number(x) + d * Number(y) + f) * MM_PER_POINT,
    ]);
    return [...points[0]!, ...points[1]!] as [number, number, number, number];
  });
}

const lengthOf = ([x0, y0, x1, y1]: [number, number, number, number]): number => Math.hypot(x1 - x0, y1 - y0);

describe('a known length, measured on the published page by MuPDF', () => {
  // Paper length is real length times scale (ISO 5455); 1/8" = 1'-0" is 1:96: 40 ft come to 5 in, 127 mm.
  it.each([
    ['123.45 mm at 1:1', 4, [0, 0, 123.45, 0], '1:1', 0, 123.45],
    ['12 345 mm at 1:50', 4, [0, 0, 12_345, 0], '1:50', 0, 246.9],
    ['12.345 m at 1:50, turned by 30°', 6, [0, 0, 12.345, 0], '1:50', 30, 246.9],
    ['12.345 m at 1:50, turned by -90°', 6, [0, 0, 12.345, 0], '1:50', -90, 246.9],
    [`40 ft at 1/8" = 1'-0"`, 2, [0, 0, 40, 0], `1/8" = 1'-0"`, 0, 127],
    ['480 in at 1:96', 1, [0, 0, 0, 480], '1:96', 0, 127],
    [
      '234.56 mm at 1:1 far away',
      4,
      [512_345_678.12, 5_412_345_678.9, 512_345_912.68, 5_412_345_678.9],
      '1:1',
      0,
      234.56,
    ],
    [
      '25 m at 1:100 in real-world metres',
      6,
      [512_345.678, 5_412_345.678, 512_360.678, 5_412_365.678],
      '1:100',
      0,
      250,
    ],
  ] as const)('%s', async (name, unit, at, scale, rotation, wanted) => {
    const file = join(folder, `${name.replace(/\W+/g, '-')}.pdf`);
    const shown = await drawing(unit, [['A-WALL', ...at]]);
    await publishSheets(file, [{ drawing: shown, sheet: sheet([{ scale, rotation }]) }]);
    const found = strokes(file, 1, 594);
    expect(found).toHaveLength(WALLS);
    // Ends lie on whole hundredths of a millimetre, each off by half of one at most.
    expect(Math.abs(lengthOf(found[0]!) - wanted)).toBeLessThan(0.011);
    const turned = (Math.atan2(found[0]![3] - found[0]![1], found[0]![2] - found[0]![0]) * 180) / Math.PI;
    const drawn = (Math.atan2(at[3] - at[1], at[2] - at[0]) * 180) / Math.PI;
    expect(turned).toBeCloseTo(drawn + rotation, 2);
  });
});

describe('two sheets with the same views and other layers', () => {
  it('lie over one another to the hundredth of a millimetre', async () => {
    const shown = await drawing(4, [
      ['A-GRID', 0, 0, 9000, 0],
      ['A-WALL', 117, 2231, 8111, 3077],
      ['A-FURN', 500, 500, 700, 900],
    ]);
    const file = join(folder, 'variations.pdf');
    const view = { scale: '1:20', window: [0, 0, 9000, 4000] as View['window'] };
    await publishSheets(file, [
      { drawing: shown, sheet: sheet([view]) },
      { drawing: shown, sheet: sheet([{ ...view, layersOff: ['A-FURN'], colour: 'greys' }], { number: 'A-102' }) },
    ]);
    const [base, other] = [strokes(file, 1, 594), strokes(file, 2, 594)];
    expect(base).toHaveLength(3);
    expect(other).toEqual(base.slice(0, 2));
  });
});

describe('the title block of a published page, read by poppler', () => {
  it.each([
    ['one scale', ['1:50', '1:50'], '1:50'],
    ['several scales', ['1:50', '1:20'], 'As indicated'],
    ['no view', [], 'Not to scale'],
  ] as const)('says of %s', async (name, scales, said) => {
    const file = join(folder, `${name}.pdf`);
    const views = scales.map((scale, i) => ({ scale, at: [100, 200 + 100 * i] as [number, number] }));
    const filled = sheet(views, {
      title: 'Ground floor plan',
      titleBlock: { fields: { creator: 'I. Brandt' } },
      frame: 'iso5457',
      revision: { index: 'P02', date: '2026-11-12', text: '' },
    });
    await publishSheets(file, [{ drawing: await drawing(4, [['0', 0, 0, 1000, 500]]), sheet: filled }]);
    const text = tool('pdftotext', '-layout', file, '-');
    for (const value of [said, 'A-101', 'Ground floor plan', 'A1', 'P02', '2026-11-12', 'I. Brandt']) {
      expect(text).toContain(value);
    }
  });
});
