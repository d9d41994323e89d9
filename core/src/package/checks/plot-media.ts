import { describePaper } from '../../paper/sizes';
import { mediaIn } from '../../plot/media';
import { defineCheck, nameOf, type FoundProblem } from '../finding';
import { plannedPlot, plotPages } from '../plot-papers';

/** Paper that a plotter is said to hold: what cannot be read of it, and pages that fit none of it. */
export const plotMedia = defineCheck(
  {
    'plot.media': ['stop', 'paper of a plotter that is neither the width of a roll nor the name of a sheet'],
    'plot.fit': ['stop', 'a page that fits no paper of a plotter'],
  },
  (input, plan) => {
    const pages = plotPages(input, plan);
    return (input.package.destinations ?? []).flatMap((destination, at): FoundProblem<'plot.media' | 'plot.fit'>[] => {
      if (destination.kind !== 'plotter') return [];
      const place = { path: `destinations.${at}` };
      const unknown = mediaIn(destination.media ?? '', input.project.papers).unknown.map((entry) => ({
        code: 'plot.media' as const,
        sentence: `${entry} is neither the width of a roll in mm nor the name of a paper; correct the paper of the plotter.`,
        place,
      }));
      const misfits = new Set(
        plannedPlot(pages, destination, input.project)?.misfits.map((page) => pages[page]!.sheet),
      );
      const fits = input.sheets.flatMap((sheet) => {
        if (!misfits.has(sheet.id)) return [];
        const { paper } = pages.find((page) => page.sheet === sheet.id)!;
        const sentence = `${nameOf(sheet)} (${describePaper(paper, input.project.papers)}) fits no paper of the plotter; load a wider roll, or leave the page out.`;
        return [{ code: 'plot.fit' as const, sentence, place, about: sheet.id }];
      });
      return [...unknown, ...fits];
    });
  },
);
