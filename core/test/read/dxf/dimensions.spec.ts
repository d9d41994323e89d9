import type { Entity, TextEntity } from '../../../src/index';
import { defaultDimensionStyle } from '../../../src/read/dxf/dimension-looks';
import { dimensionText, writtenAngle, writtenLength } from '../../../src/read/dxf/dimension-text';
import { block, dxf, entitiesOf, groups, line, read } from '../../support/dxf';
import { drawnBy } from '../../support/ezdxf';

interface Oracle {
  texts: string[];
  lines: number[][];
  arcs: number[][];
  /** Tips of the arrowheads. */
  inserts: number[][];
  middle: [number, number][];
}

/** What is drawn for the dimensions of a file, each by itself. */
function drawnIn(text: string | Uint8Array): Entity[][] {
  const { drawing } = read(text);
  return drawing.spaces[0]!.entities.flatMap((entity) =>
    entity.kind === 'insert' ? [drawing.blocks.get(entity.block)?.entities ?? []] : [],
  );
}

const textsOf = (entities: Entity[]): TextEntity[] => entities.filter(({ kind }) => kind === 'text') as TextEntity[];
const linesOf = (entities: Entity[]): number[][] =>
  entities.flatMap((entity) => (entity.kind === 'line' ? [[entity.x0, entity.y0, entity.x1, entity.y1]] : []));
const tipsOf = (entities: Entity[]): number[][] =>
  entities.flatMap((entity) => (entity.kind === 'fill' ? [[entity.loops[0]![0]!, entity.loops[0]![1]!]] : []));
const close = (rows: number[][]): unknown => rows.map((row) => row.map((value) => expect.closeTo(value, 6) as number));

describe('dimensions without their blocks, compared with what ezdxf drew for them', () => {
  const { bytes, facts: oracles } = drawnBy<Oracle[]>('write_dimensions.py');
  const drawn = drawnIn(bytes);

  it.each(oracles.map((oracle, i) => [oracle.texts[0]!, i] as const))('%s (%i)', (text, i) => {
    const [oracle, shapes] = [oracles[i]!, drawn[i]!];
    // One above the other, which ezdxf spells with a caret.
    expect(textsOf(shapes).map(({ lines }) => lines[0])).toEqual([text.replace('^', ' ')]);
    const [middle] = textsOf(shapes);
    expect([middle!.x, middle!.y]).toEqual([
      expect.closeTo(oracle.middle[0]![0], 6),
      expect.closeTo(oracle.middle[0]![1], 6),
    ]);
    expect(tipsOf(shapes)).toEqual(expect.arrayContaining(close(oracle.inserts) as number[][]));
    // The first two lines are the extension lines; ezdxf stops the dimension line itself at its arrowheads.
    expect(linesOf(shapes)).toEqual(expect.arrayContaining(close(oracle.lines.slice(0, 2)) as number[][]));
    const arc = shapes.find(({ kind }) => kind === 'arc');
    if (oracle.arcs[0]) expect(arc).toMatchObject({ cx: oracle.arcs[0][0], cy: oracle.arcs[0][1] });
    expect(arc?.kind === 'arc' ? arc.radius : 0).toBeCloseTo(oracle.arcs[0]?.[2] ?? 0, 6);
  });
});

describe('a dimension', () => {
  const dimension = (...more: [number, string | number][]): string =>
    groups([0, 'DIMENSION'], [8, '0'], [2, '*D1'], [10, 0], [20, 30], [13, 0], [23, 0], [14, 50], [24, 0], ...more);

  it('shows the block drawn for it where there is one, even one that comes later', () => {
    const blocks = block('*D1', line(1, 2, 3, 4));
    const [own] = drawnIn(dxf({ blocks, entities: dimension() }));
    expect(linesOf(own!)).toEqual([[1, 2, 3, 4]]);
    const [inner] = drawnIn(
      dxf({ blocks: block('A', dimension()) + blocks, entities: groups([0, 'INSERT'], [8, '0'], [2, 'A']) }),
    );
    expect(inner![0]).toMatchObject({ kind: 'insert', block: '*d1' });
  });

  it('takes the text typed for it, around the measured value', () => {
    const texts = (...more: [number, string | number][]) => textsOf(drawnIn(dxf({ entities: dimension(...more) }))[0]!);
    expect(texts([1, 'min. <>'])[0]!.lines).toEqual(['min. 50.0000']);
    expect(texts([1, ' '])).toEqual([]);
    // What its program measured counts more than the points.
    expect(texts([42, 49.5])[0]!.lines).toEqual(['49.5000']);
  });

  it('shows radii, diameters and ordinates', () => {
    const [radius, diameter, ordinate] = [
      groups([0, 'DIMENSION'], [8, '0'], [70, 4], [10, 0], [20, 0], [15, 3], [25, 4]),
      groups([0, 'DIMENSION'], [8, '0'], [70, 3], [10, 0], [20, 0], [15, 3], [25, 4]),
      groups([0, 'DIMENSION'], [8, '0'], [70, 70], [10, 100], [20, 0], [13, 130], [23, 5], [14, 135], [24, 25]),
    ].map((entities) => drawnIn(dxf({ entities }))[0]!);
    expect(textsOf(radius!)[0]!.lines).toEqual(['R5.0000']);
    expect(tipsOf(radius!)).toEqual([[3, 4]]);
    expect(textsOf(diameter!)[0]!.lines).toEqual(['Ø5.0000']);
    expect(tipsOf(diameter!)).toEqual([
      [3, 4],
      [0, 0],
    ]);
    expect(textsOf(ordinate!)[0]!).toMatchObject({ lines: ['30.0000'], rotation: Math.PI / 2 });
    expect(linesOf(ordinate!).at(-1)!.slice(2)).toEqual([135, 25]);
  });

  it('that measures nothing draws nothing', () => {
    expect(drawnIn(dxf({ entities: groups([0, 'DIMENSION'], [8, '0'], [70, 4]) }))).toEqual([[]]);
  });
});

// Forms and zeros as the DXF reference describes `$DIMLUNIT`, `$DIMDEC` and `$DIMZIN` (from memory).
describe('measured lengths are written', () => {
  it.each([
    [1234.5, { decimals: 1 }, '1234.5'],
    [1234.5, { decimals: 3, zeros: 8 }, '1234.5'],
    [0.25, { decimals: 2, zeros: 4 }, '.25'],
    [1234.5, { decimals: 1, separator: 44 }, '1234,5'],
    [1234.5, { decimals: 0, factor: 0.001, rounding: 0.5 }, '1'],
    [100.25, { form: 4, decimals: 2, zeros: 0 }, `8'-4 1/4"`],
    [96, { form: 4, decimals: 2, zeros: 0 }, `8'`],
    [96, { form: 4, decimals: 2, zeros: 3 }, `8'-0"`],
    [95.999, { form: 4, decimals: 2, zeros: 3 }, `8'-0"`],
    [6.5, { form: 4, decimals: 4, zeros: 0 }, `6 1/2"`],
    [6.5, { form: 4, decimals: 4, zeros: 1 }, `0'-6 1/2"`],
    [100.25, { form: 3, decimals: 2, zeros: 0 }, `8'-4.25"`],
    [5.125, { form: 5, decimals: 3 }, '5 1/8'],
    [1234.5, { form: 1, decimals: 2 }, '1.23E+3'],
    [80, { decimals: 0, around: 'DN <>' }, 'DN 80'],
    [80, { decimals: 0, around: ' mm' }, '80 mm'],
  ])('%d as %j', (length, looks, written) => {
    expect(writtenLength(length, { ...defaultDimensionStyle(), ...looks })).toBe(written);
  });

  it('and angles in degrees', () => {
    expect(writtenAngle(33.333, { ...defaultDimensionStyle(), angleDecimals: 1 })).toBe('33.3°');
    expect(dimensionText('<> (<>)', '5')).toBe('5 (5)');
  });
});

describe('the same length in another unit', () => {
  it('follows in brackets (DXF reference, $DIMALT, $DIMALTF, $DIMALTD)', () => {
    const looks = {
      ...defaultDimensionStyle(),
      decimals: 0,
      alternate: 1,
      alternateFactor: 1 / 25.4,
      alternateDecimals: 1,
    };
    // The inch is 25.4 mm exactly.
    expect(writtenLength(1270, looks)).toBe('1270 [50.0]');
  });
});

describe('a tolerance', () => {
  it('is shown in its compartments, with the symbols of its font', () => {
    const raw = '{\\Fgdt;j}%%v{\\Fgdt;n}0.08{\\Fgdt;m}%%vA%%v%%v^J%%v%%v';
    const shapes = entitiesOf(groups([0, 'TOLERANCE'], [8, '0'], [10, 5], [20, 7], [11, 1], [21, 0], [1, raw]));
    expect(textsOf(shapes).map(({ lines }) => lines[0])).toEqual(['⌖', '⌀0.08Ⓜ', 'A']);
    const [boxes] = shapes;
    expect(boxes!.kind === 'path' ? [...boxes.coords.slice(0, 2)] : []).toEqual([5, 7 - 0.18]);
  });
});
