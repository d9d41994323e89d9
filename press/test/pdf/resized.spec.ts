import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  PdfDocument,
  STANDARD_RECIPE,
  unpackParts,
  type PaperPlacement,
  type PaperSize,
  type Recipe,
} from '@folvex/core';
import { pdfTools, sha256 } from '../../src/index';
import { MM_PER_POINT, ownFolder, tool } from '../support/published';
import { makePart } from '../support/make-part';

const folder = ownFolder();
const A3: PaperSize = { width: 420, height: 297 };

/** An A1 sheet with a wall of 20 m at 1:100, 0.50 mm heavy, printed on a paper. */
async function printed(name: string, onto: PaperPlacement | undefined, recipe: Partial<Recipe> = {}) {
  const dxf = join(folder, 'wall.dxf');
  const line = '0\nLINE\n8\nA-WALL\n370\n50\n10\n0\n20\n0\n11\n20\n21\n0\n';
  const header = '0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n6\n0\nENDSEC\n';
  writeFileSync(dxf, `${header}0\nSECTION\n2\nENTITIES\n${line}0\nENDSEC\n0\nEOF\n`);
  const view = {
    ...{ id: 'v', drawing: 'd', space: 'model', window: 'extents' as const, scale: '1:100' },
    ...{ at: [100, 100] as [number, number], layersOff: [], label: '' },
  };
  const made = await makePart({
    project: { number: '', name: '', client: '', fields: {} },
    sheet: {
      ...{ id: 's', number: 'A-101', title: 'Plan', group: '', frame: 'none', titleBlock: undefined },
      ...{ paper: { name: 'A1', orientation: 'landscape' }, revision: undefined, views: [view] },
    },
    recipe: { ...STANDARD_RECIPE, ...recipe },
    drawings: [{ id: 'd', name: 'wall.dxf', path: dxf, hash: sha256(readFileSync(dxf)) }],
    ...(onto && { onto }),
    folder,
  });
  if (!made.ok) throw new Error(made.problem.sentence);
  const [part] = unpackParts(readFileSync(made.value.temporary));
  const chunks: Uint8Array[] = [];
  const facts = { title: 't', author: '', producer: 'Folvex', date: '', id: 'AB'.repeat(16) };
  const document = new PdfDocument({ write: (bytes) => chunks.push(bytes.slice()) }, await pdfTools(), facts);
  document.addPage(part!, { number: 'A-101', title: '' });
  document.finish();
  const pdf = join(folder, `${name}.pdf`);
  writeFileSync(pdf, Buffer.concat(chunks));
  return { pdf, part: part! };
}

/** Length and line width of the only stroke, mm, as MuPDF reads them. */
function wall(pdf: string): { length: number; weight: number } {
  const trace = tool('mutool', 'draw', '-F', 'trace', '-o', '-', pdf, '1');
  const [, weight, matrix, path] =
    /<stroke_path[^>]*linewidth="([^"]+)"[^>]*transform="([^"]+)"[^>]*>([\s\S]*?)<\/stroke_path>/.exec(trace)!;
  const scale = Number(matrix!.split(' ')[0]);
  const xs = [...path!.matchAll(/ x="([^"]+)"/g)].map(([, x]) => Number(x) * scale * MM_PER_POINT);
  return { length: Math.abs(xs[1]! - xs[0]!), weight: Number(weight) * scale * MM_PER_POINT };
}

it('prints a sheet at half its scale, says so, and measures it true', async () => {
  const { pdf, part } = await printed('half', { paper: A3 });
  // ISO 216: A3 is half as long as A1 to the millimetre: 420 of 841, 297 of 594.
  expect(tool('pdfinfo', pdf)).toMatch(/Page size:\s+1190\.55 x 841\.89 pts/);
  const { length, weight } = wall(pdf);
  const factor = 420 / 841;
  expect(length).toBeCloseTo(200 * factor, 1);
  expect(weight).toBeCloseTo(0.5 * factor, 2);
  expect(tool('pdftotext', pdf, '-')).toMatch(/Half scale: A1.* printed on A3/);
  expect(part.measured[0]!.scale).toBeCloseTo(factor / 100, 8);
});

it('prints no line thinner than its recipe lets it', async () => {
  const { pdf } = await printed('least', { paper: A3 }, { leastWeight: 0.35 });
  expect(wall(pdf).weight).toBeCloseTo(0.35, 3);
});

it('turns the paper as the sheet lies, and leaves a sheet of that size alone', async () => {
  const turned = await printed('turned', { paper: { width: 297, height: 420 } });
  expect(tool('pdfinfo', turned.pdf)).toMatch(/Page size:\s+1190\.55 x 841\.89 pts/);
  const [same, own] = [await printed('same', { paper: { width: 841, height: 594 } }), await printed('own', undefined)];
  expect(sha256(readFileSync(same.pdf))).toBe(sha256(readFileSync(own.pdf)));
  expect(tool('pdftotext', same.pdf, '-')).not.toContain('printed on');
});

/** Where the wall begins, mm from the lower left corner of the paper, as MuPDF reads it. */
function beginning(pdf: string): [number, number] {
  const trace = tool('mutool', 'draw', '-F', 'trace', '-o', '-', pdf, '1');
  const [, matrix, x, y] = /<stroke_path[^>]*transform="([^"]+)"[^>]*>[\s\S]*?<moveto x="([^"]+)" y="([^"]+)"/.exec(
    trace,
  )!;
  const [a, , , d, e, f] = matrix!.split(' ').map(Number) as [number, number, number, number, number, number];
  const [, high] = /Page size:\s+[\d.]+ x ([\d.]+)/.exec(tool('pdfinfo', pdf))!.map(Number) as [number, number];
  // MuPDF counts downwards from the upper edge.
  return [(a * Number(x) + e) * MM_PER_POINT, (high - (d * Number(y) + f)) * MM_PER_POINT];
}

// The wall begins at 100, 100 on its A1 sheet of 841 × 594 mm.
it.each<[string, PaperPlacement, number, [number, number]]>([
  ['a percentage, in the middle', { percent: 50 }, 100, [841 / 4 + 50, 594 / 4 + 50]],
  ['full size, moved', { x: 12.5, y: -3 }, 200, [112.5, 97]],
  [
    'full size in a corner of a smaller paper',
    { paper: A3, percent: 100, corner: 'lower-left', x: -90, y: -80 },
    200,
    [10, 20],
  ],
  [
    'a percentage in the upper right corner',
    { percent: 50, corner: 'upper-right', x: 5, y: 10 },
    100,
    [841 / 2 - 5 + 50, 594 / 2 - 10 + 50],
  ],
])('puts a page on paper by %s', async (name, placement, length, at) => {
  const { pdf, part } = await printed(name.replace(/\W/g, '-'), placement);
  expect(wall(pdf).length).toBeCloseTo(length, 1);
  beginning(pdf).forEach((mm, i) => expect(mm).toBeCloseTo(at[i]!, 1));
  expect(part.measured[0]!.scale).toBeCloseTo((0.01 * length) / 200, 9);
  // What is to scale says nothing.
  expect(
    tool('pdftotext', pdf, '-').includes('of its scale') || tool('pdftotext', pdf, '-').includes('Half scale'),
  ).toBe(length !== 200);
});
