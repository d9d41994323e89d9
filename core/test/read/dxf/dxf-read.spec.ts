import { readDxf, COLOUR_BY_BLOCK, COLOUR_BY_LAYER, type Drawing, type Entity } from '../../../src/index';
import { block, bytesOf, dxf, entitiesOf, groups, layer, line, read } from '../../support/dxf';

const only = (text: string): Entity => {
  const entities = entitiesOf(text);
  expect(entities).toHaveLength(1);
  return entities[0]!;
};

describe('what is not a DXF', () => {
  it.each([
    ['an empty file', new Uint8Array(0), 'dxf.empty'],
    ['a PNG', Uint8Array.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a]), 'dxf.other-format'],
    ['a PDF', bytesOf('%PDF-1.7\n'), 'dxf.other-format'],
    ['prose', bytesOf('Dear reader,\nhello'), 'dxf.not-dxf'],
    ['numbers that are not sections', bytesOf('1\n2\n3\n4\n'), 'dxf.no-sections'],
  ])('refuses %s in one sentence', (_, bytes, code) => {
    const result = readDxf(bytes, 'plan.dxf');
    expect(result).toMatchObject({ ok: false, problem: { code, place: { file: 'plan.dxf' } } });
    if (!result.ok) expect(result.problem.sentence).toMatch(/^plan\.dxf .*\.$/);
  });

  it('never throws, whatever is cut out of a file', () => {
    const whole = dxf({
      layers: layer('A', [70, 0]),
      blocks: block('B', line(0, 0, 1, 1)),
      entities: line(0, 0, 1, 1),
    });
    for (let at = 0; at < whole.length; at += 7) {
      expect(() => readDxf(bytesOf(whole.slice(0, at) + whole.slice(at + 13)), 'x.dxf')).not.toThrow();
    }
  });
});

describe('entities', () => {
  it('reads light polylines with bulges and widths', () => {
    const entity = only(
      groups(
        [0, 'LWPOLYLINE'],
        [8, '0'],
        [90, 3],
        [70, 1],
        [43, 2],
        [10, 0],
        [20, 0],
        [42, 1],
        [10, 4],
        [20, 0],
        [10, 4],
        [20, 3],
      ),
    );
    expect(entity).toMatchObject({ kind: 'polyline', closed: true });
    if (entity.kind === 'polyline') expect([...entity.vertices]).toEqual([0, 0, 1, 2, 2, 4, 0, 0, 2, 2, 4, 3, 0, 2, 2]);
  });

  it('reads old polylines, without the frame vertices of a spline fit', () => {
    const vertex = (x: number, flags = 0): string => groups([0, 'VERTEX'], [8, '0'], [10, x], [20, 0], [70, flags]);
    const entity = only(
      groups([0, 'POLYLINE'], [8, '0'], [66, 1], [70, 4]) +
        vertex(0) +
        vertex(5, 16) +
        vertex(9, 8) +
        groups([0, 'SEQEND']),
    );
    if (entity.kind !== 'polyline') throw new Error(entity.kind);
    expect([...entity.vertices].filter((_, i) => i % 5 === 0)).toEqual([0, 9]);
  });

  // DXF reference: the extrusion (0, 0, -1) mirrors the entity's own coordinates about the y axis.
  it('mirrors arcs, circles and inserts that were drawn from below', () => {
    const arc = only(groups([0, 'ARC'], [8, '0'], [10, 5], [20, 1], [40, 2], [50, 0], [51, 90], [230, -1]));
    if (arc.kind !== 'arc') throw new Error(arc.kind);
    expect([arc.cx, arc.cy]).toEqual([-5, 1]);
    expect(arc.start).toBeCloseTo(Math.PI / 2);
    expect(arc.end).toBeCloseTo(Math.PI);
    const insert = entitiesOf(groups([0, 'INSERT'], [8, '0'], [2, 'B'], [10, 3], [20, 0], [50, 30], [230, -1]))[0]!;
    expect(insert).toMatchObject({ kind: 'insert', x: -3, scaleX: -1 });
  });

  it('uncrosses the corners of a SOLID', () => {
    const solid = only(
      groups([0, 'SOLID'], [8, '0'], [10, 0], [20, 0], [11, 2], [21, 0], [12, 0], [22, 1], [13, 2], [23, 1]),
    );
    if (solid.kind !== 'fill') throw new Error(solid.kind);
    expect([...solid.loops[0]!]).toEqual([0, 0, 0, 2, 0, 0, 2, 1, 0, 0, 1, 0]);
  });

  it('reads solid hatches of polylines and of edges', () => {
    const head = (paths: number) =>
      groups([0, 'HATCH'], [8, '0'], [10, 0], [20, 0], [2, 'SOLID'], [70, 1], [71, 0], [91, paths]);
    const outer = groups(
      [92, 3],
      [72, 0],
      [73, 1],
      [93, 3],
      [10, 0],
      [20, 0],
      [10, 9],
      [20, 0],
      [10, 9],
      [20, 9],
      [97, 0],
    );
    const circle = groups([92, 1], [93, 1], [72, 2], [10, 4], [20, 4], [40, 1], [50, 0], [51, 360], [73, 1], [97, 0]);
    const hatch = only(head(2) + outer + circle + groups([75, 0], [76, 1], [98, 0]));
    if (hatch.kind !== 'fill') throw new Error(hatch.kind);
    expect(hatch.loops).toHaveLength(2);
    // A full circle: two half turns, bulge 1 each.
    const [x0, , b0, x1, , b1] = hatch.loops[1]!;
    expect([x0, x1]).toEqual([5, 3]);
    expect([b0!, b1!].map((b) => Math.round(b * 1e9) / 1e9)).toEqual([1, 1]);
  });

  it('counts what it does not show, by type, with the first place', () => {
    const solid = (handle: string): string => groups([0, '3DSOLID'], [5, handle], [8, 'A-WALL'], [10, 0], [20, 0]);
    const { warnings } = read(dxf({ entities: solid('B1') + solid('B2') + groups([0, 'REGION'], [8, '0']) }));
    expect(warnings).toEqual([
      {
        code: 'dxf.not-shown',
        sentence: '3DSOLID is not shown yet.',
        count: 2,
        place: expect.objectContaining({ file: 'test.dxf', handle: 'B1', layer: 'A-WALL' }),
      },
      expect.objectContaining({ sentence: 'REGION is not shown yet.', count: 1 }),
    ]);
  });

  it('leaves out what is invisible', () => {
    const hidden = groups([0, 'ATTDEF'], [8, '0'], [1, 'x'], [2, 'T'], [70, 1]);
    expect(entitiesOf(line(0, 0, 1, 1, [60, 1]) + hidden)).toEqual([]);
  });

  it('hangs attributes on their insert, the hidden ones left out', () => {
    const attribute = (text: string, flags: number): string =>
      groups([0, 'ATTRIB'], [8, '0'], [10, 0], [20, 0], [40, 2.5], [1, text], [2, 'NUMBER'], [70, flags]);
    const insert = only(
      groups([0, 'INSERT'], [8, '0'], [66, 1], [2, 'TAG'], [10, 0], [20, 0]) +
        attribute('0.01', 0) +
        attribute('x', 1) +
        groups([0, 'SEQEND']),
    );
    if (insert.kind !== 'insert') throw new Error(insert.kind);
    expect(insert.attributes.map(({ lines }) => lines[0])).toEqual(['0.01']);
  });

  it('shows a dimension by its block', () => {
    expect(only(groups([0, 'DIMENSION'], [8, '0'], [2, '*D1'], [10, 4], [20, 4]))).toMatchObject({
      block: '*d1',
      x: 0,
      y: 0,
    });
  });

  it('takes embedded objects and extended data for what they are', () => {
    const entity = only(
      groups(
        [0, 'TEXT'],
        [8, '0'],
        [10, 1],
        [20, 2],
        [40, 3],
        [1, 'real'],
        [101, 'Embedded Object'],
        [1, 'other'],
        [1001, 'APP'],
        [1000, 'x'],
      ),
    );
    expect(entity).toMatchObject({ lines: ['real'], height: 3 });
  });
});

describe('tables', () => {
  const of = (drawing: Drawing, name: string) => drawing.layers.find((l) => l.name === name)!;

  it('reads layer states', () => {
    const { drawing } = read(
      dxf({
        layers:
          layer('OFF', [62, -3]) +
          layer('FROZEN', [70, 1], [62, 7]) +
          layer('NOPLOT', [62, 1], [290, 0], [370, 35]) +
          layer('Defpoints', [62, 7]) +
          layer('TRUE', [62, 1], [420, 0x2f6690]),
      }),
    );
    expect(of(drawing, 'OFF')).toMatchObject({ off: true, frozen: false, plots: true });
    expect(of(drawing, 'FROZEN').frozen).toBe(true);
    expect(of(drawing, 'NOPLOT')).toMatchObject({ plots: false, weight: 35, colour: 0xff0000 });
    expect(of(drawing, 'Defpoints').plots).toBe(false);
    expect(of(drawing, 'TRUE').colour).toBe(0x2f6690);
  });

  it('reads how far layers are see-through from their extended data', () => {
    // 2 in the highest byte says "by value", 127 of 255 is one half (DXF reference, code 440).
    const extended: [number, string | number][] = [
      [1001, 'AcCmTransparency'],
      [1071, 0x0200007f],
    ];
    const { drawing } = read(dxf({ layers: layer('GLASS', [62, 3], ...extended) + layer('WALL', [62, 1]) }));
    expect(of(drawing, 'GLASS').opacity).toBe(50);
    expect(of(drawing, 'WALL').opacity).toBeUndefined();
  });

  it('says of line types with texts along them that their dashes are shown, where one is used', () => {
    const type = (name: string): string =>
      groups([0, 'LTYPE'], [2, name], [5, 'A1'], [49, 5], [74, 2], [9, 'GAS'], [49, -5]);
    const { drawing, warnings } = read(
      dxf({ layers: type('GAS_LINE') + type('UNUSED'), entities: line(0, 0, 1, 1, [6, 'GAS_LINE']) }),
    );
    expect(drawing.lineTypes.find(({ name }) => name === 'GAS_LINE')!.dashes).toEqual([5, -5]);
    expect(warnings.map(({ sentence }) => sentence)).toEqual([
      'Line type GAS_LINE has texts or figures along the line; its dashes are shown without them.',
    ]);
  });

  it('finds layers whatever their letter case, and makes those that are missing', () => {
    const { drawing } = read(
      dxf({
        layers: layer('A-Wall', [62, 1]),
        entities: line(0, 0, 1, 1).replace('8\n0', '8\na-wALL') + line(0, 0, 1, 1).replace('8\n0', '8\nNEW'),
      }),
    );
    const names = drawing.spaces[0]!.entities.map((entity) => drawing.layers[entity.style.layer]!.name);
    expect(names).toEqual(['A-Wall', 'NEW']);
  });

  it('reads what entities say of their looks', () => {
    const [a, b, c] = entitiesOf(
      line(0, 0, 1, 1) + line(0, 0, 1, 1, [62, 0], [370, 50]) + line(0, 0, 1, 1, [62, 5], [420, 0x123456]),
    );
    expect(a!.style).toMatchObject({ colour: COLOUR_BY_LAYER, weight: -1 });
    expect(b!.style).toMatchObject({ colour: COLOUR_BY_BLOCK, weight: 50 });
    expect(c!.style.colour).toBe(0x123456);
  });

  it('tells an external reference by name', () => {
    const { warnings } = read(dxf({ blocks: block('SURVEY', '', [70, 4], [1, 'survey.dwg']) }));
    expect(warnings[0]).toMatchObject({ code: 'dxf.external' });
    expect(warnings[0]!.sentence).toContain('SURVEY');
  });
});
