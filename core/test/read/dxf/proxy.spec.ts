import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { Path, scaling, type ShapeEntity } from '../../../src/index';
import { drawPath } from '../../../src/sheet/shapes';
import { dxf, groups, read, viewport } from '../../support/dxf';
import { runScript, temporaryFolder } from '../../support/ezdxf';

const folder = temporaryFolder();

type Part = { double: number[] } | { long: number[] } | { text: string } | { wide: string };
const double = (...numbers: number[]): Part => ({ double: numbers });
const long = (...numbers: number[]): Part => ({ long: numbers });

function bytesOf(part: Part): Buffer {
  if ('double' in part) return Buffer.concat(part.double.map((v) => Buffer.from(Float64Array.of(v).buffer)));
  if ('long' in part) return Buffer.concat(part.long.map((v) => Buffer.from(Uint32Array.of(v).buffer)));
  const text = 'text' in part ? Buffer.from(`${part.text}\0`, 'latin1') : Buffer.from(`${part.wide}\0`, 'utf16le');
  return Buffer.concat([text, Buffer.alloc((4 - (text.length % 4)) % 4)]);
}

/** A drawing command: its length, its kind, its data. */
function command(kind: number, ...parts: Part[]): Buffer {
  const data = Buffer.concat(parts.map(bytesOf));
  return Buffer.concat([bytesOf(long(data.length + 8, kind)), data]);
}

function stored(...commands: Buffer[]): Buffer {
  const data = Buffer.concat(commands);
  return Buffer.concat([bytesOf(long(data.length + 8, commands.length)), data]);
}

/** A file with an object of another program and the graphics stored with it. */
function fileOf(graphics: Buffer, type = 'ACAD_PROXY_ENTITY', ...more: [number, number][]): string {
  const chunks: [number, string][] = [];
  for (let at = 0; at < graphics.length; at += 127) {
    chunks.push([
      310,
      graphics
        .subarray(at, at + 127)
        .toString('hex')
        .toUpperCase(),
    ]);
  }
  const proxy = groups(
    ...([
      [0, type],
      [5, 'AF'],
      [330, '1F'],
      [100, 'AcDbEntity'],
      [8, 'A-WALL'],
      [100, 'AcDbProxyEntity'],
      [90, 498],
      [91, 500],
      [92, graphics.length],
      ...chunks,
      [93, 0],
      [94, 0],
      ...more,
    ] as [number, string | number][]),
  );
  return dxf({ entities: proxy });
}

/** What ezdxf makes of the stored graphics: of each kind of entity its box (xmin, ymin, xmax, ymax), colour and text. */
const SCRIPT = 'proxy_graphics.py';

interface Shown {
  box: number[];
  colour: number;
  text: string;
}

function byEzdxf(content: string): Shown[] {
  const file = join(folder, 'proxy.dxf');
  writeFileSync(file, content);
  return JSON.parse(runScript(SCRIPT, file)) as Shown[];
}

function boxOf(shape: ShapeEntity): number[] {
  if (shape.kind === 'text') return [shape.x, shape.y];
  const path = new Path();
  drawPath(path, shape, scaling(1));
  const { xmin, ymin, xmax, ymax } = path.box;
  return [xmin, ymin, xmax, ymax];
}

const Z = double(0, 0, 1);
const EVERYTHING = stored(
  command(1, double(0, 0, 0, 10, 10, 0)),
  command(14, long(1)),
  command(2, double(10, 20, 0, 5), Z),
  command(6, long(3), double(0, 0, 0, 10, 5, 3, 20, 0, 0)),
  command(22, long(0xc2336699)),
  command(7, long(4), double(0, 0, 0, 8, 0, 0, 8, 6, 0, 0, 6, 0)),
  command(22, long(0xc3000003)),
  command(4, double(50, 0, 0, 10), Z, double(1, 0, 0), double(Math.PI / 2)),
  command(5, double(10, 0, 0, 0, 10, 0, -10, 0, 0)),
  command(3, double(3, 0, 0, 0, 3, 0, -3, 0, 0)),
  command(14, long(256)),
  command(32, long(2), double(1, 1, 0, 4, 5, 0), Z),
  command(9, long(4), double(0, 0, 0, 9, 0, 0, 9, 9, 0, 0, 9, 5), long(8, 3, 0, 1, 2, 3, 0, 2, 3), long(0, 0, 0)),
  command(10, double(1, 2, 0), Z, double(0, 1, 0), double(2.5, 1, 0), { text: 'Steel beam' }),
  command(36, double(3, 4, 0), Z, double(1, 0, 0), double(2.5, 1, 0), { wide: 'Träger ⌀' }),
  command(29, double(1, 0, 0, 100, 0, 1, 0, 200, 0, 0, 1, 0, 0, 0, 0, 1)),
  command(6, long(2), double(0, 0, 0, 10, 10, 0)),
  command(31),
);

describe('the graphics that a program stored for an object of its own', () => {
  it('are shown where and as an independent reader finds them', () => {
    const content = fileOf(EVERYTHING);
    const { drawing, warnings } = read(content);
    const shapes = drawing.spaces[0]!.entities as ShapeEntity[];
    const wanted = byEzdxf(content);
    // That reader makes one mesh of the two faces, and points of curves.
    expect(wanted.map(({ text }) => text).filter(Boolean)).toEqual(['Steel beam', 'Träger ⌀']);
    const kinds = shapes.map(({ kind }) => kind);
    expect(kinds).toEqual([
      ...['ellipse', 'polyline', 'polyline', 'ellipse', 'ellipse', 'ellipse', 'polyline', 'polyline', 'polyline'],
      ...['text', 'text', 'polyline'],
    ]);
    const meshAt = kinds.lastIndexOf('polyline', 8) - 1;
    const faces = [boxOf(shapes[meshAt]!), boxOf(shapes[meshAt + 1]!)];
    const mesh = [0, 1, 2, 3].map((i) => (i < 2 ? Math.min : Math.max)(faces[0]![i]!, faces[1]![i]!));
    const found = shapes.flatMap((shape, i) => (i === meshAt ? [mesh] : i === meshAt + 1 ? [] : [boxOf(shape)]));
    expect(found).toHaveLength(wanted.length);
    found.forEach((box, i) => {
      const other = wanted[i]!.text ? wanted[i]!.box.slice(0, 2) : wanted[i]!.box;
      box.forEach((value, k) => expect(value).toBeCloseTo(other[k]!, 2));
    });
    expect(shapes.map(({ style }) => style.colour).slice(0, 4)).toEqual([0xff0000, 0xff0000, 0x336699, 0x00ff00]);
    expect(shapes.at(-1)!.style.colour).toBe(-1);
    expect(new Set(shapes.map(({ style }) => drawing.layers[style.layer]!.name))).toEqual(new Set(['A-WALL']));
    expect(warnings).toEqual([
      expect.objectContaining({
        code: 'dxf.stored-graphics',
        sentence: 'ACAD_PROXY_ENTITY is shown as its program stored it in the file.',
        place: expect.objectContaining({ handle: 'AF' }),
      }),
    ]);
  });

  it('are shown of entities that are not known by name too, areas filled', () => {
    const area = stored(command(20, long(1)), command(7, long(3), double(0, 0, 0, 8, 0, 0, 8, 6, 0)));
    const { drawing } = read(fileOf(area, 'OFFICE_WALL'));
    expect(drawing.spaces[0]!.entities).toMatchObject([{ kind: 'fill' }]);
  });

  it('are in the world, whatever plane their object lies in, and projected for viewports that look from elsewhere', () => {
    const pillar = stored(command(6, long(2), double(4, 2, 1, 4, 2, 9)));
    const standing = fileOf(pillar, 'OFFICE_WALL', [210, 0], [220, -1], [230, 0]);
    expect(boxOf(read(standing).drawing.spaces[0]!.entities[0] as ShapeEntity)).toEqual([4, 2, 4, 2]);
    const front = viewport({ cx: 0, cy: 0, size: 10, shown: 10 }, [16, 0], [26, -1], [36, 0]);
    const { drawing } = read(standing.replace('0\nENDSEC\n0\nEOF', `${front}0\nENDSEC\n0\nEOF`));
    expect(boxOf(drawing.projections![0]![0] as ShapeEntity)).toEqual([4, 1, 4, 9]);
  });

  it('are partly left out, and said to be, where a command is not understood or cut off', () => {
    const line = command(6, long(2), double(0, 0, 0, 1, 1, 0));
    for (const odd of [command(37, long(1)), command(2, double(1)), bytesOf(long(900, 6))]) {
      const { drawing, warnings } = read(fileOf(stored(line, odd)));
      expect(drawing.spaces[0]!.entities).toHaveLength(1);
      expect(warnings[0]!.sentence).toContain('Parts of it are not understood');
    }
    expect(read(fileOf(stored(command(37)))).warnings[0]).toMatchObject({ code: 'dxf.not-shown' });
  });

  it('never break the reader, whatever is in them', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(EVERYTHING.length - 1), fc.nat(255)), { maxLength: 8 }), (changes) => {
        const damaged = Buffer.from(EVERYTHING);
        for (const [at, byte] of changes) damaged[at] = byte;
        const { drawing } = read(fileOf(damaged));
        for (const entity of drawing.spaces[0]!.entities as ShapeEntity[]) {
          expect(boxOf(entity).every((value) => !Number.isNaN(value))).toBe(true);
        }
      }),
      { numRuns: Number(process.env['FOLVEX_FUZZ'] ?? 300) },
    );
  });
});
