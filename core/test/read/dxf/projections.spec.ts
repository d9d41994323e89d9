import { join } from 'node:path';
import { Path, readDxf, type Drawing } from '../../../src/index';
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
  const drawn = (entities: string, blocks = ''): ReturnType<typeof read> => {
    const front = viewport({ cx: 100, cy: 100, size: 100, shown: 100 }, [16, 0], [26, -1], [36, 0], [12, 0], [22, 0]);
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
    const standing = flat + groups([210, 0], [220, -1], [230, 0]);
    const { drawing } = drawn(flat + standing);
    expect(drawing.projections![0]).toMatchObject([{ kind: 'tilted', entity: { kind: 'text' } }]);
    // Of the text that stands, nothing is seen from above.
    expect(drawing.spaces[0]!.entities.filter(({ kind }) => kind !== 'viewport')).toMatchObject([{ kind: 'text' }]);
    const external = block('SURVEY', '', [70, 4], [1, 'survey.dxf']);
    const { warnings } = drawn(groups([0, 'INSERT'], [8, '0'], [2, 'SURVEY'], [10, 0], [20, 0]), external);
    expect(warnings.map(({ sentence }) => sentence).join()).toContain('does not show SURVEY');
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
