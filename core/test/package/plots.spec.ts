import {
  outputPlan,
  plotDrafts,
  runChecks,
  type ComposedFacts,
  type PaperSize,
  type Plot,
  type PlanInput,
} from '../../src';
import { input, sheet } from '../support/plan-input';

const PLOT: Plot = { kind: 'plotter', server: 'p', media: '610, A3', costPerM2: 3 };
const FACTS: Omit<ComposedFacts, 'paper'> = {
  ...{
    views: [],
    viewports: [],
    outside: { count: 0, boxes: [] },
    overFrame: 0,
    pictures: [],
    names: [],
    warnings: [],
  },
  lettering: { papers: [], scales: [], own: [], drawn: 10 },
};
const A1 = { width: 841, height: 594 };
const A3 = { width: 420, height: 297 };

/** A package for a plotter, of sheets that were composed on these papers. */
function given(plot: Partial<Plot>, papers: readonly PaperSize[] = [A1, A3]): PlanInput {
  const sheets = papers.map((_paper, i) => sheet(`s${i}`, `A-10${i}`));
  const pages = new Map(papers.map((paper, i) => [`s${i}`, { ...FACTS, paper }]));
  return {
    ...input(
      {
        destinations: [
          { kind: 'folder', folder: '', onConflict: 'stop' },
          { ...PLOT, ...plot },
        ],
      },
      sheets,
    ),
    pages,
  };
}
const drafts = (one: PlanInput) => plotDrafts(one, outputPlan(one));

describe('a package for a plotter', () => {
  it('is shown as it will lie on its paper, with what that takes', () => {
    const [folder, plot] = drafts(given({}));
    expect(folder).toBeNull();
    expect(plot).toEqual({
      pieces: [
        {
          medium: 'roll 610 mm, 0.84 m',
          width: 610,
          length: 841,
          pages: [{ number: 'A-100', x: 0, y: 0, across: 594, along: 841 }],
        },
        { medium: 'A3', width: 297, length: 420, pages: [{ number: 'A-101', x: 0, y: 0, across: 297, along: 420 }] },
      ],
      rollM: 0.841,
      areaM2: expect.closeTo(0.61 * 0.841 + 0.297 * 0.42, 9) as number,
      cost: expect.closeTo(3 * (0.61 * 0.841 + 0.297 * 0.42), 9) as number,
    });
    const [, nested] = drafts(given({ media: '610', nesting: 'side by side', copies: 2 }, [A3]));
    expect(nested!.pieces).toMatchObject([{ length: 420, pages: [{ number: 'A-100' }, { number: 'A-100' }] }]);
  });

  it('is shown on what the plotter says that it holds, unless paper is stated', () => {
    const told = { media: [{ kind: 'roll' as const, width: 914 }], marginMm: 5 };
    const seen = (plot: Partial<Plot>) => drafts({ ...given(plot, [A1]), plotters: [undefined, told] })[1]!.pieces;
    expect(seen({ media: '' })).toMatchObject([{ width: 914, length: 594 }]);
    expect(seen({ media: '610' })).toMatchObject([{ width: 610 }]);
    expect(drafts({ ...given({ media: 'hide' }, [A1]), plotters: [undefined, told] })).toEqual([null, null]);
  });

  it('is not shown where its paper is asked from the plotter, or no sheet is composed yet', () => {
    expect(drafts(given({ media: '' }))).toEqual([null, null]);
    const { pages: _pages, ...early } = given({});
    expect(drafts(early)[1]).toMatchObject({ pieces: [], rollM: 0 });
    expect(drafts(input({}))).toEqual([]);
  });

  it('is warned of what the plotter cannot print at the edges, at the size that it is printed in', () => {
    const ink = { xmin: 4, ymin: 20, xmax: 800, ymax: 570 };
    const margins = (plot: Partial<Plot>, more: Partial<PlanInput> = {}, box = ink): string[] => {
      const one = { ...given({ media: '610', ...plot }, [A1]), ...more };
      const pages = new Map([['s0', { ...FACTS, paper: A1, ink: box }]]);
      return runChecks({ ...one, pages }, outputPlan(one))
        .filter(({ code }) => code === 'plot.margin')
        .map(({ sentence }) => sentence);
    };
    const sentence = (mm: string, margin: number): string =>
      `A-100 has something ${mm} mm from its edge, or beyond; the plotter prints nothing nearer than ${margin} mm. Move it, or choose another plotter.`;
    expect(margins({})).toEqual([]);
    expect(margins({ marginMm: 4 })).toEqual([]);
    expect(margins({ marginMm: 5 })).toEqual([sentence('4.0', 5)]);
    // What is stated goes before what the plotter tells.
    const plotters = [undefined, { media: [], marginMm: 7.5 }];
    expect(margins({}, { plotters })).toEqual([sentence('4.0', 7.5)]);
    expect(margins({ marginMm: 3 }, { plotters })).toEqual([]);
    // At half its size in the middle of the same paper, 210.25 mm lie at its sides.
    const { package: pack } = given({ media: '610', marginMm: 5 }, [A1]);
    const half = { ...pack, pages: { s0: { percent: 50 } } };
    expect(margins({ marginMm: 5 }, { package: half })).toEqual([]);
    expect(margins({ marginMm: 5 }, {}, { ...ink, xmax: 841 - 1.5 })).toEqual([sentence('1.5', 5)]);
  });

  it('has tiled sheets as the pages that they are cut into', () => {
    const tiled = given({ media: '610' }, [A1]);
    const pack = { ...tiled.package, tiles: { paper: { name: 'A3', orientation: 'portrait' as const }, overlap: 15 } };
    expect(drafts({ ...tiled, package: pack })[1]!.pieces.length).toBeGreaterThan(3);
  });

  it('is stopped by paper that is none, and by pages that fit none', () => {
    const found = (plot: Partial<Plot>) => {
      const one = given(plot);
      return runChecks(one, outputPlan(one))
        .filter(({ code }) => code.startsWith('plot.'))
        .map(({ code, severity, sentence, about }) => [code, severity, sentence, about]);
    };
    expect(found({})).toEqual([]);
    expect(found({ media: 'wide, A3' })).toEqual([
      [
        ...['plot.media', 'stop'],
        'wide is neither the width of a roll in mm nor the name of a paper; correct the paper of the plotter.',
        undefined,
      ],
      [
        ...['plot.fit', 'stop'],
        'A-100 (A1) fits no paper of the plotter; load a wider roll, or leave the page out.',
        's0',
      ],
    ]);
  });
});
