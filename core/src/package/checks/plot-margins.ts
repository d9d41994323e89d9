import { withinMargin } from '../../page/outside';
import { defineCheck, nameOf, type FoundProblem } from '../finding';
import { plotPages } from '../plot-papers';

/** What lies so near the edge of a page that the plotter it is sent to cannot print it. */
export const plotMargins = defineCheck(
  {
    'plot.margin': ['warning', 'something nearer to the edge of a page than the plotter it is sent to can print'],
  },
  (input, plan) => {
    const pages = plotPages(input, plan);
    return (input.package.destinations ?? []).flatMap((destination, at): FoundProblem<'plot.margin'>[] => {
      if (destination.kind !== 'plotter') return [];
      const margin = destination.marginMm ?? input.plotters?.[at]?.marginMm ?? 0;
      return input.sheets.flatMap((sheet) => {
        const short = pages.map(({ sheet: id, ink, paper }) =>
          id === sheet.id && ink ? withinMargin(ink, paper, margin) : 0,
        );
        const most = Math.max(0, ...short);
        if (most === 0) return [];
        const sentence = `${nameOf(sheet)} has something ${Math.max(0, margin - most).toFixed(1)} mm from its edge, or beyond; the plotter prints nothing nearer than ${margin} mm. Move it, or choose another plotter.`;
        return [{ code: 'plot.margin', sentence, place: { path: `destinations.${at}` }, about: sheet.id }];
      });
    });
  },
);
