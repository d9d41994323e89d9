import { DxfWriter, point2d, point3d, Units } from '@tarikjabiri/dxf';
import Drawing from 'dxf-writer';
import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { visibleExtents, type Drawing as Read } from '../../../src/index';
import { FONTS } from '../../support/fonts';
import { read } from '../../support/dxf';
import { temporaryFolder } from '../../support/ezdxf';

/** DXF of libraries that write it, which share nothing with this project: all of it comes in, where it was drawn. */
function facts(text: string) {
  const { drawing, warnings } = read(text);
  const kinds: Record<string, number> = {};
  for (const { kind } of drawing.spaces[0]!.entities) kinds[kind] = (kinds[kind] ?? 0) + 1;
  return { drawing, kinds, codes: warnings.map(({ code }) => code) };
}

const extentsOf = (drawing: Read): number[] => {
  const { xmin, ymin, xmax, ymax } = visibleExtents(drawing, drawing.spaces[0]!.entities, FONTS)!;
  return [xmin, ymin, xmax, ymax].map((value) => Math.round(value * 1e3) / 1e3);
};

describe('drawings of other writers', () => {
  const folder = temporaryFolder();

  it('by dxf-writer', () => {
    const drawing = new Drawing();
    drawing.setUnits('Millimeters');
    drawing.addLineType('DASHED', '_ _ ', [5, -5]);
    drawing.addLayer('A-WALL', Drawing.ACI.RED, 'DASHED');
    drawing.setActiveLayer('A-WALL');
    drawing.drawLine(0, 0, 12345, 0);
    drawing.drawRect(100, 100, 400, 300);
    drawing.drawCircle(1000, 1000, 200);
    drawing.drawArc(2000, 1000, 100, 0, 90);
    drawing.drawPolyline(
      [
        [0, 2000],
        [500, 2000],
        [500, 2500],
      ],
      true,
    );
    drawing.drawText(100, 3000, 250, 0, 'Ticket hall');
    drawing.drawPoint(5000, 3500);
    const { drawing: got, kinds, codes } = facts(drawing.toDxfString());
    expect(kinds).toEqual({ line: 1, polyline: 2, arc: 2, text: 1, point: 1 });
    expect(codes).toEqual([]);
    expect(got.unit).toBe('mm');
    expect(extentsOf(got).slice(0, 3)).toEqual([0, 0, 12345]);
    expect(got.layers.find(({ name }) => name === 'A-WALL')!.colour).toBe(0xff0000);
    expect(got.lineTypes.find(({ name }) => name === 'DASHED')!.dashes).toEqual([5, -5]);
  });

  it('by @tarikjabiri/dxf', () => {
    const writer = new DxfWriter();
    writer.setUnits(Units.Meters);
    const block = writer.addBlock('DOOR');
    block.addLine(point3d(0, 0), point3d(0.9, 0));
    block.addArc(point3d(0, 0), 0.9, 0, 90);
    writer.addLine(point3d(0, 0), point3d(12.345, 0));
    writer.addCircle(point3d(5, 5), 1);
    writer.addLWPolyline([{ point: point2d(1, 1) }, { point: point2d(4, 1), bulge: 1 }, { point: point2d(4, 3) }]);
    writer.addEllipse(point3d(8, 5), point3d(2, 0), 0.5, 0, 2 * Math.PI);
    writer.addSpline({ controlPoints: [point3d(0, 8), point3d(2, 9), point3d(4, 7), point3d(6, 8)] });
    writer.addText(point3d(1, 6), 0.25, 'Größe');
    writer.addMText(point3d(1, 7), 0.25, 'two\\Plines');
    writer.addInsert('DOOR', point3d(10, 1));
    writer.addInsert('DOOR', point3d(11, 3), { rotationAngle: 90 });
    const { drawing, kinds, codes } = facts(writer.stringify());
    expect(kinds).toEqual({ line: 1, arc: 1, polyline: 1, ellipse: 1, path: 1, text: 2, insert: 2 });
    expect(codes).toEqual([]);
    expect(drawing.unit).toBe('m');
    expect(extentsOf(drawing).slice(0, 3)).toEqual([0, 0, 12.345]);
    expect(drawing.blocks.get('door')!.entities).toHaveLength(2);
    const texts = drawing.spaces[0]!.entities.flatMap((entity) => (entity.kind === 'text' ? [entity.lines] : []));
    expect(texts).toEqual([['Größe'], ['two', 'lines']]);
  });

  it('by GDAL', () => {
    const ring = (x: number, side: number) =>
      [0, 1, 2, 3, 0].map((i) => [x + (i % 3 ? side : 0), x + (i > 1 ? side : 0)]);
    const feature = (Layer: string, type: string, coordinates: unknown, more = {}) => ({
      ...{ type: 'Feature', properties: { Layer, ...more }, geometry: { type, coordinates } },
    });
    const wall = [
      [0, 0],
      [12345, 0],
      [12345, 6789.5],
    ];
    const features = [
      feature('WALLS', 'LineString', wall),
      feature('SLABS', 'Polygon', [ring(0, 4000), ring(1000, 1000)]),
      feature('NAMES', 'Point', [500, 250]),
    ];
    const [input, output] = [join(folder, 'plan.json'), join(folder, 'plan.dxf')];
    writeFileSync(input, JSON.stringify({ type: 'FeatureCollection', features }));
    execFileSync('/usr/bin/ogr2ogr', ['-f', 'DXF', output, input]);
    const { drawing, kinds, codes } = facts(readFileSync(output, 'utf8'));
    expect(kinds).toEqual({ polyline: 1, fill: 1, point: 1 });
    expect(codes).toEqual([]);
    expect(extentsOf(drawing)).toEqual([0, 0, 12345, 6789.5]);
    const layers = drawing.spaces[0]!.entities.map(({ style }) => drawing.layers[style.layer]!.name);
    expect(layers).toEqual(['WALLS', 'SLABS', 'NAMES']);
    const fill = drawing.spaces[0]!.entities.find((entity) => entity.kind === 'fill');
    expect(fill?.kind === 'fill' && fill.loops).toHaveLength(2);
  });

  it('by Maker.js', () => {
    // Written by makerjs 0.19.2: a rounded plate, a ring, a line and an arc, in inches.
    const file = fileURLToPath(new URL('files/makerjs-plate.dxf', import.meta.url));
    const { drawing, kinds, codes } = facts(readFileSync(file, 'utf8'));
    // Four sides and four corners, two circles, a line, an arc.
    expect(kinds).toEqual({ line: 5, arc: 7 });
    expect(codes).toEqual([]);
    expect(drawing.unit).toBe('in');
    expect(extentsOf(drawing)).toEqual([0, 0, 10, 6]);
  });
});
