import fc from 'fast-check';
import { comparePictures, type PicturePair } from '../../src/index';

const [WIDTH, HEIGHT] = [120, 96];

/** White pictures, with black rectangles x, y, width, height. */
function pair(before: number[][], after: number[][]): PicturePair {
  return { before: picture(before), after: picture(after), width: WIDTH, height: HEIGHT };
}

function picture(rectangles: number[][], colour = [0, 0, 0]): Uint8ClampedArray {
  const pixels = new Uint8ClampedArray(WIDTH * HEIGHT * 4).fill(255);
  for (const [x, y, w, h] of rectangles as [number, number, number, number][]) {
    for (let row = y; row < y + h; row++) {
      for (let column = x; column < x + w; column++) pixels.set(colour, (row * WIDTH + column) * 4);
    }
  }
  return pixels;
}

it('finds nothing in what is the same, but for the smoothing of edges', () => {
  const same = pair([[10, 10, 50, 2]], [[10, 10, 50, 2]]);
  same.after.set([40, 40, 40], (10 * WIDTH + 10) * 4);
  expect(comparePictures(same).areas).toEqual([]);
});

it('counts what came and what went, in areas of their own', () => {
  const { areas } = comparePictures(pair([[4, 4, 10, 10]], [[80, 60, 20, 10]]));
  expect(areas).toHaveLength(2);
  const [came, went] = areas as [(typeof areas)[0], (typeof areas)[0]];
  expect(came).toMatchObject({ added: 200, removed: 0 });
  expect(went).toMatchObject({ added: 0, removed: 100 });
  // The cells of 12 pixels around the change.
  expect(came.left).toBeCloseTo(72 / WIDTH);
  expect(came.top).toBeCloseTo(60 / HEIGHT);
  expect(came.left + came.width).toBeCloseTo(108 / WIDTH);
});

it('sees a line that only changed its colour', () => {
  const changed = {
    ...pair([], []),
    before: picture([[30, 30, 10, 2]], [200, 0, 0]),
    after: picture([[30, 30, 10, 2]], [0, 102, 0]),
  };
  expect(comparePictures(changed).areas).toHaveLength(1);
});

it('shows what came solid and what went in stripes, so that no colour is needed to tell them', () => {
  const { picture: shown } = comparePictures(pair([[12, 12, 30, 30]], [[60, 12, 30, 30]]));
  const inks = (x: number): Set<string> => {
    const found = new Set<string>();
    for (let i = 0; i < 30; i++)
      found.add([...shown.subarray((20 * WIDTH + x + i) * 4, (20 * WIDTH + x + i) * 4 + 3)].join());
    return found;
  };
  expect(inks(60).size).toBe(1);
  expect(inks(12)).toEqual(new Set(['194,65,12', '255,255,255']));
});

it('puts every changed pixel into exactly one area', () => {
  const rectangle = fc
    .tuple(fc.nat(WIDTH - 20), fc.nat(HEIGHT - 20), fc.integer({ min: 1, max: 19 }), fc.integer({ min: 1, max: 19 }))
    .map((four): number[] => four);
  fc.assert(
    fc.property(fc.array(rectangle, { maxLength: 6 }), fc.array(rectangle, { maxLength: 6 }), (before, after) => {
      const both = pair(before, after);
      const differing = both.before.reduce((sum, value, i) => sum + Number(i % 4 === 0 && value !== both.after[i]), 0);
      const { areas } = comparePictures(both);
      expect(areas.reduce((sum, { added, removed }) => sum + added + removed, 0)).toBe(differing);
      for (const { left, top, width, height } of areas) {
        expect(Math.min(left, top)).toBeGreaterThanOrEqual(0);
        expect(Math.max(left + width, top + height)).toBeLessThanOrEqual(1 + 1e-9);
      }
    }),
    { numRuns: 60 },
  );
});
