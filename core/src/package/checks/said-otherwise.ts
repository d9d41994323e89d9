import { parseScale } from '../../measure/scale';
import { describePaper, namesOf } from '../../paper/sizes';
import { nameOf, ofEachPage, type Check } from './finding';

/** A layout taken over says another paper or scale than it has. */
export const saidOtherwise: Check = ofEachPage(({ paper, viewports, lettering }, sheet) => {
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
          severity: 'warning',
          sentence: `${nameOf(sheet)} says ${lettering.papers.join(', ')} but measures ${describePaper(paper)}; ask which is meant.`,
        }
      : undefined,
    viewports.length > 0 && scales.length > 0 && scales.length === lettering.scales.length
      ? {
          code: 'sheet.scale-said',
          severity: 'warning',
          sentence: `${nameOf(sheet)} says ${scales.join(', ')}, and no viewport of it stands at that; ask which is meant.`,
        }
      : undefined,
  ];
});
