import { freeCellPlace } from '../../../src/places/settings/cell-place';

const block = { width: 100, height: 30 };
const cell = { width: 40, height: 12 };
const box = (left: number, bottom: number, width: number, height: number) => ({
  ...{ xmin: left, ymin: bottom, xmax: left + width, ymax: bottom + height },
});

describe('a new cell of a title block', () => {
  it('goes to the lowest free place, leftmost of those', () => {
    expect(freeCellPlace([], block, cell)).toEqual({ left: 0, bottom: 0 });
    expect(freeCellPlace([box(0, 0, 50, 12)], block, cell)).toEqual({ left: 50, bottom: 0 });
    expect(freeCellPlace([box(0, 0, 100, 12)], block, cell)).toEqual({ left: 0, bottom: 12 });
  });

  it('goes to the corner where there is no room', () => {
    expect(freeCellPlace([box(0, 0, 100, 20)], block, cell)).toEqual({ left: 0, bottom: 0 });
  });
});
