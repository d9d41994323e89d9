import { asEvenOdd, clipFillToLoops } from '../../src/geometry/clip-areas';
import { isInside } from '../../src/geometry/clip-loops';
import { flattened } from '../../src/geometry/flatten';
import { polygonPath } from '../../src/geometry/outline';
import { Path } from '../../src/geometry/path';
import { numbers } from '../support/numbers';

const SIZE = 10;
const POINTS = 200;

/** A polygon that crosses itself, many of whose corners all but lie on one line. */
function entangled(random: () => number): [number, number][] {
  return Array.from({ length: 4 + Math.floor(random() * 8) }, () => {
    const along = random() * 2 * Math.PI;
    return [SIZE * Math.cos(along), 1e-8 * random() + (random() < 0.5 ? 0 : SIZE) * Math.sin(along)];
  });
}

it('cuts areas to loops by the even-odd rule, also where edges nearly touch', () => {
  for (let seed = 1; seed <= 150; seed++) {
    const random = numbers(seed);
    const [filled, loop] = [entangled(random), entangled(random)];
    const out = new Path();
    clipFillToLoops(polygonPath(filled), [loop.flat()], out);
    const left = flattened(out);
    for (let k = 0; k < POINTS; k++) {
      const [x, y] = [(2 * random() - 1) * SIZE, (2 * random() - 1) * SIZE];
      // What lies within a step of an edge may go either way.
      const around = [-0.01, 0.01].flatMap((dx) => [-0.01, 0.01].map((dy) => [x + dx, y + dy] as const));
      const covered = ([px, py]: readonly [number, number]) =>
        isInside([filled.flat()], px, py) && isInside([loop.flat()], px, py);
      if (new Set(around.map(covered)).size > 1) continue;
      expect([seed, x, y, isInside(left, x, y)]).toEqual([seed, x, y, covered([x, y])]);
    }
  }
});

/** How often loops go round a point, by the angles under which their edges are seen from it. */
function winding(loop: readonly [number, number][], x: number, y: number): number {
  const turns = loop.map(([ax, ay], i) => {
    const [bx, by] = loop[(i + 1) % loop.length]!;
    const turn = Math.atan2(by - y, bx - x) - Math.atan2(ay - y, ax - x);
    return Math.atan2(Math.sin(turn), Math.cos(turn));
  });
  return Math.round(turns.reduce((sum, turn) => sum + turn, 0) / (2 * Math.PI));
}

it('makes loops for the even-odd rule of what the nonzero rule fills', () => {
  let [overlaid, outside] = [0, 0];
  for (let seed = 1; seed <= 40; seed++) {
    const random = numbers(seed);
    const loop = entangled(random);
    const out = new Path();
    asEvenOdd(polygonPath(loop), out);
    const left = flattened(out);
    for (let k = 0; k < POINTS; k++) {
      const [x, y] = [(2 * random() - 1) * SIZE, (2 * random() - 1) * SIZE];
      const around = [-0.01, 0.01].flatMap((dx) => [-0.01, 0.01].map((dy) => winding(loop, x + dx, y + dy)));
      if (new Set(around).size > 1) continue;
      const times = winding(loop, x, y);
      expect([seed, x, y, isInside(left, x, y)]).toEqual([seed, x, y, times !== 0]);
      if (times === 0) outside++;
      else if (times % 2 === 0) overlaid++;
    }
  }
  // Both of what the two rules agree on and what they do not was looked at.
  expect([overlaid > 10, outside > 10]).toEqual([true, true]);
});
