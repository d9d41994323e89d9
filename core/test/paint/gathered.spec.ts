import { batchByPen, markBoxes, markOrder, PageBuilder, Path, type Page } from '../../src/index';

/** Numbers from 0 to 1 that are the same each time. */
function numbers(seed: number): () => number {
  let state = seed;
  return () => (state = (state * 16_807) % 2_147_483_647) / 2_147_483_647;
}

/** Lines of three pens, of every size, some of them see-through. */
function drawn(count: number, seed: number): Page {
  const next = numbers(seed);
  const builder = new PageBuilder(400, 300);
  const layer = builder.layer('x.dxf', 'A');
  for (let i = 0; i < count; i++) {
    const [x, y, reach] = [next() * 380, next() * 280, next() ** 6 * 100];
    const path = new Path();
    path.moveTo(x, y);
    path.lineTo(x + next() * reach, y + next() * reach);
    builder.stroke(path, layer, builder.pen([0.25, 0.5, 1][Math.floor(next() * 3)]!, 0));
  }
  return builder.build();
}

function gathered(page: Page, scale = 0.03): number[] {
  const boxes = markBoxes(page, markOrder(page));
  return [
    ...batchByPen(
      page,
      boxes,
      Uint32Array.from({ length: page.markCount }, (_, i) => i),
      scale,
      1,
    ),
  ];
}

describe('gathering marks by pen', () => {
  it.each([1, 2, 3])('never lets a mark pass another that it may touch (seed %i)', (seed) => {
    const page = drawn(600, seed);
    const boxes = markBoxes(page, markOrder(page));
    const list = gathered(page);
    expect([...list].sort((a, b) => a - b)).toEqual(Array.from({ length: 600 }, (_, i) => i));
    const place = new Map(list.map((mark, i) => [mark, i]));
    const touch = (a: number, b: number): boolean => {
      const half = (page.pens[page.pen[a]!]!.width + page.pens[page.pen[b]!]!.width) / 2;
      const [p, q] = [boxes.subarray(4 * a, 4 * a + 4), boxes.subarray(4 * b, 4 * b + 4)];
      return p[0]! - half <= q[2]! && q[0]! - half <= p[2]! && p[1]! - half <= q[3]! && q[1]! - half <= p[3]!;
    };
    let touching = 0;
    for (let a = 0; a < 600; a++) {
      for (let b = a + 1; b < 600; b++) {
        if (page.pen[a] === page.pen[b] || !touch(a, b)) continue;
        touching++;
        expect(place.get(a)!).toBeLessThan(place.get(b)!);
      }
    }
    expect(touching).toBeGreaterThan(100);
  });

  it('changes pens far less often', () => {
    const page = drawn(3000, 4);
    const changes = (list: number[]): number =>
      list.filter((mark, i) => i > 0 && page.pen[mark] !== page.pen[list[i - 1]!]).length;
    const before = changes(Array.from({ length: page.markCount }, (_, i) => i));
    expect(changes(gathered(page))).toBeLessThan(before / 10);
  });

  it('takes pages without marks', () => {
    expect(gathered(new PageBuilder(100, 100).build())).toEqual([]);
  });
});
