import { findFrames, frameNumbers, numbersFrom, orderFrames, papersOfFrame, type FoundFrame } from '../../src/index';
import { block, dxf, groups, read } from '../support/dxf';

function line(layer: string, points: [number, number][], closed = 1, bulge = 0): string {
  const vertices = points.flatMap(([x, y]): [number, number][] => [
    [10, x],
    [20, y],
    [42, bulge],
  ]);
  return groups([0, 'LWPOLYLINE'], [8, layer], [90, points.length], [70, closed], ...vertices);
}

function box(x: number, y: number, width: number, height: number): [number, number][] {
  return [
    [x, y],
    [x + width, y],
    [x + width, y + height],
    [x, y + height],
  ];
}

const frames = (entities: string, blocks = ''): Record<string, FoundFrame['window'][]> =>
  Object.fromEntries(
    [...findFrames(read(dxf({ entities, blocks })).drawing)].map(([layer, found]) => [
      layer,
      found.map(({ window }) => window),
    ]),
  );

describe('frames in a drawing', () => {
  it('are closed rectangles, by layer, each once', () => {
    const twice = line('F', box(0, 0, 420, 297));
    expect(frames(twice + twice + line('G', box(10, 10, 5, 5)))).toEqual({
      F: [[0, 0, 420, 297]],
      G: [[10, 10, 15, 15]],
    });
  });

  it('may come back to their first point instead of being closed, and lie in blocks', () => {
    const returning = line('F', [...box(0, 0, 420, 297), [0, 0]], 0);
    const insert = groups([0, 'INSERT'], [8, '0'], [2, 'SHEET'], [10, 1000], [20, 500], [41, 2], [42, 2]);
    expect(frames(returning + insert, block('SHEET', line('F', box(0, 0, 420, 297))))).toEqual({
      F: [
        [0, 0, 420, 297],
        [1000, 500, 1840, 1094],
      ],
    });
  });

  it('may be off the axes a little', () => {
    expect(
      frames(
        line('F', [
          [0, 0.2],
          [420, 0],
          [420.1, 297],
          [0, 297.1],
        ]),
      )['F'],
    ).toHaveLength(1);
  });

  it('may be turned: their window stands upright, with how far to turn the drawing for that', () => {
    // 420 × 297 about 1000, 500, turned by 7° counter-clockwise.
    const [cos, sin] = [Math.cos((7 * Math.PI) / 180), Math.sin((7 * Math.PI) / 180)];
    const turned = box(-210, -148.5, 420, 297).map(([x, y]): [number, number] => [
      1000 + x * cos - y * sin,
      500 + x * sin + y * cos,
    ]);
    // Begun at any corner, drawn either way round.
    for (const corners of [turned, [...turned].reverse(), [...turned.slice(1), turned[0]!]]) {
      const [frame] = findFrames(read(dxf({ entities: line('F', corners) })).drawing).get('F')!;
      expect(frame!.window).toEqual([790, 351.5, 1210, 648.5].map((value) => expect.closeTo(value, 6) as number));
      expect(frame!.rotation).toBeCloseTo(-7, 6);
    }
  });

  it.each([
    ['open', line('F', box(0, 0, 4, 3), 0)],
    ['of five corners', line('F', [...box(0, 0, 4, 3), [-1, 1]])],
    [
      'crossed',
      line('F', [
        [0, 0],
        [4, 3],
        [4, 0],
        [0, 3],
      ]),
    ],
    [
      'leaning',
      line('F', [
        [0, 0],
        [4, 0],
        [5, 3],
        [1, 3],
      ]),
    ],
    ['round', line('F', box(0, 0, 4, 3), 1, 0.5)],
    ['flat', line('F', box(0, 0, 4, 0))],
    ['filled', groups([0, 'SOLID'], [8, 'F'], [10, 0], [20, 0], [11, 4], [21, 0], [12, 0], [22, 3], [13, 4], [23, 3])],
  ])('are not lines that are %s', (_, entities) => {
    expect(frames(entities)).toEqual({});
  });
});

describe('the order of frames', () => {
  const at = (x: number, y: number): FoundFrame => ({ window: [x, y, x + 10, y + 7] });
  const names = new Map(
    [at(0, 20), at(20, 21), at(0, 0), at(20, 1)].map((frame, i) => [frame.window.join(), 'abcd'[i]]),
  );
  const order = (by: 'rows' | 'columns'): string =>
    orderFrames([at(20, 1), at(0, 0), at(20, 21), at(0, 20)], by)
      .map(({ window }) => names.get(window.join()))
      .join('');

  it('runs along rows or down columns, though they stand a little askew', () => {
    expect(order('rows')).toBe('abcd');
    expect(order('columns')).toBe('acbd');
  });
});

describe('the paper of a frame', () => {
  it('is the named size that it fills at a standard scale', () => {
    // 42.05 × 29.7 m in mm: A1 at 1:50 (841 × 594), nearer than A3 at 1:100 by half a millimetre.
    expect(papersOfFrame({ window: [0, 0, 42_050, 29_700] }, 'mm')[0]).toMatchObject({
      name: 'A1',
      orientation: 'landscape',
      scaleText: '1:50',
    });
    expect(papersOfFrame({ window: [0, 0, 29.7, 42] }, 'm')[0]).toMatchObject({
      name: 'A3',
      orientation: 'portrait',
      scaleText: '1:100',
    });
    expect(papersOfFrame({ window: [0, 0, 420, 297] }, 'mm')[0]).toMatchObject({ name: 'A3', scaleText: '1:1' });
    expect(papersOfFrame({ window: [0, 0, 36 * 96, 24 * 96] }, 'in')[0]).toMatchObject({
      name: 'Arch D',
      scaleText: `1/8" = 1'-0"`,
    });
    expect(papersOfFrame({ window: [0, 0, 12_345, 999] }, 'mm')).toEqual([]);
  });
});

describe('numbers that stand in frames', () => {
  const text = (x: number, y: number, words: string, height = 5): string =>
    groups([0, 'TEXT'], [8, 'T'], [10, x], [20, y], [40, height], [1, words]);
  const sheet = (x: number, number: string): string =>
    line('F', box(x, 0, 420, 297)) +
    text(x + 380, 10, number, 7) +
    text(x + 300, 10, 'A-100') +
    text(x + 20, 250, `Level ${x}`);
  const numbersIn = (entities: string): string[] | undefined => {
    const { drawing } = read(dxf({ entities }));
    return frameNumbers(drawing, orderFrames(findFrames(drawing).get('F')!, 'rows'));
  };

  it('are the texts at one place in all of them that differ and look like numbers', () => {
    expect(numbersIn(sheet(0, 'A-103') + sheet(500, 'A-101') + sheet(1000, 'A-102'))).toEqual([
      'A-103',
      'A-101',
      'A-102',
    ]);
  });

  it('are none where one is missing or two are alike', () => {
    expect(numbersIn(sheet(0, 'A-103') + sheet(500, 'A-103'))).toBeUndefined();
    expect(numbersIn(sheet(0, 'A-103') + line('F', box(500, 0, 420, 297)))).toBeUndefined();
  });
});

describe('numbers of sheets', () => {
  it('count up from the first', () => {
    expect(numbersFrom('A-101', 3)).toEqual(['A-101', 'A-102', 'A-103']);
    expect(numbersFrom('S09b', 2)).toEqual(['S09b', 'S10b']);
    expect(numbersFrom('Plan', 2)).toEqual(['Plan1', 'Plan2']);
  });
});
