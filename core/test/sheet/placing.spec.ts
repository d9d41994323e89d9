import { areaForViews, predictPlacing, movedTo, rescaled, snapped, type View } from '../../src/index';

const view: View = {
  id: 'v',
  drawing: 'd',
  space: 'model',
  window: 'extents',
  scale: '1:100',
  at: [100, 50],
  layersOff: [],
  label: '',
};
const box = (xmin: number, ymin: number, xmax: number, ymax: number) => ({ xmin, ymin, xmax, ymax });

describe('placing a view', () => {
  it('keeps its place to the hundredth of a millimetre', () => {
    expect(movedTo(view, 12.34567, 0.004).at).toEqual([12.35, 0]);
  });

  it('keeps its middle when its scale changes', () => {
    // 80 × 40 mm at 1:100 are 160 × 80 at 1:50; the middle stays at 140, 70.
    expect(rescaled(view, { box: box(100, 50, 180, 90), scale: 1 / 100 }, '1:50')).toMatchObject({
      scale: '1:50',
      at: [60, 30],
    });
    // 1/4" = 1'-0" is 1:48.
    expect(rescaled(view, { box: box(100, 50, 180, 90), scale: 1 / 48 }, `1/4" = 1'-0"`)).toMatchObject({
      at: [100, 50],
    });
    expect(rescaled({ ...view, at: 'centre' }, { box: box(0, 0, 80, 40), scale: 1 / 100 }, '1:50').at).toBe('centre');
    expect(rescaled(view, { box: box(0, 0, 80, 40), scale: 1 / 100 }, 'fit')).toEqual({ ...view, scale: 'fit' });
  });

  it('is expected where it was put and as large as its scale makes it, before it is composed again', () => {
    const composed = { scale: 1 / 100, box: box(100, 50, 180, 90) };
    expect(predictPlacing(view, composed)).toEqual(composed);
    const moved = { ...view, at: [10, 20] as [number, number], scale: '1:50' };
    expect(predictPlacing(moved, composed)).toEqual({ scale: 1 / 50, box: box(10, 20, 170, 100) });
    expect(predictPlacing({ ...view, at: 'centre', scale: '1:200' }, composed).box).toEqual(box(120, 60, 160, 80));
    expect(predictPlacing({ ...view, scale: 'fit' }, composed)).toEqual(composed);
  });

  it('stands on edges and middles of others within reach, the nearest of them', () => {
    const other = box(0, 0, 100, 60);
    expect(snapped(box(102, 31, 152, 51), [other], 3)).toEqual({ dx: -2, dy: -1, x: 100, y: 30 });
    expect(snapped(box(104, 11, 154, 41), [other], 3)).toEqual({ dx: 0, dy: 0 });
    // Its middle on that of the other: 45…56 about 50.5.
    expect(snapped(box(45, 200, 56, 210), [other], 3)).toEqual({ dx: -0.5, dy: 0, x: 50 });
  });

  it('has the room inside the frame, above the title block', () => {
    // ISO 5457: 20 mm filing margin, 10 mm on the other sides (from memory).
    const paper = { width: 841, height: 594 };
    expect(areaForViews(paper, { frame: 'iso5457', titleBlock: undefined }, {})).toEqual(box(20, 10, 831, 584));
    expect(areaForViews(paper, { frame: 'iso5457', titleBlock: { fields: {} } }, {}).ymin).toBeGreaterThan(10);
    expect(areaForViews(paper, { frame: 'none', titleBlock: undefined }, {})).toEqual(box(0, 0, 841, 594));
  });
});
