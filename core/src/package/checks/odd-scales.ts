import { formatScale, IMPERIAL_SCALES, isImperial, METRIC_SCALES } from '../../measure/scale';
import { nameOf, forEachPage, viewOn, defineCheck } from '../finding';

/** A view has a scale that no scale rule has. */
export const oddScales = defineCheck(
  {
    'view.odd-scale': ['warning', 'a view at a scale that no scale rule has'],
  },
  forEachPage(({ views }, sheet) =>
    views.map(({ id, scale }) => {
      const near = (one: number): boolean => Math.abs(one / scale - 1) < 1e-4;
      if ([...METRIC_SCALES, ...IMPERIAL_SCALES].some(near)) return undefined;
      const view = sheet.views.find((one) => one.id === id);
      const said = view && isImperial(view.scale) ? 'imperial' : 'metric';
      const sentence = `${viewOn(sheet, id)} on ${nameOf(sheet)} is at ${formatScale(scale, said)}, which is on no scale rule; choose a standard scale.`;
      return { code: 'view.odd-scale', sentence };
    }),
  ),
);
