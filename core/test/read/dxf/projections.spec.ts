import { join } from 'node:path';
import { apply, Path, readDxf, type Drawing } from '../../../src/index';
import { boxOfLoops, emptyBox, union, type Box } from '../../../src/geometry/box';
import { flattened } from '../../../src/geometry/flatten';
import { drawPath } from '../../../src/sheet/shapes';
import { walk } from '../../../src/sheet/walk';
import { block, dxf, groups, laidOut, line, read, viewport } from '../../support/dxf';
import { bytesAt, runScript, temporaryFolder } from '../../support/ezdxf';
import { composedLayout } from '../../support/sheets';

const folder = temporaryFolder();

/** Boxes (xmin, ymin, xmax, ymax) of what each entity of a projection shows. */
function boxesOf(drawing: Drawing, index = 0): number[][] {
  const boxes: Box[] = [];
  const path = new Path();
  walk(drawing, drawing.projections![index]!, {
    entity: (entity, _, map) => {
      drawPath(path.clear(), entity, map);
      union(boxes.at(-1)!, boxOfLoops(flattened(path)));
    },
    listed: (at) => {
      if (at < drawing.projections![index]!.length) boxes.push(emptyBox());
    },
    stopped: (why, name) => {
      throw new Error(`${why} ${name}`);
    },
  });
  return boxes.map(({ xmin, ymin, xmax, ymax }) => [xmin, ymin, xmax, ymax]);
}

describe('a viewport that looks from another side', () => {
  it.each([
    ['from the front', 0, -1, 0],
    ['from the right', 1, 0, 0],
    ['from below', 0, 0, -1],
    ['from a corner', 1, -1, 1],
    ['from anywhere', -2, 0.5, 0.3],
  ])('sees the model as an independent library projects it: %s', (_, x, y, z) => {
    const file = join(folder, 'model.dxf');
    const wanted = JSON.parse(runScript('write_projections.py', file, ...[x, y, z].map(String))) as {
      boxes: number[][];
      target: [number, number];
    };
    const made = readDxf(bytesAt(file), 'model.dxf');
    if (!made.ok) throw new Error(made.problem.sentence);
    const { drawing, warnings } = made;
    expect(warnings.map(({ code }) => code)).toEqual(['dxf.viewport']);
    const seen = drawing.spaces
      .flatMap(({ entities }) => entities)
      .find((entity) => entity.kind === 'viewport' && entity.projection !== undefined);
    expect(seen).toMatchObject({ projection: 0, targetX: expect.closeTo(wanted.target[0], 6) });
    const found = boxesOf(drawing);
    expect(found).toHaveLength(wanted.boxes.length);
    const others = [...wanted.boxes];
    // Curves are straight pieces there, and Béziers here.
    for (const box of found) {
      const at = others.findIndex((other) => other.every((value, i) => Math.abs(value - box[i]!) < 0.01));
      expect([box, at >= 0]).toEqual([box, true]);
      others.splice(at, 1);
    }
  });

  const { tables, objects } = laidOut('L', [44, 200], [45, 200], [72, 1]);
  const drawn = (entities: string, blocks = '', height = 0): ReturnType<typeof read> => {
    const shown = { cx: 100, cy: 100, size: 100, shown: 100 };
    const front = viewport(shown, [16, 0], [26, -1], [36, height], [12, 0], [22, 0]);
    return read(dxf({ entities: entities + front, blocks, tables, objects }));
  };

  it('shows it on its layout at its scale, in the axes of the view', () => {
    // A wall of 40 × 30 mm that stands: from above it is a line.
    const corners = [0, 0, 40, 0, 40, 30, 0, 30];
    const face = [0, 1, 2, 3].flatMap((i): [number, number][] => [
      [10 + i, corners[2 * i]!],
      [20 + i, 5],
      [30 + i, corners[2 * i + 1]!],
    ]);
    const { drawing, warnings } = drawn(groups([0, '3DFACE'], [8, '0'], ...face));
    expect(warnings[0]!.sentence).toContain('all edges are shown');
    const { page } = composedLayout(drawing, 'L', 'mm');
    const [xs, ys] = [0, 1].map((axis) => [...page.coords].filter((_, i) => i % 2 === axis && i < 16));
    // The middle of the view, its target, lies in the middle of the viewport.
    expect([Math.min(...xs!), Math.max(...xs!), Math.min(...ys!), Math.max(...ys!)]).toEqual([
      ...[10_000, 14_000, 10_000, 13_000],
    ]);
  });

  it('leaves out what is seen edge-on, and says what lies in other files', () => {
    const flat = groups([0, 'TEXT'], [8, '0'], [10, 0], [20, 0], [40, 5], [1, 'Plan']);
    const upright = flat + groups([210, 0], [220, -1], [230, 0]);
    const { drawing } = drawn(flat + upright);
    expect(drawing.projections![0]).toMatchObject([{ kind: 'tilted', entity: { kind: 'text' } }]);
    // Of the text that stands, nothing is seen from above.
    expect(drawing.spaces[0]!.entities.filter(({ kind }) => kind !== 'viewport')).toMatchObject([{ kind: 'text' }]);
    const external = block('SURVEY', '', [70, 4], [1, 'survey.dxf']);
    const { warnings } = drawn(groups([0, 'INSERT'], [8, '0'], [2, 'SURVEY'], [10, 0], [20, 0]), external);
    expect(warnings.map(({ sentence }) => sentence).join()).toContain('does not show SURVEY');
  });

  const standing: [number, number][] = [
    [210, 0],
    [220, -1],
    [230, 0],
  ];

  it('shows what is stated in the world where it stands, and from above none of its surface', () => {
    const text = groups([0, 'MTEXT'], [8, '0'], [10, 7], [20, 5], [30, 30], [40, 5], [1, 'Gate'], ...standing);
    const { drawing } = drawn(text);
    const [seen] = drawing.projections![0]!;
    if (seen?.kind !== 'tilted' || seen.entity.kind !== 'text') throw new Error('no text');
    const at = apply(seen.map, seen.entity.x, seen.entity.y);
    // Its front lies towards the viewer: x runs to the right and z up.
    expect([at, seen.map]).toEqual([
      [expect.closeTo(7), expect.closeTo(30)],
      expect.objectContaining({ a: expect.closeTo(1), d: expect.closeTo(1) }),
    ]);
    expect(drawing.spaces[0]!.entities.filter(({ kind }) => kind !== 'viewport')).toEqual([]);
  });

  it('shows dimensions and tables by their blocks in space', () => {
    const drawnByProgram = block(
      '*D1',
      groups([0, 'LINE'], [8, '0'], [10, 1], [20, 5], [30, 2], [11, 1], [21, 5], [31, 9]),
    );
    const dimension = groups([0, 'DIMENSION'], [8, '0'], [2, '*D1'], [10, 1], [20, 5], [30, 2], ...standing);
    const schedule = groups([0, 'ACAD_TABLE'], [8, '0'], [2, '*D1'], [10, 100], [20, 0], [30, 50], [11, 1], [21, 0]);
    const { drawing } = drawn(dimension + schedule, drawnByProgram);
    expect(boxesOf(drawing)).toEqual([
      [1, 2, 1, 9],
      [101, 52, 101, 59],
    ]);
  });

  it('shows pictures and wipeouts that stand', () => {
    const upright: [number, number][] = [
      [10, 3],
      [20, 5],
      [30, 4],
      [11, 2],
      [21, 0],
      [31, 0],
      [12, 0],
      [22, 0],
      [32, 1],
    ];
    const wipeout = groups([0, 'WIPEOUT'], [8, '0'], ...upright, [13, 10], [23, 6], [71, 1]);
    const { drawing } = drawn(wipeout);
    expect(boxesOf(drawing)).toEqual([[3, 4, 23, 10]]);
  });

  it('says of an MLINE without its style once, and shows no attributes that are not to be seen', () => {
    const corner = (x: number): [number, number][] => [
      ...([
        [11, x],
        [21, 0],
        [31, 0],
        [12, 1],
        [22, 0],
        [32, 0],
        [13, 0],
        [23, 1],
        [33, 0],
      ] as [number, number][]),
      ...([
        [74, 1],
        [41, 0],
        [75, 0],
      ] as [number, number][]),
    ];
    const mline = groups([0, 'MLINE'], [8, '0'], [2, 'WALL'], [72, 2], [73, 1], ...corner(0), ...corner(8));
    const part = block('PART', line(0, 0, 1, 0));
    const reference = groups([0, 'INSERT'], [8, '0'], [2, 'PART'], [10, 0], [20, 0], [66, 1]);
    const attribute = (flags: number): string =>
      groups([0, 'ATTRIB'], [8, '0'], [10, 0], [20, 0], [40, 5], [1, 'Door'], [2, 'TAG'], [70, flags]);
    const entities = mline + reference + attribute(1) + attribute(0) + groups([0, 'SEQEND']);
    const { drawing, warnings } = drawn(entities, part, 1);
    expect(warnings.find(({ code }) => code === 'dxf.multiline-style')).toMatchObject({ count: 1 });
    expect(
      drawing.projections![0]!.map((entity) => (entity.kind === 'tilted' ? entity.entity.kind : entity.kind)),
    ).toEqual(['insert', 'insert', 'text']);
  });

  it('says of an array that it is too large to be shown', () => {
    const array = groups(
      [0, 'INSERT'],
      [8, '0'],
      [2, 'PART'],
      [10, 0],
      [20, 0],
      [70, 200],
      [71, 200],
      [44, 1],
      [45, 1],
    );
    const { drawing, warnings } = drawn(array, block('PART', line(0, 0, 1, 0)));
    expect(drawing.projections![0]).toEqual([]);
    expect(warnings.map(({ sentence }) => sentence).join()).toContain('an array of more than 10000 PART');
  });

  it('is shown as a plan, and said to be, where there are too many of them', () => {
    const views = Array.from({ length: 30 }, (_, i) =>
      viewport({ cx: 100, cy: 100, size: 100, shown: 100 }, [16, i], [26, -1], [36, 0], [12, 0], [22, 0]),
    );
    const { drawing, warnings } = read(dxf({ entities: line(0, 0, 1, 1) + views.join(''), tables, objects }));
    expect(drawing.projections).toHaveLength(24);
    expect(warnings.find(({ sentence }) => sentence.includes('shown as a plan'))).toMatchObject({ count: 6 });
  });

  it('goes on where blocks refer to themselves or turn in each other without end', () => {
    const itself = block(
      'A',
      line(0, 0, 1, 1) + groups([0, 'INSERT'], [8, '0'], [2, 'A'], [10, 1], [20, 0], [41, 1.001]),
    );
    const { warnings, drawing } = drawn(groups([0, 'INSERT'], [8, '0'], [2, 'A'], [10, 0], [20, 0]), itself);
    expect(drawing.projections![0]).toHaveLength(1);
    expect(warnings.map(({ sentence }) => sentence).join()).toMatch(/more than \d+ ways/);
  });
});
