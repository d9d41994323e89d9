import type { PlotDraft } from '@folvex/core';
import { PlotPicture } from '../../src/deliveries/plot-picture';
import { all, show, text } from '../support/parts';

const piece = {
  ...{ medium: 'roll 610 mm, 0.84 m', width: 610, length: 841 },
  pages: [
    { number: 'A-101', x: 0, y: 0, across: 594, along: 420 },
    { number: 'A-102', x: 0, y: 420, across: 30, along: 30 },
  ],
};
const draft: PlotDraft = { pieces: [piece], rollM: 0.841, areaM2: 0.513, cost: 1.5 };

describe('the picture of a roll', () => {
  it('has each page where it lies, along the roll to the right, and numbers where there is room', async () => {
    const fixture = await show(PlotPicture, { draft });
    expect(text(fixture)).toContain('1 piece of paper: 0.84 m of roll, 0.51 m², about 1.50.');
    expect(all(fixture, 'svg')[0]!.getAttribute('aria-label')).toBe('roll 610 mm, 0.84 m: A-101, A-102');
    const boxes = all(fixture, 'rect.page').map((box) =>
      ['x', 'y', 'width', 'height'].map((side) => box.getAttribute(side)),
    );
    expect(boxes).toEqual([
      ['0', '0', '420', '594'],
      ['420', '0', '30', '30'],
    ]);
    expect(all(fixture, 'svg text').map(({ textContent }) => textContent?.trim())).toEqual(['A-101']);
  });

  it('draws the first pieces, and says how many more there are', async () => {
    const fixture = await show(PlotPicture, { draft: { ...draft, pieces: Array<typeof piece>(15).fill(piece) } });
    expect(all(fixture, 'svg')).toHaveLength(12);
    expect(text(fixture)).toContain('3 more are not drawn.');
  });
});
