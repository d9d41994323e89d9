import { readFileSync } from 'node:fs';
import { type FormatOptions, type View } from '@folvex/core';
import { tool } from '../support/published';
import { DRAWING, dxfWriter, group, VIEW, X, Y } from '../support/true-size';

const written = dxfWriter();

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
