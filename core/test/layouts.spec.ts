import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import {
  composeSheet,
  describePaper,
  numberAndTitle,
  type ComposedSheet,
  type Drawing,
  type Sheet,
} from '../src/index';
import { Record } from '../src/read/dxf/record';
import { GroupReader } from '../src/read/dxf/groups';
import { plotSettingsOf } from '../src/read/dxf/layouts';
import { bytesOf, dxf, groups, read } from './dxf';
import { FONTS } from './fonts';

function layoutSheet(layout: string): Sheet {
  const sheet = {
    id: 's',
    number: 'S',
    title: '',
    group: '',
    paper: undefined,
    frame: 'none',
    titleBlock: undefined,
    revision: undefined,
    views: [],
  };
  return { ...sheet, from: { drawing: 'd', layout } } as Sheet;
}

function composed(drawing: Drawing, layout: string): ComposedSheet {
  const project = { number: '', name: '', client: '', fields: {} };
  return composeSheet({
    project,
    sheet: layoutSheet(layout),
    fonts: FONTS,
    source: () => ({ drawing, unit: undefined }),
  });
}

/** Straight marks on a layer, as x0 y0 x1 y1 in mm. */
function lines({ page }: ComposedSheet, onto: string): number[][] {
  const index = page.layers.findIndex(({ name }) => name === onto);
  return [...page.layer.keys()]
    .filter((mark) => page.layer[mark] === index && page.coordStart[mark + 1]! - page.coordStart[mark]! === 4)
    .map((mark) => [...page.coords.subarray(page.coordStart[mark], page.coordStart[mark + 1])].map((v) => v / 100));
}

/** Layouts written by ezdxf, whose own numbers say where everything must lie. */
describe('layouts taken over as sheets', () => {
  const folder = mkdtempSync(join(tmpdir(), 'folvex-layouts-'));
  const file = join(folder, 'layouts.dxf');
  execFileSync('/usr/bin/python3', [fileURLToPath(new URL('./write_layouts.py', import.meta.url)), file]);
  const { drawing, warnings } = read(new Uint8Array(readFileSync(file)));
  afterAll(() => rmSync(folder, { recursive: true, force: true }));

  it('are found with their paper', () => {
    expect(warnings).toEqual([]);
    const found = drawing.spaces
      .filter(({ kind, plot }) => kind === 'layout' && plot)
      .map(({ name, plot }) => [name, describePaper(plot!.paper)]);
    expect(found).toEqual(
      expect.arrayContaining([
        ['A-101 Ground floor', 'A1'],
        ['A-102', 'A1'],
        ['Detail', 'D (ASME)'],
      ]),
    );
  });

  it('show the model through a viewport at its scale: 12 345 mm at 1:50 are 246.9 mm', () => {
    const sheet = composed(drawing, 'A-101 Ground floor');
    expect(sheet.paper).toEqual({ width: 841, height: 594 });
    const [wall] = lines(sheet, 'A-WALL');
    expect(wall![2]! - wall![0]!).toBeCloseTo(246.9, 2);
    // The view's middle, x = 106 000, lies at the viewport's, 400 mm from the origin, which is 8 mm from the edge.
    expect(wall![0]).toBeCloseTo(8 + 400 - 6000 / 50, 2);
    expect(wall![1]).toBeCloseTo(7 + 300, 2);
  });

  it('leave out what a viewport freezes, and draw its border', () => {
    const sheet = composed(drawing, 'A-101 Ground floor');
    expect(lines(sheet, 'A-FURN')).toEqual([]);
    const border = [...sheet.page.coords].map((v) => v / 100);
    expect(border.join(' ')).toContain('258 207 558 207 558 407 258 407');
    expect(sheet.page.texts.map(({ text, x, y }) => [text, x / 100, y / 100])).toContainEqual(['Sheet note', 108, 57]);
  });

  it('turn with the twist of their viewport, about its target', () => {
    const [wall] = lines(composed(drawing, 'A-102'), 'A-WALL');
    // 15 000 units on 300 mm are 1:50; turned a quarter, the wall runs up from the viewport's middle and leaves it.
    expect(wall!.map((v) => Math.round(v * 100) / 100)).toEqual([400, 300, 400, 300 + 246.9]);
  });

  it('measure in inches where they are laid out in inches', () => {
    const sheet = composed(drawing, 'Detail');
    expect([sheet.paper.width, sheet.paper.height].map((v) => Math.round(v * 10) / 10)).toEqual([863.6, 558.8]);
    expect(lines(sheet, '0')).toEqual([[25.4, 25.4, 279.4, 25.4]]);
  });

  it('that are not there are refused with those that are', () => {
    expect(() => composed(drawing, 'A-999')).toThrow(/has no layout "A-999"; it has .*A-102/);
  });
});

describe('a viewport', () => {
  it('with a number that is none is told, not dropped in silence', () => {
    const viewport = groups(
      [0, 'VIEWPORT'],
      [5, 'V1'],
      [8, '0'],
      [10, 'NaN'],
      [20, 0],
      [40, 10],
      [41, 10],
      [45, 10],
      [68, 2],
      [69, 2],
    );
    const { warnings } = read(dxf({ entities: viewport }));
    expect(warnings).toEqual([
      expect.objectContaining({ code: 'dxf.bad-number', place: expect.objectContaining({ handle: 'V1' }) }),
    ]);
  });
});

describe('plot settings', () => {
  const settings = (...more: [number, number][]) => {
    const text = groups([0, 'LAYOUT'], [44, 297], [45, 420], [40, 1], [41, 2], [42, 3], [43, 4], [72, 1], ...more);
    const reader = new GroupReader(bytesOf(text), new TextDecoder());
    reader.next();
    return plotSettingsOf(new Record(reader).read());
  };

  it('turn the sheet and its margins', () => {
    expect(settings()).toEqual({ paper: { width: 297, height: 420 }, originX: 1, originY: 2, mmPerUnit: 1 });
    expect(settings([73, 1])).toMatchObject({ paper: { width: 420, height: 297 }, originX: 2, originY: 3 });
    expect(settings([73, 2])).toMatchObject({ paper: { width: 297, height: 420 }, originX: 3, originY: 4 });
    expect(settings([73, 3])).toMatchObject({ paper: { width: 420, height: 297 }, originX: 4, originY: 1 });
  });

  it('move the origin and scale the plot', () => {
    expect(settings([46, 10], [47, 20], [142, 1], [143, 2])).toMatchObject({
      originX: 11,
      originY: 22,
      mmPerUnit: 0.5,
    });
  });
});

describe('names of layouts', () => {
  it.each([
    ['A-101 Ground floor', 'A-101', 'Ground floor'],
    ['A-101 - Ground floor', 'A-101', 'Ground floor'],
    ['A101', 'A101', ''],
    ['Layout1', 'Layout1', ''],
    ['Site plan', 'Site plan', ''],
    ['M.02 – Plant room', 'M.02', 'Plant room'],
  ])('%s', (name, number, title) => {
    expect(numberAndTitle(name)).toEqual({ number, title });
  });
});
