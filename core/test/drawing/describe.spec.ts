import { describeEntity, type EntityFacts } from '../../src/index';
import { block, dxf, groups, layer, line, read } from '../support/dxf';

function facts(entities: string, parts: Parameters<typeof dxf>[0] = {}): EntityFacts {
  const { drawing } = read(dxf({ ...parts, entities }));
  return describeEntity(drawing, drawing.spaces[0]!.entities[0]!);
}

const polyline = (closed: number, bulge: number): string =>
  groups(
    [0, 'LWPOLYLINE'],
    [8, '0'],
    [90, 4],
    [70, closed],
    ...([
      [0, 0],
      [4, 0],
      [4, 3],
      [0, 3],
    ].flatMap(([x, y], i) => [[10, x!], [20, y!], ...(i === 1 ? [[42, bulge]] : [])]) as [number, number][]),
  );

describe('what is said of an entity', () => {
  it('its properties as they come out by layer', () => {
    const layers = layer('A-WALL', [62, 1], [370, 50], [6, 'CONTINUOUS']);
    expect(facts(line(0, 0, 3, 4, [5, 'AB'], [8, 'A-WALL']).replace('8\n0\n', ''), { layers })).toEqual({
      kind: 'Line',
      handle: 'AB',
      layer: 'A-WALL',
      colour: 0xff0000,
      weight: 50,
      lineType: 'CONTINUOUS',
      facts: [['Length', 5]],
    });
  });

  it('length and area of an outline, also with a half circle in it', () => {
    expect(facts(polyline(1, 0)).facts).toEqual([
      ['Vertices', 4],
      ['Outline', 14],
      ['Area', 12],
    ]);
    const [, outline, area] = facts(polyline(1, 1)).facts;
    // A half circle of radius 1.5 on the right side.
    expect(outline![1]).toBeCloseTo(11 + 1.5 * Math.PI, 9);
    expect(area![1]).toBeCloseTo(12 + (Math.PI * 1.5 ** 2) / 2, 9);
    expect(facts(polyline(0, 0)).facts).toContainEqual(['Length', 11]);
  });

  it('radius and angle of an arc, and that a full one is a circle', () => {
    const arc = groups([0, 'ARC'], [8, '0'], [10, 0], [20, 0], [40, 2], [50, 350], [51, 80]);
    const found = facts(arc);
    expect(found.kind).toBe('Arc');
    expect(found.facts).toEqual([
      ['Radius', 2],
      ['Length', expect.closeTo(Math.PI, 9)],
      ['Angle', expect.closeTo(90, 9)],
    ]);
    expect(facts(groups([0, 'CIRCLE'], [8, '0'], [10, 0], [20, 0], [40, 2])).kind).toBe('Circle');
  });

  it('the text of a text, the block of a reference', () => {
    const text = groups([0, 'TEXT'], [8, '0'], [10, 0], [20, 0], [40, 2.5], [1, 'Pontoon']);
    expect(facts(text).facts).toContainEqual(['Text', 'Pontoon']);
    const insert = groups([0, 'INSERT'], [8, '0'], [2, 'door'], [10, 0], [20, 0]);
    expect(facts(insert, { blocks: block('DOOR', line(0, 0, 1, 0)) }).facts).toEqual([['Block', 'DOOR']]);
  });
});
