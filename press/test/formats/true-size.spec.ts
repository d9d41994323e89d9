import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { STANDARD_RECIPE, type FormatOptions, type Sheet, type View } from '@folvex/core';
import { makeSheet, sha256 } from '../../src/index';
import { verifyFormat } from '../../src/formats';
import { ownFolder, SHEET, tool } from '../support/published';

const folder = ownFolder();

function group(...pairs: (string | number)[]): string {
  return `${pairs.join('\n')}\n`;
}

/** A wall of 12 345 mm, drawn in metres far from the origin, with a dashed axis, a heavy line and a text. */
const [X, Y] = [2_600_000, 1_200_000];
const DRAWING = [
  group(0, 'SECTION', 2, 'HEADER', 9, '$ACADVER', 1, 'AC1027', 9, '$INSUNITS', 70, 6, 0, 'ENDSEC'),
  group(0, 'SECTION', 2, 'TABLES', 0, 'TABLE', 2, 'LTYPE', 0, 'LTYPE', 2, 'AXIS', 73, 2, 40, 0.75, 49, 0.5, 49, -0.25),
  group(0, 'ENDTAB', 0, 'ENDSEC', 0, 'SECTION', 2, 'ENTITIES'),
  group(0, 'LINE', 8, 'A-WALL', 370, 50, 62, 1, 10, X, 20, Y, 11, X + 12.345, 21, Y),
  group(0, 'LINE', 8, 'A-AXIS', 6, 'AXIS', 370, 18, 10, X, 20, Y + 2, 11, X + 12, 21, Y + 2),
  group(0, 'LWPOLYLINE', 8, 'A-BEAM', 90, 2, 43, 0.3, 10, X, 20, Y + 4, 10, X + 6, 20, Y + 4),
  group(0, 'TEXT', 8, 'A-TEXT', 10, X + 1, 20, Y + 5, 40, 0.25, 1, 'Größe'),
  group(0, 'ENDSEC', 0, 'EOF'),
].join('');

const VIEW: View = {
  ...{ id: 'v', drawing: 'd', space: 'model', window: [X - 1, Y - 1, X + 14, Y + 7], at: [20, 20] },
  ...{ scale: '1:100', layersOff: [], label: '' },
};

async function written(
  options: FormatOptions,
  sheet: Partial<Sheet> = { views: [VIEW] },
  drawing = DRAWING,
): Promise<string> {
  const path = join(folder, 'plan.dxf');
  writeFileSync(path, drawing);
  const made = await makeSheet({
    project: { number: '', name: '', client: '', fields: {} },
    sheet: { ...SHEET, paper: { name: 'A3', orientation: 'landscape' }, frame: 'iso5457', ...sheet },
    recipe: { ...STANDARD_RECIPE, colour: 'black' },
    drawings: [{ id: 'd', name: 'plan.dxf', path, hash: sha256(readFileSync(path)) }],
    part: false,
    formats: ['dxf'],
    options,
    folder,
  });
  if (!made.ok) throw new Error(made.problem.sentence);
  const [file] = made.value.extraFormats;
  const proof = await verifyFormat({ format: 'dxf', path: file!.temporary, width: 420, height: 297, options });
  expect(proof.differences).toEqual([]);
  return file!.temporary;
}

/** What ezdxf, an independent reader, finds: the version, the unit, and of each layer the entities. */
const SCRIPT = `
import sys, json, ezdxf
from ezdxf import recover
doc, auditor = recover.readfile(sys.argv[1])
def facts(e):
    kind = e.dxftype()
    points = [list(p[:2]) for p in e.get_points('xy')] if kind == 'LWPOLYLINE' else []
    if kind == 'POLYLINE': points = [list(v.dxf.location)[:2] for v in e.vertices]
    if kind == 'SOLID': points = [list(v)[:2] for v in (e.dxf.vtx0, e.dxf.vtx1, e.dxf.vtx2)]
    has = lambda name, standard: e.dxf.get(name, standard) if e.dxf.is_supported(name) else standard
    return dict(kind=kind, points=points, width=has('const_width', 0), weight=has('lineweight', -1),
                colour=e.rgb, index=has('color', 256), height=has('height', 0), text=has('text', ''))
layers = {}
for e in doc.modelspace():
    layers.setdefault(e.dxf.layer, []).append(facts(e))
looks = {l.dxf.name: [l.color, l.dxf.get('lineweight', -3)] for l in doc.layers}
dashes = {t.dxf.name: [tag.value for tag in t.pattern_tags.tags if tag.code == 49] for t in doc.linetypes}
print(json.dumps(dict(version=doc.acad_release, unit=doc.units, errors=len(auditor.errors), layers=layers, looks=looks, dashes=dashes)))
`;

interface Found {
  version: string;
  unit: number;
  errors: number;
  layers: Record<string, { kind: string; points: [number, number][]; [fact: string]: unknown }[]>;
  /** Colour index and line weight of each layer. */
  looks: Record<string, [number, number]>;
  dashes: Record<string, number[]>;
}

function found(path: string): Found {
  return JSON.parse(tool('/usr/bin/python3', '-c', SCRIPT, path)) as Found;
}

/** What ezdxf finds of block references: their names with how they are placed, and all lines and texts, references opened. */
const BLOCKS_SCRIPT = `
import sys, json
from ezdxf import recover, bbox
doc, auditor = recover.readfile(sys.argv[1])
inserts = [e for e in doc.modelspace() if e.dxftype() == 'INSERT']
def opened(e):
    return [one for part in e.virtual_entities() for one in opened(part)] if e.dxftype() == 'INSERT' else [e]
shown = []
for e in doc.modelspace():
    for one in opened(e):
        box = bbox.extents([one], fast=False)
        shown.append([one.dxftype(), one.dxf.layer, *list(box.extmin)[:2], *list(box.extmax)[:2]])
print(json.dumps(dict(errors=len(auditor.errors), shown=shown, inserts=[
    [e.dxf.name, round(e.dxf.xscale, 6), round(e.dxf.yscale, 6), round(e.dxf.rotation, 6), *list(e.dxf.insert)[:2]] for e in inserts],
    texts=[e.dxf.text for b in doc.blocks if not b.is_any_layout for e in b if e.dxftype() == 'TEXT'])))
`;

interface FoundBlocks {
  errors: number;
  inserts: [name: string, across: number, up: number, turned: number, x: number, y: number][];
  /** Kind, layer, and the box around it. */
  shown: [string, string, number, number, number, number][];
  texts: string[];
}

function foundBlocks(path: string): FoundBlocks {
  return JSON.parse(tool('/usr/bin/python3', '-c', BLOCKS_SCRIPT, path)) as FoundBlocks;
}

/** The drawing with a door as a block, referred to with these groups each. */
function withDoors(...references: (string | number)[][]): string {
  const door = [
    group(0, 'SECTION', 2, 'BLOCKS', 0, 'BLOCK', 8, 0, 2, 'Door', 70, 0, 10, 100, 20, 50, 30, 0),
    group(0, 'LINE', 8, 'A-DOOR', 10, 100, 20, 50, 11, 100.9, 21, 50),
    group(0, 'ARC', 8, 'A-DOOR', 10, 100, 20, 50, 40, 0.9, 50, 0, 51, 90),
    group(0, 'TEXT', 8, 'A-DOOR', 10, 100.1, 20, 50.1, 40, 0.2, 1, 'D1'),
    group(0, 'LWPOLYLINE', 8, 'A-DOOR', 90, 2, 43, 0.05, 10, 100, 20, 50, 10, 100, 20, 50.9),
    group(0, 'ENDBLK', 0, 'ENDSEC'),
  ].join('');
  const inserts = references.map((own) => group(0, 'INSERT', 8, 'A-DOOR', 2, 'Door', ...own)).join('');
  return DRAWING.replace(group(0, 'SECTION', 2, 'ENTITIES'), `${door}${group(0, 'SECTION', 2, 'ENTITIES')}${inserts}`);
}

/** What GDAL, another independent reader, finds: the lines of each layer. */
function linesByGdal(path: string): Record<string, [number, number][][]> {
  const { features } = JSON.parse(tool('/usr/bin/ogr2ogr', '-f', 'GeoJSON', '/vsistdout/', path)) as {
    features: {
      properties: { Layer: string };
      geometry: { type: string; coordinates: [number, number][] } | null;
    }[];
  };
  const lines: Record<string, [number, number][][]> = {};
  for (const { properties, geometry } of features) {
    if (geometry?.type === 'LineString') (lines[properties.Layer] ??= []).push(geometry.coordinates);
  }
  return lines;
}

function lengthOf(path: string, layer: string): number {
  const [[x0, y0], [x1, y1]] = found(path).layers[layer]![0]!.points as [[number, number], [number, number]];
  return Math.hypot(x1 - x0, y1 - y0);
}

describe('DXF at true size', () => {
  it.each(['1:100', '1:37', '1:1000'])('of a sheet at %s has walls as long as they are', async (scale) => {
    const path = await written(
      { dxfSize: 'sheet' },
      { views: [{ ...VIEW, scale, window: [X - 1, Y - 1, X + 14, Y + 7] }] },
    );
    expect(lengthOf(path, 'plan - A-WALL')).toBeCloseTo(12345, 1);
    const { layers, dashes, errors, unit } = found(path);
    // Millimetres (ezdxf: 4); the frame is there, and line weights stay those of the paper.
    expect([unit, errors, 'Frame' in layers]).toEqual([4, 0, true]);
    expect(layers['plan - A-WALL']![0]).toMatchObject({ weight: 50, width: 0 });
    expect(layers['plan - A-BEAM']![0]!['width']).toBeCloseTo(300, 0);
    expect(layers['plan - A-TEXT']![0]!['height']).toBeCloseTo(250, 0);
    expect(Object.values(dashes).find((lengths) => lengths.length === 2)).toEqual([
      expect.closeTo(500, 0),
      expect.closeTo(-250, 0),
    ]);
  });

  // The international inch is 25.4 mm exactly.
  it.each([
    ['mm', 1],
    ['cm', 10],
    ['m', 1000],
    ['in', 25.4],
    ['ft', 304.8],
  ] as const)('of drawings in %s lies at their own coordinates, without a frame', async (unit, mm) => {
    const path = await written({ dxfSize: 'model', ...(unit !== 'mm' && { dxfUnit: unit }) });
    const { layers } = found(path);
    expect(Object.keys(layers).filter((name) => !name.startsWith('plan - '))).toEqual([]);
    const [from, to] = layers['plan - A-WALL']![0]!.points as [[number, number], [number, number]];
    expect(from).toEqual([expect.closeTo((X * 1000) / mm, 1), expect.closeTo((Y * 1000) / mm, 1)]);
    expect((to[0] - from[0]) * mm).toBeCloseTo(12345, 1);
  });

  it.each(['R12', '2000', '2013', '2018'] as const)('of release %s is read by GDAL too', async (dxfVersion) => {
    const lines = linesByGdal(await written({ dxfSize: 'model', ...(dxfVersion !== '2013' && { dxfVersion }) }));
    const [from, to] = lines[dxfVersion === 'R12' ? 'PLAN_-_A-WALL' : 'plan - A-WALL']![0]!;
    // Old polylines have heights.
    expect(from!.slice(0, 2)).toEqual([expect.closeTo(X * 1000, 1), expect.closeTo(Y * 1000, 1)]);
    expect(to![0] - from![0]).toBeCloseTo(12345, 1);
  });

  it('shows a drawing once that several views show, within all their windows', async () => {
    const views = [VIEW, { ...VIEW, id: 'w', scale: '1:20', window: [X, Y - 0.5, X + 3, Y + 3] as View['window'] }];
    const { layers } = found(await written({ dxfSize: 'model' }, { views }));
    expect(layers['plan - A-WALL']).toHaveLength(1);
  });

  it('has colours as printed or as drawn, texts as outlines, and the release that is asked for', async () => {
    const wall = async (options: FormatOptions) =>
      found(await written({ dxfSize: 'model', ...options })).layers['plan - A-WALL']![0];
    expect(await wall({})).toMatchObject({ index: 7, colour: null });
    expect(await wall({ dxfColours: 'drawn' })).toMatchObject({ index: 1, colour: [255, 0, 0] });
    expect(await wall({ dxfColours: 'drawn', dxfVersion: '2000' })).toMatchObject({ index: 1, colour: null });
    const outlined = found(await written({ dxfSize: 'model', dxfTexts: 'outlines' }));
    expect(new Set(outlined.layers['plan - A-TEXT']!.map(({ kind }) => kind))).toEqual(new Set(['HATCH']));
    for (const [release, name] of [
      ['2000', 'R2000'],
      ['2010', 'R2010'],
      ['2018', 'R2018'],
    ] as const) {
      const { version, errors, layers } = found(await written({ dxfVersion: release }));
      expect([version, errors]).toEqual([name, 0]);
      expect([release, layers['plan - A-TEXT']![0]!['text']]).toEqual([release, 'Größe']);
    }
  });

  it('has a layer for each pen, whose lines look as their layer', async () => {
    const { layers, looks } = found(await written({ dxfSize: 'model', dxfColours: 'drawn', dxfLayers: 'pens' }));
    expect(Object.keys(layers).sort()).toEqual(['Areas and texts', 'Lines 0.18', 'Lines 0.50 ff0000', 'Wide lines']);
    expect(layers['Lines 0.50 ff0000']).toMatchObject([{ kind: 'LWPOLYLINE', index: 256, weight: -1 }]);
    expect(looks['Lines 0.50 ff0000']).toEqual([1, 50]);
  });

  it('goes back to release 12, without what it does not have', async () => {
    const square = (x: number, side: number): string =>
      group(92, 2, 72, 0, 73, 1, 93, 4, ...[0, 1, 2, 3].flatMap((i) => corner(x, side, i)), 97, 0);
    const corner = (x: number, side: number, i: number): number[] => [
      ...[10, X + x + (i === 1 || i === 2 ? side : 0), 20, Y + x + (i > 1 ? side : 0)],
    ];
    const hatch = group(0, 'HATCH', 8, 'A-FILL', 10, 0, 20, 0, 30, 0, 2, 'SOLID', 70, 1, 71, 0, 91, 2);
    const more = [
      `${hatch}${square(1, 4)}${square(2, 1)}${group(75, 0, 76, 1, 98, 0)}`,
      group(0, 'CIRCLE', 8, 'A-COLUMN of the ground floor, square', 10, X + 8, 20, Y + 3, 40, 2),
      group(0, 'CIRCLE', 8, 'A-COLUMN of the ground floor, round', 10, X + 8, 20, Y + 3, 40, 2),
    ];
    const drawing = DRAWING.replace(group(0, 'ENDSEC', 0, 'EOF'), `${more.join('')}${group(0, 'ENDSEC', 0, 'EOF')}`);
    const path = await written({ dxfSize: 'model', dxfVersion: 'R12' }, { views: [VIEW] }, drawing);
    const { version, errors, layers } = found(path);
    expect([version, errors]).toEqual(['R12', 0]);
    const [from, to] = layers['PLAN_-_A-WALL']![0]!.points as [[number, number], [number, number]];
    expect(to[0] - from[0]).toBeCloseTo(12345, 1);
    expect(layers['PLAN_-_A-TEXT']![0]!['text']).toBe('Größe');
    // 4 × 4 m with a hole of 1 × 1 m, by Gauss's formula.
    const areas = layers['PLAN_-_A-FILL']!.map(({ kind, points: [a, b, c] }) => {
      expect(kind).toBe('SOLID');
      return Math.abs((b![0] - a![0]) * (c![1] - a![1]) - (c![0] - a![0]) * (b![1] - a![1])) / 2;
    });
    expect(areas.reduce((sum, area) => sum + area, 0) / 1e6).toBeCloseTo(15, 3);
    // Names are short, and still two.
    const columns = Object.keys(layers).filter((name) => name.startsWith('PLAN_-_A-COLUMN'));
    expect(columns.map((name) => name.length <= 31)).toEqual([true, true]);
    for (const [x, y] of layers[columns[0]!]![0]!.points) {
      expect(Math.hypot(x - (X + 8) * 1000, y - (Y + 3) * 1000)).toBeCloseTo(2000, -0.5);
    }
    expect(readFileSync(path, 'latin1')).not.toMatch(/^(LWPOLYLINE|SPLINE|HATCH|AcDb.*)$/m);
  });

  it('is as on paper for a sheet that shows nothing at a scale', async () => {
    const { layers } = found(await written({ dxfSize: 'sheet' }, { views: [] }));
    const xs = layers['Frame']!.flatMap(({ points }) => points.map(([x]) => x));
    expect(Math.max(...xs)).toBeLessThan(421);
  });
});

describe('block references of DXF at true size', () => {
  const [x, y] = [X + 2, Y + 2];
  const sorted = ({ shown }: FoundBlocks): FoundBlocks['shown'] =>
    [...shown].sort((a, b) =>
      a.slice(0, 2).join() < b.slice(0, 2).join() ? -1 : a[0] === b[0] ? a[2] - b[2] || a[3] - b[3] : 1,
    );

  it.each(['2013', 'R12'] as const)('are kept in release %s, and show what they show opened', async (release) => {
    const drawing = withDoors(
      [10, x, 20, y],
      [10, x + 3, 20, y, 50, 30],
      [10, x + 5, 20, y, 41, -1, 42, 1],
      [10, x + 6, 20, y + 2, 70, 2, 71, 2, 44, 1.5, 45, 1.2, 50, 15],
    );
    const options = { dxfSize: 'model', dxfUnit: 'm', ...(release !== '2013' && { dxfVersion: release }) } as const;
    const opened = foundBlocks(await written(options, { views: [VIEW] }, drawing));
    const kept = foundBlocks(await written({ ...options, dxfBlocks: 'kept' }, { views: [VIEW] }, drawing));
    expect([opened.errors, opened.inserts, kept.errors]).toEqual([0, [], 0]);
    const name = release === 'R12' ? 'DOOR' : 'Door';
    // Metres, from the base point of the block.
    expect(kept.inserts.slice(0, 3)).toEqual([
      [name, 1, 1, 0, expect.closeTo(x, 4), expect.closeTo(y, 4)],
      [name, 1, 1, 30, expect.closeTo(x + 3, 4), expect.closeTo(y, 4)],
      // Text in a mirrored reference is mirrored, so that it is the same block.
      [name, 1, -1, 180, expect.closeTo(x + 5, 4), expect.closeTo(y, 4)],
    ]);
    expect(kept.inserts.map(([one, across, , turned]) => [one, across, turned]).slice(3)).toEqual(
      Array(4).fill([name, 1, 15]),
    );
    expect(kept.texts).toEqual(['D1']);
    const [wanted, found] = [sorted(opened), sorted(kept)];
    expect(found.map((one) => one.slice(0, 2))).toEqual(wanted.map((one) => one.slice(0, 2)));
    // A hundredth of a millimetre on a drawing of metres, and the rounding of two pages.
    found.forEach(([kind, , ...box], i) => {
      // Of a text the box is an estimate by letters that are not there.
      if (kind !== 'TEXT') box.forEach((value, k) => expect(value).toBeCloseTo(wanted[i]!.slice(2)[k] as number, 4));
    });
  });

  it('share a block where they differ in size only, unless curves or widths of their own come out differently', async () => {
    const drawing = withDoors([10, x, 20, y], [10, x + 3, 20, y, 41, 2, 42, 2]);
    const { inserts } = foundBlocks(await written({ dxfSize: 'model', dxfBlocks: 'kept' }, { views: [VIEW] }, drawing));
    expect(inserts.map(([name, across]) => [name, across])).toEqual([
      ['Door', 1],
      ['Door 2', 1],
    ]);
    const plain = drawing.replace(group(43, 0.05), '').replace(/^0\nARC\n[^]*?(?=^0\nTEXT)/m, '');
    const { inserts: shared } = foundBlocks(
      await written({ dxfSize: 'model', dxfBlocks: 'kept' }, { views: [VIEW] }, plain),
    );
    expect(shared.map(([name, across]) => [name, across])).toEqual([
      ['Door', 1],
      ['Door', 2],
    ]);
  });

  it('are opened where the edge of a view cuts them, or they are stretched', async () => {
    const drawing = withDoors([10, X + 13.5, 20, y], [10, x, 20, y, 41, 2, 42, 1], [10, x + 3, 20, y]);
    const { inserts, errors } = foundBlocks(
      await written({ dxfSize: 'model', dxfBlocks: 'kept' }, { views: [VIEW] }, drawing),
    );
    expect([errors, inserts.map(([, , , , at]) => Math.round(at / 1000 - X))]).toEqual([0, [5]]);
  });

  it('are kept on the sheet as printed too', async () => {
    const path = await written({ dxfBlocks: 'kept' }, { views: [VIEW] }, withDoors([10, x, 20, y]));
    // 1:100, so that a metre is 10 mm; the window begins 1 m to the left of and below X and Y, at 20 mm.
    expect(foundBlocks(path).inserts).toEqual([['Door', 1, 1, 0, expect.closeTo(50, 2), expect.closeTo(50, 2)]]);
  });
});

/** What ezdxf finds of pictures: their files and pixels, where they lie, and their outlines in pixels. */
const PICTURES_SCRIPT = `
import sys, json
from ezdxf import recover
doc, auditor = recover.readfile(sys.argv[1])
images = []
for e in doc.modelspace().query('IMAGE'):
    d = e.image_def
    u, v, size = e.dxf.u_pixel, e.dxf.v_pixel, e.dxf.image_size
    end = e.dxf.insert + u * size.x + v * size.y
    images.append(dict(file=d.dxf.filename, pixels=[size.x, size.y], defined=[d.dxf.image_size.x, d.dxf.image_size.y],
        box=[e.dxf.insert.x, e.dxf.insert.y, end.x, end.y], fade=e.dxf.fade, clipped=e.dxf.clipping,
        outline=[[p.x, p.y] for p in e.boundary_path_wcs()]))
print(json.dumps(dict(errors=[str(x.message) for x in [*auditor.errors, *auditor.fixes]], images=images)))
`;

interface FoundPictures {
  errors: string[];
  images: {
    file: string;
    pixels: number[];
    defined: number[];
    box: number[];
    fade: number;
    clipped: number;
    outline: [number, number][];
  }[];
}

describe('pictures of DXF as files of their own', () => {
  const view: View = {
    ...{ id: 'p', drawing: 'd', space: 'model', window: 'extents', at: [20, 20] },
    ...{ scale: '1:1', layersOff: [], label: '' },
  };

  /** A photo of 300 × 200 pixels at 150 dots to the inch: 50.8 × 33.87 mm. */
  async function photo(options: FormatOptions, more: Partial<View> = {}) {
    const path = join(folder, 'Quay wall.png');
    const noise = Buffer.from(Array.from({ length: 300 * 200 * 3 }, (_, i) => (i * 31) % 251));
    const png = sharp(noise, { raw: { width: 300, height: 200, channels: 3 } }).withDensity(150);
    writeFileSync(path, await png.png().toBuffer());
    const made = await makeSheet({
      project: { number: '', name: '', client: '', fields: {} },
      sheet: { ...SHEET, paper: { name: 'A3', orientation: 'landscape' }, views: [{ ...view, ...more }] },
      recipe: STANDARD_RECIPE,
      drawings: [{ id: 'd', name: 'Quay wall.png', path, hash: sha256(readFileSync(path)), unit: 'mm' }],
      ...{ part: false, formats: ['dxf'] as const, options, folder },
    });
    if (!made.ok) throw new Error(made.problem.sentence);
    const [file] = made.value.extraFormats;
    const facts = { format: 'dxf', path: file!.temporary, width: 420, height: 297, options } as const;
    expect((await verifyFormat(facts)).differences).toEqual([]);
    const found = JSON.parse(tool('/usr/bin/python3', '-c', PICTURES_SCRIPT, file!.temporary)) as FoundPictures;
    return { file: file!, found };
  }

  it('are where they are on the sheet, and the files hold them', async () => {
    const { file, found } = await photo({ dxfPictures: 'files' });
    expect(found.errors).toEqual([]);
    const [linked] = file.pictures!;
    expect(linked).toMatchObject({
      name: expect.stringMatching(/^Quay wall-[0-9a-f]{8}\.png$/),
      width: 300,
      height: 200,
    });
    expect(await sharp(linked!.temporary).metadata()).toMatchObject({ format: 'png', width: 300, height: 200 });
    const [image] = found.images;
    expect(image).toMatchObject({ file: linked!.name, pixels: [300, 200], defined: [300, 200], fade: 0, clipped: 0 });
    const [width, height] = [(300 / 150) * 25.4, (200 / 150) * 25.4];
    image!.box.forEach((value, i) => expect(value).toBeCloseTo(20 + [0, 0, width, height][i]!, 2));
    const again = {
      path: linked!.temporary,
      format: 'png',
      width: 300,
      height: 200,
      pixels: { width: 300, height: 200 },
    } as const;
    expect((await verifyFormat(again)).differences).toEqual([]);
    expect((await verifyFormat({ ...again, pixels: { width: 301, height: 200 } })).differences).toHaveLength(1);
  });

  it('are clipped as their view clips them', async () => {
    const { found } = await photo({ dxfPictures: 'files' }, { window: [10, 5, 40, 25] });
    const [image] = found.images;
    const [xs, ys] = [0, 1].map((axis) => image!.outline.map((point) => point[axis]!));
    expect(image!.clipped).toBe(1);
    // The window's corner lies at the view's place; the picture's own corner is outside it.
    const box = [Math.min(...xs!), Math.min(...ys!), Math.max(...xs!), Math.max(...ys!)];
    box.forEach((value, i) => expect(value).toBeCloseTo([20, 20, 50, 40][i]!, 1));
    expect(image!.box[0]).toBeCloseTo(10, 2);
  });

  it('are outlines where no files are asked for, and in release 12', async () => {
    for (const options of [{}, { dxfPictures: 'files', dxfVersion: 'R12' }] as const) {
      const { file, found } = await photo(options);
      expect([file.pictures, found.images]).toEqual([undefined, []]);
    }
  });

  it('have their true size in a drawing of true size', async () => {
    const { found } = await photo({ dxfPictures: 'files', dxfSize: 'sheet' }, { scale: '1:10' });
    const [x0, , x1] = found.images[0]!.box;
    expect(x1! - x0!).toBeCloseTo(50.8, 2);
  });
});
