import { describePaper, frameBox, gridFields, namesOf, NAMED_SIZES, paperOf } from '../../src/index';

const size = (name: string) => NAMED_SIZES.find((named) => named.name === name)!;

describe('named sizes', () => {
  // ISO 216:2007, 3.1: each size halves the one before across its long side, rounded down to whole millimetres.
  it.each(['A', 'B'])('halves the %s series', (series) => {
    for (let n = 0; n < 4; n++) {
      const [larger, smaller] = [size(`${series}${n}`), size(`${series}${n + 1}`)];
      expect(smaller.long).toBe(larger.short);
      expect(smaller.short).toBe(Math.floor(larger.long / 2));
    }
  });

  it('has one square metre in A0', () => {
    expect((size('A0').short * size('A0').long) / 1e6).toBeCloseTo(1, 3);
  });

  // ISO 5457:1999, table of elongated sizes (from memory): the short side of a base size, its long side multiplied.
  it('elongates by multiples of the short side of the base size', () => {
    for (const [name, base, times] of [
      ['A3x3', 'A3', 3],
      ['A3x4', 'A3', 4],
      ['A4x3', 'A4', 3],
      ['A4x4', 'A4', 4],
    ] as const) {
      expect(size(name).short).toBe(size(base).long);
      expect(Math.abs(size(name).long - times * size(base).short)).toBeLessThanOrEqual(1);
    }
  });

  it('lies as asked', () => {
    expect(paperOf('a1')).toEqual({ width: 841, height: 594 });
    expect(paperOf('A1', 'portrait')).toEqual({ width: 594, height: 841 });
    expect(paperOf('D')).toBeUndefined();
  });

  it('names a measured size with its difference, nearest first', () => {
    // 30 × 42 in is Arch E1 (common practice in the US).
    expect(namesOf({ width: 1066.8, height: 762 })[0]).toEqual({
      name: 'Arch E1',
      orientation: 'landscape',
      differenceMm: [0, 0],
    });
    const [first] = namesOf({ width: 595, height: 840 });
    expect(first).toMatchObject({ name: 'A1', orientation: 'portrait', differenceMm: [1, -1] });
    expect(namesOf({ width: 500, height: 500 })).toEqual([]);
    expect(describePaper({ width: 500, height: 333.33 })).toBe('500 × 333.3');
  });
});

describe('frame', () => {
  // ISO 5457:1999: 20 mm filing margin on the left, 10 mm on the other sides (from memory).
  it('leaves the filing margin', () => {
    expect(frameBox({ width: 841, height: 594 }, 'iso5457')).toEqual({ xmin: 20, ymin: 10, xmax: 831, ymax: 584 });
    expect(frameBox({ width: 841, height: 594 }, 'none')).toEqual({ xmin: 0, ymin: 0, xmax: 841, ymax: 594 });
    const own = frameBox({ width: 841, height: 594 }, 'plain', [30, 5, 6, 7]);
    expect(own).toEqual({ xmin: 30, ymin: 5, xmax: 835, ymax: 587 });
    expect(frameBox({ width: 100, height: 100 }, 'plain', [80, 0, 80, 0])).toMatchObject({ xmin: 80, xmax: 80 });
  });
});

describe('the grid reference of ISO 5457', () => {
  const fields = (width: number, height: number) => {
    const paper = { width, height };
    return gridFields(paper, frameBox(paper, 'iso5457'));
  };

  // ISO 5457:1999, table of the number of fields on the long and the short side (from memory).
  it.each([
    ['A0', 1189, 841, 24, 16],
    ['A1', 841, 594, 16, 12],
    ['A2', 594, 420, 12, 8],
    ['A3', 420, 297, 8, 6],
    ['A4', 210, 297, 4, 6],
  ])('has on %s (%d × %d) so many fields', (_, width, height, across, down) => {
    const found = fields(width, height);
    expect([found.across.length, found.down.length]).toEqual([across, down]);
  });

  it('has fields of 50 mm from the middle of the paper, the rest in the corners', () => {
    const { across, down } = fields(841, 594);
    expect(across[0]).toEqual({ name: '1', from: 20, to: 70.5 });
    expect(across[8]).toEqual({ name: '9', from: 420.5, to: 470.5 });
    expect(across.at(-1)).toEqual({ name: '16', from: 770.5, to: 831 });
    expect(down[0]).toEqual({ name: 'A', from: 547, to: 584 });
    // Without I and O, from the top: A to H, J to M.
    expect(down.map(({ name }) => name).join('')).toBe('ABCDEFGHJKLM');
  });
});
