import { describePaper } from '../../paper/sizes';
import { misfitsAmong } from '../../plot/plot-plan';
import { defineCheck, nameOf, type FoundProblem } from '../finding';
import { mediaFor, plotPages } from '../plot-papers';

/** Paper that a plotter is said to hold: what cannot be read of it, and pages that fit none of it. */
export const plotMedia = defineCheck(
  {
    'plot.media': ['stop', 'paper of a plotter that is neither the width of a roll nor the name of a sheet'],
    'plot.fit': ['stop', 'a page that fits no paper of a plotter'],
  },
  (input, plan) => {
    const pages = plotPages(input, plan);
    const sizes = pages.map(({ paper }) => paper);
    return (input.package.destinations ?? []).flatMap((destination, at): FoundProblem<'plot.media' | 'plot.fit'>[] => {
      if (destination.kind !== 'plotter') return [];
      const place = { path: `destinations.${at}` };
      const { media, unknown } = mediaFor(destination, input.project.papers, input.plotters?.[at]);
      const wrong = unknown.map((entry) => ({
        code: 'plot.media' as const,
        sentence: `${entry} is neither the width of a roll in mm nor the name of a paper; correct the paper of the plotter.`,
        place,
      }));
      // Where none is known, the plotter is asked when the run is sent.
      const misfits = media.length > 0 ? misfitsAmong(sizes, media).map((page) => pages[page]!) : [];
      const fits = input.sheets.flatMap((sheet) => {
        const paper = misfits.find((page) => page.sheet === sheet.id)?.paper;
        if (!paper) return [];
        const sentence = `${nameOf(sheet)} (${describePaper(paper, input.project.papers)}) fits no paper of the plotter; load a wider roll, or leave the page out.`;
        return [{ code: 'plot.fit' as const, sentence, place, about: sheet.id }];
      });
      return [...wrong, ...fits];
    });
  },
);
