import { axisOf, PageBuilder, Path, placeView, scaling, type Entity, type ShapeEntity } from '../../../src/index';
import { drawPath } from '../../../src/sheet/shapes';
import { pointPath } from '../../../src/sheet/shapes';
import { block, dxf, entitiesOf, groups, read } from '../../support/dxf';
import { FONTS } from '../../support/fonts';

function coords(entity: Entity | undefined): number[] {
  const path = new Path();
  drawPath(path, entity as ShapeEntity, scaling(1));
  return [...path.coords.subarray(0, path.coordCount)].map((v) => Math.round(v * 1e9) / 1e9);
}

describe('faces and meshes', () => {
  it('show the edges of a 3DFACE but those that are hidden', () => {
    const face = (hidden: number): string =>
      groups(
        [0, '3DFACE'],
        [8, '0'],
        [10, 0],
        [20, 0],
        [30, 5],
        [11, 2],
        [21, 0],
        [12, 2],
        [22, 2],
        [13, 0],
        [23, 2],
        [70, hidden],
      );
    expect(coords(entitiesOf(face(0))[0])).toHaveLength(16);
    expect(coords(entitiesOf(face(0b0101))[0])).toEqual([2, 0, 2, 2, 0, 2, 0, 0]);
  });

  const vertex = (x: number, y: number, flags: number, ...face: number[]): string =>
    groups(
      [0, 'VERTEX'],
      [8, '0'],
      [10, x],
      [20, y],
      [70, flags],
      ...face.map((n, i): [number, number] => [71 + i, n]),
    );

  it('show a mesh of rows and columns as its grid', () => {
    const mesh = groups([0, 'POLYLINE'], [8, '0'], [66, 1], [70, 16], [71, 2], [72, 2]);
    const points = vertex(0, 0, 64) + vertex(1, 0, 64) + vertex(0, 1, 64) + vertex(1, 1, 64);
    expect(coords(entitiesOf(mesh + points + groups([0, 'SEQEND']))[0])).toEqual([
      0, 0, 1, 0, 0, 1, 1, 1, 0, 0, 0, 1, 1, 0, 1, 1,
    ]);
  });

  it('show listed faces by their visible edges', () => {
    const mesh = groups([0, 'POLYLINE'], [8, '0'], [66, 1], [70, 64], [71, 3], [72, 1]);
    const points = vertex(0, 0, 192) + vertex(4, 0, 192) + vertex(0, 3, 192) + vertex(0, 0, 128, 1, -2, 3);
    expect(coords(entitiesOf(mesh + points + groups([0, 'SEQEND']))[0])).toEqual([0, 0, 4, 0, 0, 3, 0, 0]);
  });
});

describe('lines without an end', () => {
  it('run on, and do not count for the extents', () => {
    const [ray, line] = entitiesOf(
      groups([0, 'RAY'], [8, '0'], [10, 1], [20, 1], [11, 1], [21, 0]) +
        groups([0, 'XLINE'], [8, '0'], [10, 0], [20, 0], [11, 0], [21, 1]),
    );
    expect(ray).toMatchObject({ x0: 1, x1: 1 + 1e8, endless: true });
    expect(line).toMatchObject({ y0: -1e8, y1: 1e8, endless: true });
  });
});

describe('points', () => {
  const marks = (mode: number, size: number): number => {
    const { drawing } = read(
      dxf({
        header: groups([9, '$PDMODE'], [70, mode], [9, '$PDSIZE'], [40, size]),
        entities: groups([0, 'POINT'], [8, '0'], [10, 5], [20, 5]),
      }),
    );
    const path = new Path();
    const [point] = drawing.spaces[0]!.entities;
    pointPath(path, point as Extract<Entity, { kind: 'point' }>, drawing.pointStyle, scaling(1));
    return path.verbCount;
  };

  // DXF reference, $PDMODE: 0 dot, 1 nothing, 2 plus, 3 cross, 4 tick; 32 adds a circle, 64 a square.
  it('are marked as the drawing says', () => {
    expect([0, 1, 2, 3, 4].map((mode) => marks(mode, 2))).toEqual([2, 0, 4, 4, 2]);
    expect(marks(33, 2)).toBe(6);
    expect(marks(65, 2)).toBe(5);
  });
});

describe('covers and pictures', () => {
  const outline: [number, number][] = [
    [10, 100],
    [20, 200],
    [11, 40],
    [21, 0],
    [12, 0],
    [22, 20],
    [13, 1],
    [23, 1],
  ];

  it('cover what lies below with the colour of the paper', () => {
    const corners: [number, number][] = [
      [14, -0.5],
      [24, -0.5],
      [14, 0.5],
      [24, -0.5],
      [14, 0.5],
      [24, 0.5],
    ];
    const [cover] = entitiesOf(groups([0, 'WIPEOUT'], [8, '0'], ...outline, ...corners));
    expect(cover).toMatchObject({ kind: 'fill', mask: true });
    // Pixels count downwards: the first two corners are the upper ones.
    if (cover?.kind === 'fill') expect([...cover.loops[0]!]).toEqual([100, 220, 0, 140, 220, 0, 140, 200, 0]);
  });

  it('show a picture that is not here as a crossed box, and say so', () => {
    const { drawing, warnings } = read(dxf({ entities: groups([0, 'IMAGE'], [5, 'C1'], [8, '0'], ...outline) }));
    expect(drawing.spaces[0]!.entities[0]).toMatchObject({ kind: 'picture' });
    expect(drawing.pictures[0]).toMatchObject({ kind: 'linked' });
    expect(warnings).toEqual([
      expect.objectContaining({ code: 'dxf.picture', place: expect.objectContaining({ handle: 'C1' }) }),
    ]);
  });
});

describe('pictures', () => {
  const image = groups(
    [0, 'IMAGE'],
    [8, '0'],
    [10, 0],
    [20, 0],
    [11, 1],
    [22, 1],
    [13, 4],
    [23, 2],
    [340, 'F0'],
    [281, 50],
    [282, 50],
  );

  it('fade into the paper, and are as transparent as their layer, as groups', () => {
    const { drawing } = read(dxf({ entities: image + groups([283, 30]) }));
    expect([...drawing.blocks.values()].at(-1)).toMatchObject({
      group: { opacity: 70 },
      entities: [{ kind: 'picture' }],
    });
    const plain = read(dxf({ entities: image + groups([283, 0]) })).drawing;
    expect(plain.spaces[0]!.entities[0]).toMatchObject({ kind: 'picture' });
    // A quarter is seen: a byte with 2 above it.
    const { drawing: clear } = read(dxf({ entities: image + groups([440, 0x02000040]) }));
    const [picture] = clear.spaces[0]!.entities;
    clear.pictures[0] = { kind: 'png', bytes: new Uint8Array(0), page: 1 };
    const builder = new PageBuilder(10, 10);
    placeView(builder, FONTS, clear, [picture!], scaling(1), undefined, new Set());
    expect(builder.build().groups).toEqual([{ outer: 0, opacity: 25 }]);
  });

  it('are said to have another brightness or contrast in their program', () => {
    const codes = (entities: string): string[] => read(dxf({ entities })).warnings.map(({ code }) => code);
    expect(codes(image)).toEqual(['dxf.picture']);
    expect(codes(image.replace('281\n50', '281\n80'))).toEqual(['dxf.picture-looks', 'dxf.picture']);
  });
});

describe('leaders and tables', () => {
  it('have an arrowhead of the size of their dimension style', () => {
    const style = groups([0, 'DIMSTYLE'], [2, 'OFFICE'], [41, 2.5], [40, 100]);
    const leader = groups(
      [0, 'LEADER'],
      [8, '0'],
      [3, 'OFFICE'],
      [71, 1],
      [72, 0],
      [10, 0],
      [20, 0],
      [10, 1000],
      [20, 0],
      [10, 1500],
      [20, 500],
    );
    const [line, arrow] = entitiesOf(leader, { layers: style });
    expect(coords(line)).toEqual([0, 0, 1000, 0, 1500, 500]);
    expect(coords(arrow).slice(2, 3)).toEqual([250]);
    expect(entitiesOf(leader.replace('71\n1', '71\n0'))).toHaveLength(1);
  });

  it('show a table by its block', () => {
    const [table] = entitiesOf(groups([0, 'ACAD_TABLE'], [8, '0'], [2, '*T3'], [10, 7], [20, 8], [11, 0], [21, 1]));
    expect(table).toMatchObject({ kind: 'insert', block: '*t3', x: 7, y: 8, rotation: Math.PI / 2 });
  });

  it('draw constant attribute definitions of blocks, and no others', () => {
    const definition = (flags: number): string =>
      groups([0, 'ATTDEF'], [8, '0'], [10, 0], [20, 0], [40, 2], [1, 'FIXED'], [2, 'T'], [70, flags]);
    expect(entitiesOf(definition(2))[0]).toMatchObject({ lines: ['FIXED'] });
    const { drawing } = read(dxf({ blocks: block('B', definition(0)) }));
    expect(drawing.blocks.get('b')).toMatchObject({ entities: [], attributes: [{ tag: 'T' }] });
  });
});

describe('a table without a block', () => {
  // Two rows of two cells; the first reaches over both columns (DXF reference, ACAD_TABLE).
  const cell = (text: string, ...more: [number, number][]): [number, string | number][] => [
    [171, 1],
    ...more,
    [1, text],
  ];
  const table = groups(
    ...([
      [0, 'ACAD_TABLE'],
      [8, '0'],
      [10, 100],
      [20, 50],
      [11, 1],
      [21, 0],
    ] as [number, string | number][]),
    ...([
      [91, 2],
      [92, 2],
      [141, 10],
      [141, 8],
      [142, 30],
      [142, 20],
    ] as [number, number][]),
    ...cell('Doors', [175, 2], [170, 5], [140, 4]),
    ...cell('', [173, 1]),
    ...cell('D01'),
    ...cell('900 x 2100'),
  );

  it('is shown by its cells, those that are covered left out', () => {
    const { drawing, warnings } = read(dxf({ entities: table }));
    expect(warnings).toEqual([]);
    const insert = drawing.spaces[0]!.entities[0]!;
    if (insert.kind !== 'insert') throw new Error(insert.kind);
    expect(insert).toMatchObject({ x: 100, y: 50, rotation: 0 });
    const { entities } = drawing.blocks.get(insert.block)!;
    const outlines = entities.filter(({ kind }) => kind === 'polyline').map((outline) => coords(outline).slice(0, 6));
    expect(outlines).toEqual([
      [0, 0, 50, 0, 50, -10],
      [0, -10, 30, -10, 30, -18],
      [30, -10, 50, -10, 50, -18],
    ]);
    const texts = entities.flatMap((entity) => (entity.kind === 'text' ? [entity] : []));
    expect(texts.map(({ lines }) => lines[0])).toEqual(['Doors', 'D01', '900 x 2100']);
    expect(texts[0]).toMatchObject({ x: 25, y: -5, horizontal: 'centre', vertical: 'middle', height: 4 });
  });

  it('is named where it states no cells', () => {
    const { warnings } = read(dxf({ entities: groups([0, 'ACAD_TABLE'], [8, '0'], [10, 0], [20, 0]) }));
    expect(warnings).toMatchObject([{ code: 'dxf.not-shown' }]);
  });
});

describe('a hatch with a gradient', () => {
  const corners = [0, 0, 40, 0, 40, 10, 0, 10];
  const fillOf = (name: string, angle: number, shift = 0) => {
    const points = corners.map((value, i): [number, number] => [i % 2 ? 20 : 10, value]);
    const hatch: [number, string | number][] = [
      ...([
        [0, 'HATCH'],
        [8, '0'],
        [2, 'SOLID'],
        [70, 1],
        [91, 1],
        [92, 2],
        [72, 0],
        [73, 1],
        [93, 4],
      ] as [number, string | number][]),
      ...points,
      ...([
        [97, 0],
        [75, 0],
        [76, 1],
        [450, 1],
        [460, angle],
        [461, shift],
        [453, 2],
        [463, 0],
        [421, 0xff0000],
        [463, 1],
        [421, 0x0000ff],
        [470, name],
      ] as [number, string | number][]),
    ];
    const { drawing, warnings } = read(dxf({ entities: groups(...hatch) }));
    const [fill] = drawing.spaces[0]!.entities;
    if (fill?.kind !== 'fill') throw new Error('no fill');
    return { fill, codes: warnings.map(({ code }) => code) };
  };

  it('runs from edge to edge of its area in its direction (DXF reference, HATCH, groups 450 to 470)', () => {
    const across = fillOf('LINEAR', 0);
    expect(axisOf(across.fill.gradient!.map)).toEqual([0, 0, 40, 0].map((value) => expect.closeTo(value, 9) as number));
    expect(across.codes).toEqual([]);
    expect(across.fill.gradient!.stops.map(({ colour }) => colour)).toEqual([0xff0000, 0x0000ff]);
    const [, y0, , y1] = axisOf(fillOf('LINEAR', Math.PI / 2).fill.gradient!.map);
    expect([y0, y1]).toEqual([expect.closeTo(0, 9), expect.closeTo(10, 9)]);
    expect(fillOf('INVCYLINDER', 0).fill.gradient!.stops.map(({ colour }) => colour)).toEqual([
      0x0000ff, 0xff0000, 0x0000ff,
    ]);
  });

  it('is shown in the mean of its colours, and says so, where it is laid out in circles or shifted', () => {
    for (const { fill, codes } of [fillOf('SPHERICAL', 0), fillOf('LINEAR', 0, 1)]) {
      expect(fill.gradient).toBeUndefined();
      expect(fill.style.colour).toBe(0x800080);
      expect(codes).toEqual(['dxf.gradient']);
    }
  });
});

describe('the style of a hatch', () => {
  const square = (half: number): [number, number][] => [
    ...([
      [92, 2],
      [72, 0],
      [73, 1],
      [93, 4],
    ] as [number, number][]),
    ...[
      [-half, -half],
      [half, -half],
      [half, half],
      [-half, half],
    ].flatMap(([x, y]): [number, number][] => [
      [10, x!],
      [20, y!],
    ]),
    [97, 0],
  ];
  const areaWith = (style: number): number => {
    const hatch = groups(
      ...([
        [0, 'HATCH'],
        [8, '0'],
        [10, 0],
        [20, 0],
        [2, 'SOLID'],
        [70, 1],
        [91, 3],
      ] as [number, string | number][]),
      ...square(3),
      ...square(5),
      ...square(1),
      [75, style],
      [76, 1],
    );
    const [fill] = entitiesOf(hatch);
    if (fill?.kind !== 'fill') throw new Error('no fill');
    // Even and odd: loops count in turn from the largest.
    const areas = fill.loops.map((loop) => (2 * Math.abs(loop[0]!)) ** 2).sort((a, b) => b - a);
    return areas.reduce((sum, area, i) => sum + (i % 2 === 0 ? area : -area), 0);
  };

  it('is parts in turn, the outermost part only, or all of it (DXF reference, HATCH, code 75)', () => {
    expect([areaWith(0), areaWith(1), areaWith(2)]).toEqual([100 - 36 + 4, 100 - 36, 100]);
  });
});
