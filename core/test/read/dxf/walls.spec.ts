import { bulgeArc } from '../../../src/geometry/curves';
import {
  apply,
  colourFromIndex,
  COLOUR_BY_LAYER,
  type Drawing,
  type Entity,
  type PolylineEntity,
} from '../../../src/index';
import { dxf, groups, read } from '../../support/dxf';
import { drawnBy } from '../../support/ezdxf';

interface Oracle {
  lines: { segments: number[][]; arcs: number[][] }[];
  tilted: [number, number][];
  helix: [number, number][];
}

const rounded = (values: readonly number[]): number[] => values.map((value) => Math.round(value * 1e6) / 1e6 + 0);
/** A segment, whichever way it runs. */
const segmentKey = ([x0, y0, x1, y1]: readonly number[]): string =>
  [rounded([x0!, y0!]).join(), rounded([x1!, y1!]).join()].sort().join(' ');

/** The polylines that a multiline is drawn by, in its block. */
function polylinesOf(drawing: Drawing, insert: Entity): PolylineEntity[] {
  if (insert.kind !== 'insert') throw new Error(insert.kind);
  return drawing.blocks.get(insert.block)!.entities as PolylineEntity[];
}

/** Straight segments, and arcs by their top and radius. */
function piecesOf(polylines: readonly PolylineEntity[]) {
  const [segments, arcs]: [number[][], number[][]] = [[], []];
  for (const { vertices, closed } of polylines) {
    const count = vertices.length / 5;
    for (let i = 0; i < (closed ? count : count - 1); i++) {
      const [a, b] = [5 * i, 5 * ((i + 1) % count)];
      const ends = [vertices[a]!, vertices[a + 1]!, vertices[b]!, vertices[b + 1]!] as const;
      const arc = bulgeArc(...ends, vertices[a + 2]!);
      if (!arc) segments.push([...ends]);
      else {
        const angle = arc.start + arc.sweep / 2;
        const top = [arc.cx + arc.radius * Math.cos(angle), arc.cy + arc.radius * Math.sin(angle)];
        arcs.push([...top, arc.radius]);
      }
    }
  }
  return { segments, arcs };
}

/** Against ezdxf, which writes the file and takes its entities apart (ezdxf, `virtual_entities`). */
describe('walls, long attributes and helixes', () => {
  const { bytes, facts: oracle } = drawnBy<Oracle>('write_walls.py');
  const { drawing, warnings } = read(bytes);
  const { entities } = drawing.spaces[0]!;
  const multilines = entities.slice(0, 3).map((entity) => polylinesOf(drawing, entity));

  it.each([0, 1, 2])('draw the elements, joints and caps of multiline %s where ezdxf does', (i) => {
    expect(warnings).toEqual([]);
    const { segments, arcs } = piecesOf(multilines[i]!);
    const expected = oracle.lines[i]!;
    expect(new Set(segments.map(segmentKey))).toEqual(new Set(expected.segments.map(segmentKey)));
    expect(arcs.map(rounded).sort()).toEqual(expected.arcs.map(rounded).sort());
  });

  it('have the colours of their style, and otherwise those of the multiline', () => {
    const colours = multilines[0]!.slice(0, 4).map(({ style }) => style.colour);
    expect(colours).toEqual([colourFromIndex(1), COLOUR_BY_LAYER, COLOUR_BY_LAYER, colourFromIndex(5)]);
  });

  it('show every line of an attribute, as its embedded text lies', () => {
    const insert = entities.find((entity) => entity.kind === 'insert' && entity.block === 'tag');
    if (insert?.kind !== 'insert') throw new Error('no insert');
    expect(insert.attributes).toHaveLength(1);
    const [text] = insert.attributes;
    expect(text!.lines).toEqual(['Waiting room', 'floor 2', 'north']);
    expect(text).toMatchObject({ x: 5, y: 20, height: 2.5, backwards: false, vertical: 'bottom', wrapWidth: 40 });
    expect(text!.rotation).toBeCloseTo(Math.PI / 2, 9);
  });

  it('draw a helix as its curve', () => {
    const path = entities.find(({ kind }) => kind === 'path');
    if (path?.kind !== 'path') throw new Error('no path');
    expect(rounded([...path.coords.slice(0, 2)])).toEqual(rounded(oracle.helix[0]!));
    expect(rounded([...path.coords.slice(-2)])).toEqual(rounded(oracle.helix.at(-1)!));
  });

  it('show a polyline in a tilted plane as it is seen on the plan', () => {
    const tilted = entities.find(({ kind }) => kind === 'tilted');
    if (tilted?.kind !== 'tilted' || tilted.entity.kind !== 'polyline') throw new Error('no polyline');
    const { vertices } = tilted.entity;
    const points = [0, 5, 10].map((at) => apply(tilted.map, vertices[at]!, vertices[at + 1]!));
    expect(points.map(rounded)).toEqual(oracle.tilted.map(rounded));
  });

  it('show the tag of an attribute definition that is in no block', () => {
    expect(entities.at(-1)).toMatchObject({ kind: 'text', lines: ['LOOSE'], x: 0, y: 40, height: 3 });
  });
});

describe('a multiline', () => {
  /** Two vertices 10 apart, with one element each 1 above and below. */
  const mline = (params: readonly number[], flags = 1): string => {
    const corner = (x: number): [number, number][] => [
      ...([
        [11, x],
        [21, 0],
        [12, 1],
        [22, 0],
        [13, 0],
        [23, 1],
      ] as [number, number][]),
      ...([[74, params.length + 1], [41, 1], ...params.map((value) => [41, value]), [75, 0]] as [number, number][]),
      ...([
        [74, 2],
        [41, -1],
        [41, 0],
        [75, 0],
      ] as [number, number][]),
    ];
    const head: [number, string | number][] = [
      [0, 'MLINE'],
      [5, 'A'],
      [8, '0'],
      [2, 'CUT'],
      [70, 1],
      [71, flags],
    ];
    return groups(...head, [72, 2], [73, 2], [10, 0], [20, 0], ...corner(0), ...corner(10));
  };
  const styled = (flags: number): string =>
    groups([0, 'MLINESTYLE'], [5, 'F'], [2, 'cut'], [70, flags], [62, 3], [71, 2]) +
    groups([49, 1], [62, 256], [6, 'BYLAYER'], [49, -1], [62, 256], [6, 'BYLAYER']);
  const drawn = (params: readonly number[], styleFlags: number, flags = 1) => {
    const { drawing, warnings } = read(dxf({ entities: mline(params, flags), objects: styled(styleFlags) }));
    expect(warnings).toEqual([]);
    return polylinesOf(drawing, drawing.spaces[0]!.entities[0]!);
  };

  it('is broken where its elements are cut', () => {
    const { segments } = piecesOf(drawn([0, 3, 5], 0));
    expect(segments.map(rounded)).toEqual([
      [0, 1, 3, 1],
      [5, 1, 10, 1],
      [0, -1, 10, -1],
    ]);
  });

  it('is filled between its outermost elements, round ends included', () => {
    const [fill] = drawn([0], 1 + 64 + 1024) as unknown as Extract<Entity, { kind: 'fill' }>[];
    expect(fill).toMatchObject({ kind: 'fill', style: { colour: colourFromIndex(3) } });
    expect([...fill!.loops[0]!]).toEqual([0, -1, 0, 10, -1, 1, 10, 1, 0, 0, 1, 1]);
  });

  it('has no caps where they are suppressed', () => {
    expect(drawn([0], 16 + 256)).toHaveLength(6);
    expect(drawn([0], 16 + 256, 1 + 4 + 8)).toHaveLength(2);
  });

  it('is reported where it has one corner only, or no elements', () => {
    const [one] = mline([0]).split('11\n10\n');
    for (const entities of [one!, mline([0]).replace('73\n2\n', '73\n0\n')]) {
      const { drawing, warnings } = read(dxf({ entities }));
      expect(drawing.spaces[0]!.entities).toEqual([]);
      expect(warnings).toMatchObject([{ code: 'dxf.bad-multiline', place: { handle: 'A' } }]);
    }
  });

  it('is drawn without its looks where its style is not in the file, which is said', () => {
    const { drawing, warnings } = read(dxf({ entities: mline([0]) }));
    expect(warnings).toMatchObject([{ code: 'dxf.multiline-style', place: { handle: 'A' } }]);
    expect(polylinesOf(drawing, drawing.spaces[0]!.entities[0]!)).toHaveLength(2);
  });
});
