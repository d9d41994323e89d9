import { parseScale } from '../../measure/scale';
import { describePaper, namesOf } from '../../paper/sizes';
import { nameOf, forEachPage, defineCheck } from '../finding';

/** A layout taken over says another paper or scale than it has. */
export const contradictedLayouts = defineCheck(
  {
    'sheet.paper-said': ['warning', 'a layout taken over that says another paper than it measures'],
    'sheet.scale-said': ['warning', 'a layout taken over whose text names a scale that none of its viewports has'],
  },
  forEachPage(({ paper, viewports, lettering }, sheet) => {
    if (!sheet.from) return [];
    const named = namesOf(paper).map(({ name }) => name.toUpperCase());
    const scales = lettering.scales.filter((said) => {
      const scale = parseScale(said);
      return scale !== undefined && !viewports.some((one) => Math.abs(one.scale / scale - 1) < 1e-3);
    });
    return [
      lettering.papers.length > 0 && !lettering.papers.some((said) => named.includes(said))
        ? {
            code: 'sheet.paper-said',
            sentence: `${nameOf(sheet)} says ${lettering.papers.join(', ')} but measures ${describePaper(paper)}; ask which one is right.`,
          }
        : undefined,
      viewports.length > 0 && scales.length > 0 && scales.length === lettering.scales.length
        ? {
            code: 'sheet.scale-said',
            sentence: `${nameOf(sheet)} says ${scales.join(', ')}, but none of its viewports has that scale; ask which one is right.`,
          }
        : undefined,
    ];
  }),
);
